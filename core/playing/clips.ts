/** Clips on a puppet: what is seen of one at a time. The same in the browser, on the server and in the shell. */
import { readyClip, clipValues, type ReadyClip } from '../clips/layers'
import type { Clip } from '../clips/records'
import { slotOfChannel } from '../kernel/slots'
import { channelOf } from '../puppet/channels'
import type { Rig } from '../puppet/rig'
import type { Puppet } from '../puppet/schema'
import { EditError } from '../kernel/errors'

const known = new WeakMap<Puppet, Map<string, ReadyClip>>()

/** A clip of a puppet, made ready once for a puppet: every picture asks for it. */
function ready(puppet: Puppet, clip: Clip): ReadyClip {
  const own = known.get(puppet) ?? new Map<string, ReadyClip>()
  known.set(puppet, own)
  const made = own.get(clip.id) ?? readyClip(puppet, clip, { channelOf, slotOf: () => -1 })
  own.set(clip.id, made)
  return made
}

/** What the tracks of a clip say at a time, seconds: values by address. */
export const valuesInClip = (puppet: Puppet, clip: Clip, time: number): Record<string, number> => clipValues(ready(puppet, clip), time)

/** The pose that a clip shows at a time, with what lies over it unkeyed; what is at rest is left out, as in any pose. */
export function poseInClip(puppet: Puppet, clip: Clip, time: number): Record<string, number> {
  const all = { ...valuesInClip(puppet, clip, time), ...clip.loose }
  return Object.fromEntries(Object.entries(all).filter(([address, value]) => value !== channelOf(puppet, address)?.rest))
}

/** A clip made ready for a rig: `writeClip` writes its moments into poses of the rig. */
export const clipForRig = (rig: Rig, clip: Clip): ReadyClip =>
  readyClip(rig.puppet, clip, { channelOf, slotOf: (channel) => slotOfChannel(rig.slots, channel) })

/** The clip that a person means, by its id or its name without regard to case. Throws EditError with what there is. */
export function namedClip(puppet: Puppet, written: string): Clip {
  const byId = puppet.clips.find(({ id }) => id === written)
  const called = puppet.clips.filter(({ name }) => name.toLowerCase() === written.toLowerCase())
  const [only] = called
  if (byId) return byId
  if (only && called.length === 1) return only
  if (called.length > 1) throw new EditError(`${called.length} clips are called "${written}"; use the id of one.`)
  const names = puppet.clips.map(({ name }) => name).join(', ')
  throw new EditError(`No clip is called "${written}"; this puppet has ${names === '' ? 'none' : names}.`)
}
