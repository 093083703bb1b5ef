/** What moves by itself made into keys: what was seen of it in a clip is written down, and it keeps still there. */
import { boneChannel, type BoneField } from '../bones/channels'
import { newLayer } from '../clips/new'
import { weightChannel } from '../clips/layers'
import { baseOf, clipOf } from '../clips/lookup'
import type { Clip } from '../clips/records'
import { thinnedKeys } from '../clips/thin'
import { addLayer } from '../clips/commands'
import { setKeys } from '../clips/keyCommands'
import { edit, type Edit } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { nth, sure } from '../kernel/sure'
import type { Frame } from '../puppet/frame'
import type { Puppet } from '../puppet/schema'
import { bonesInClip } from './moments'

export interface BakeOptions {
  readonly clip: string
  /** Id of the layer that gets the keys. */
  readonly layer: string
  /** The stretch, seconds; all of the clip where it is left out. */
  readonly from?: number
  readonly to?: number
  /** How far the keys may be from what moved, degrees and px; lengths and amounts by a sixtieth of it. */
  readonly tolerance: number
}

/** A channel that is baked, and what is seen of it in a frame. */
export interface Baked {
  readonly channel: string
  /** Tolerance as a share of that for degrees. */
  readonly per: number
  valueIn(frame: Frame): number
}

/** What is seen of a field of a bone. */
export function bakedBone(bone: string, field: BoneField): Baked {
  return {
    channel: boneChannel(bone, field),
    per: field === 'length' ? 1 / 60 : 1,
    valueIn({ rig, skeleton }) {
      const b = sure(rig.bones.index.get(bone))
      if (field === 'x' || field === 'y') return nth(skeleton.shift, 2 * b + (field === 'y' ? 1 : 0))
      return nth(skeleton[field], b)
    },
  }
}

/**
 * Edits after which something plays from keys: an overriding layer that has what was seen of it at each frame, thinned within the tolerance,
 * and keys by which it keeps still meanwhile.
 *
 * @param still address of the amount of what is baked
 */
export function bakedEdits(puppet: Puppet, options: BakeOptions, name: string, still: string, channels: readonly Baked[]): Edit[] {
  const clip = clipOf(puppet, options.clip)
  const [from, to] = [Math.max(0, options.from ?? 0), Math.min(clip.length, options.to ?? clip.length)]
  const first = Math.round(from * clip.rate)
  const count = Math.round(to * clip.rate) - first + 1
  if (count < 2) throw new EditError('There is no frame in this stretch.')
  const times = Array.from({ length: count }, (_, k) => (first + k) / clip.rate)
  const bonesAt = bonesInClip(puppet, clip)
  const frames = times.map((time) => {
    const frame = bonesAt(time)
    return channels.map((baked) => baked.valueIn(frame))
  })
  const layer = newLayer(options.layer, `Baked: ${name}`, 'override')
  channels.forEach(({ channel, per }, k) => {
    const values = frames.map((seen) => nth(seen, k))
    layer.tracks[channel] = { keys: thinnedKeys(times, values, options.tolerance * per), before: 'hold', after: 'hold' }
  })
  return [
    edit(addLayer, { clip: clip.id, layer }),
    edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys: stillKeys(clip, still, options.layer, nth(times, 0), nth(times, -1)) }),
  ]
}

/** Keys by which something keeps still in a stretch, and a layer shows there alone. */
function stillKeys({ length, rate }: Clip, still: string, layer: string, from: number, to: number) {
  const steps: (readonly [number, boolean])[] = []
  if (from > 0) steps.push([0, false])
  steps.push([from, true])
  if (to < length - 0.5 / rate) steps.push([to + 1 / rate, false])
  const keys = (channel: string, on: number, off: number) =>
    steps.map(([time, isBaked]) => ({ channel, time, value: isBaked ? on : off, way: 'stepped' as const }))
  return [...keys(still, 0, 1), ...keys(weightChannel(layer), 1, 0)]
}
