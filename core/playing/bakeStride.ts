/** Strides made into keys. */
import { movedBones } from '../constraints/records'
import { channelAddress } from '../kernel/channel'
import type { Edit } from '../kernel/command'
import { slotOfAddress } from '../kernel/slots'
import { nth } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import { strideAmount } from '../strides/channels'
import { strideOf } from '../strides/commands'
import { bakedBone, bakedEdits, type Baked, type BakeOptions } from './bake'

/** What a value of a channel is in a frame, once all has answered. */
const bakedValue = (channel: string): Baked => ({
  ...{ channel, per: 1 / 60 },
  valueIn: ({ rig, values }) => nth(values, slotOfAddress(rig.slots, channel)),
})

/** Edits after which a stride plays from keys: of all bones that it moves, and of what would move its legs otherwise. */
export function bakeStrideEdits(puppet: Puppet, options: BakeOptions & { readonly stride: string }): Edit[] {
  const { name, legs, swings, hips, chest, head } = strideOf(puppet, options.stride)
  const walking = legs.flatMap(({ bones, foot, toe }) => [...bones, ...[foot, toe].filter((id) => id !== null)])
  const turned = new Set([
    ...walking,
    ...swings.flatMap(({ bones }) => bones),
    ...[hips, chest, head].filter((id) => id !== null),
    ...puppet.skeleton,
  ])
  const single = legs.flatMap(({ bones }) => (bones.length === 1 ? bones : []))
  const held = puppet.constraints.filter((c) => movedBones(c).some((bone) => walking.includes(bone)))
  return bakedEdits(puppet, options, name, strideAmount(options.stride), [
    ...[...turned].map((bone) => bakedBone(bone, 'angle')),
    ...puppet.skeleton.flatMap((bone) => [bakedBone(bone, 'x'), bakedBone(bone, 'y')]),
    ...single.map((bone) => bakedBone(bone, 'length')),
    ...held.map(({ id }) => bakedValue(channelAddress('constraint', id, 'amount'))),
  ])
}
