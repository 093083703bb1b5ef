/** Springs made into keys: what swings in a clip is written down, and the springs keep still there. */
import { boneChannel, type BoneField } from '../bones/channels'
import { newLayer } from '../clips/new'
import { weightChannel } from '../clips/layers'
import { baseOf, clipOf } from '../clips/lookup'
import { thinnedKeys } from '../clips/thin'
import { addLayer } from '../clips/commands'
import { setKeys } from '../clips/keyCommands'
import { edit, type Edit } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { nth, sure } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import { springAmount } from '../springs/channels'
import { springOf } from '../springs/commands'
import { bonesInClip } from './moments'

export interface BakeOptions {
  readonly clip: string
  readonly spring: string
  /** Id of the layer that gets the keys. */
  readonly layer: string
  /** The stretch, seconds; all of the clip where it is left out. */
  readonly from?: number
  readonly to?: number
  /** How far the keys may be from what swung, degrees. */
  readonly tolerance: number
}

/** What of a bone springs change: its turn, and its length where it is drawn out. */
const FIELDS: readonly { readonly field: Extract<BoneField, 'angle' | 'length'>; readonly per: number }[] = [
  { field: 'angle', per: 1 },
  { field: 'length', per: 1 / 60 },
]

/**
 * Edits after which a group of springs plays from keys: an overriding layer that has what swung at each frame, thinned within the tolerance,
 * and keys by which the springs keep still meanwhile.
 */
export function bakeSpringsEdits(puppet: Puppet, options: BakeOptions): Edit[] {
  const clip = clipOf(puppet, options.clip)
  const spring = springOf(puppet, options.spring)
  const [from, to] = [Math.max(0, options.from ?? 0), Math.min(clip.length, options.to ?? clip.length)]
  const first = Math.round(from * clip.rate)
  const count = Math.round(to * clip.rate) - first + 1
  if (count < 2) throw new EditError('There is no frame in this stretch.')
  const times = Array.from({ length: count }, (_, k) => (first + k) / clip.rate)
  const bonesAt = bonesInClip(puppet, clip)
  const frames = times.map((time) => {
    const { rig, skeleton } = bonesAt(time)
    return spring.bones.map((id) => {
      const b = sure(rig.bones.index.get(id))
      return { angle: nth(skeleton.angle, b), length: nth(skeleton.length, b) }
    })
  })
  const layer = newLayer(options.layer, `Baked: ${spring.name}`, 'override')
  spring.bones.forEach((id, k) => {
    for (const { field, per } of FIELDS) {
      if (field === 'length' && spring.stretch === 0) continue
      const values = frames.map((bones) => nth(bones, k)[field])
      layer.tracks[boneChannel(id, field)] = {
        keys: thinnedKeys(times, values, options.tolerance * per),
        ...{ before: 'hold', after: 'hold' },
      }
    }
  })
  return [
    edit(addLayer, { clip: clip.id, layer }),
    edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys: stillKeys(clip, options, nth(times, 0), nth(times, -1)) }),
  ]
}

/** Keys by which springs keep still in a stretch, and the layer shows there alone. */
function stillKeys({ length, rate }: { length: number; rate: number }, { spring, layer }: BakeOptions, from: number, to: number) {
  const steps: (readonly [number, boolean])[] = []
  if (from > 0) steps.push([0, false])
  steps.push([from, true])
  if (to < length - 0.5 / rate) steps.push([to + 1 / rate, false])
  const keys = (channel: string, on: number, off: number) =>
    steps.map(([time, isBaked]) => ({ channel, time, value: isBaked ? on : off, way: 'stepped' as const }))
  return [...keys(springAmount(spring), 0, 1), ...keys(weightChannel(layer), 1, 0)]
}
