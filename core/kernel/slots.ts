/** Where each channel stands in a pose array: family after family, each thing with its fields in a row. */
import type { Channel } from './channel'

/** A family's stretch of a pose array. */
export interface SlotFamily {
  readonly base: number
  /** Fields of each thing. */
  readonly stride: number
  readonly fields: readonly string[]
  readonly index: ReadonlyMap<string, number>
}

/** Where each channel stands in a pose array. */
export interface Slots {
  readonly families: ReadonlyMap<string, SlotFamily>
  /** Pose in which everything is at rest. */
  readonly rest: Float64Array
  /** What an address means in the puppet that the slots were made for. */
  readonly channelOf: (address: string) => Channel | null
}

/** Slots as the first tables of a rig. */
export interface SlotsRig {
  readonly slots: Slots
  /** Pose in which everything is at rest. */
  readonly restPose: Float64Array
}

/** A family's stretch. Throws where a rig has no place for it: that is a fault of the program. */
export function familyOf({ families }: Slots, family: string): SlotFamily {
  const found = families.get(family)
  if (!found) throw new Error(`A rig has no family "${family}".`)
  return found
}

/** Where the fields of a thing start in a pose array. */
export function slotOf(slots: Slots, family: string, at: number): number {
  const { base, stride } = familyOf(slots, family)
  return base + at * stride
}

/** Which of its family's fields a field is. */
export const fieldAt = (slots: Slots, family: string, field: string): number => familyOf(slots, family).fields.indexOf(field)

/** Where a channel stands; -1 for one that moves nothing, like the view. */
export function slotOfChannel({ families }: Slots, { family, id, field }: Pick<Channel, 'family' | 'id' | 'field'>): number {
  const found = families.get(family)
  const at = found?.index.get(id)
  if (!found || at === undefined) return -1
  const k = found.fields.indexOf(field)
  return k < 0 ? -1 : found.base + at * found.stride + k
}

/** Where the channel of an address stands; -1 where there is none. */
export function slotOfAddress(slots: Slots, address: string): number {
  const [family = '', id = '', field = ''] = address.split('/')
  return slotOfChannel(slots, { family, id, field })
}
