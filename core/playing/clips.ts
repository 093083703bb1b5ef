/** Clips on a puppet: what is seen of one at a time. The same in the browser, on the server and in the shell. */
import { readyClip, clipValues, type ReadyClip } from '../clips/layers'
import type { Clip } from '../clips/records'
import type { Channel } from '../kernel/channel'
import { slotOfChannel } from '../kernel/slots'
import { channelOf } from '../puppet/channels'
import type { Rig } from '../puppet/rig'
import type { Puppet } from '../puppet/schema'
import { EditError } from '../kernel/errors'
import { isSameBut } from '../puppet/touched'
import { viewChannel } from '../views/channels'

interface Known {
  readonly puppet: Puppet
  readonly step: number
  readonly rate: number
  readonly ready: ReadyClip
}

/** By the layers of clips: what lies unkeyed over a clip, or is posed meanwhile, changes none of them. */
const known = new WeakMap<Clip['layers'], Known>()

/** Channels that were looked up last. Posing and keying change none but those of clips themselves. */
let lookedUp: { readonly puppet: Puppet; readonly channels: Map<string, Channel | null> } | null = null

/** What an address means in a puppet; asked again and again while keys are dragged. */
function knownChannel(puppet: Puppet, address: string): Channel | null {
  if (address.startsWith('layer/')) return channelOf(puppet, address)
  if (!lookedUp || (lookedUp.puppet !== puppet && !isSameBut(lookedUp.puppet, puppet, 'pose', 'clips')))
    lookedUp = { puppet, channels: new Map() }
  else if (lookedUp.puppet !== puppet) lookedUp = { puppet, channels: lookedUp.channels }
  const { channels } = lookedUp
  const known = channels.get(address)
  if (known !== undefined) return known
  const found = channelOf(puppet, address)
  channels.set(address, found)
  return found
}

/** A clip of a puppet, made ready once: every picture asks for it. */
function ready(puppet: Puppet, clip: Clip): ReadyClip {
  const { layers, step, rate } = clip
  const last = known.get(layers)
  if (last?.step === step && last.rate === rate && isSameBut(last.puppet, puppet, 'pose', 'clips')) return last.ready
  const made = readyClip(puppet, clip, { channelOf: knownChannel, slotOf: () => -1 })
  known.set(layers, { puppet, step, rate, ready: made })
  return made
}

/** What the tracks of a clip say at a time, seconds: values by address. */
export const valuesInClip = (puppet: Puppet, clip: Clip, time: number): Record<string, number> => clipValues(ready(puppet, clip), time)

/** A pose of values by address: what is at rest is left out of it, as of any pose. */
const poseOf = (puppet: Puppet, values: Readonly<Record<string, number>>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).filter(([address, value]) => value !== knownChannel(puppet, address)?.rest))

/** The pose that the keys of a clip make at a time. */
export const keyedPose = (puppet: Puppet, clip: Clip, time: number): Record<string, number> =>
  poseOf(puppet, { ...shown(puppet), ...valuesInClip(puppet, clip, time) })

/** The pose that a clip shows at a time, with what lies over it unkeyed. */
export const poseInClip = (puppet: Puppet, clip: Clip, time: number): Record<string, number> =>
  poseOf(puppet, { ...shown(puppet), ...valuesInClip(puppet, clip, time), ...clip.loose })

/** The view that a puppet is seen in where a clip says nothing of it. */
function shown(puppet: Puppet): Record<string, number> {
  const channel = viewChannel(puppet)
  const view = puppet.pose[channel]
  return view === undefined ? {} : { [channel]: view }
}

const ofRigs = new WeakMap<Rig, WeakMap<Clip, ReadyClip>>()

/** A clip made ready for a rig, once for both: `writeClip` writes its moments into poses of the rig. */
export function clipForRig(rig: Rig, clip: Clip): ReadyClip {
  const own = ofRigs.get(rig) ?? new WeakMap<Clip, ReadyClip>()
  ofRigs.set(rig, own)
  const made = own.get(clip) ?? readyClip(rig.puppet, clip, { channelOf, slotOf: (channel) => slotOfChannel(rig.slots, channel) })
  own.set(clip, made)
  return made
}

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
