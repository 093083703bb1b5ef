/** What of bones can be posed. */
import { channelAddress, filed, MOVED, type ChannelFamily } from '../kernel/channel'
import { counterpart } from '../kernel/sides'
import type { Bone } from './records'
import { bonesInOrder } from './tree'

const FIELDS = {
  angle: { kind: 'angle', rest: 0, label: 'Angle', unit: '°' },
  ...MOVED,
  length: { kind: 'scale', rest: 1, label: 'Length', unit: '' },
} as const

/** What of a bone can be posed. */
export type BoneField = keyof typeof FIELDS

/** Channels of bones: shifts in px, angles in degrees, lengths as factors. */
export const boneChannels: ChannelFamily<Bone> = {
  family: 'bone',
  fields: FIELDS,
  moves: true,
  records: (puppet) => bonesInOrder(puppet),
  find: ({ bones }, id) => filed(bones, id),
  other: (puppet, id) => counterpart(Object.values(puppet.bones), id),
  turns: (_, __, field) => field === 'angle' || field === 'x',
  own: ({ limits, lengths }, field) => (field === 'angle' ? limits : field === 'length' ? lengths : {}),
}

const FIELD_NAMES = Object.keys(FIELDS) as readonly BoneField[]

/** Address of a channel of a bone. */
export const boneChannel = (id: string, field: BoneField): string => channelAddress('bone', id, field)

/** Every address of a bone. */
export const bonesAddresses = (id: string): string[] => FIELD_NAMES.map((field) => boneChannel(id, field))

/** Where the fields of a bone start in a pose array: bones come first. */
export const boneSlot = (bone: number): number => bone * FIELD_NAMES.length
