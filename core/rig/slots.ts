/** Where each channel stands in a pose array: family after family, each thing with its fields in a row. */
import {
  constraintRest,
  controlRest,
  deformerRest,
  fieldsOf,
  partRest,
  POSED_FAMILIES,
  restsOf,
  stackedIn,
  type Channel,
  type PosedFamily,
} from '../document/channels'
import type { BoneId, PartId } from '../document/ids'
import type { Puppet } from '../document/schema'

interface Family {
  readonly base: number
  readonly stride: number
  readonly index: ReadonlyMap<string, number>
}

export interface Slots {
  readonly families: Readonly<Record<PosedFamily, Family>>
  /** Pose in which everything is at rest. */
  readonly rest: Float64Array
}

/** Fields of each bone, the first family. */
const BONE_STRIDE = fieldsOf('bone').length

/** Where the fields of a bone start in a pose array. */
export const boneSlot = (bone: number): number => bone * BONE_STRIDE

/** Where the fields of a thing start in a pose array. */
export const slotOf = ({ families }: Slots, family: PosedFamily, at: number): number => families[family].base + at * families[family].stride

export function makeSlots(puppet: Puppet, bones: readonly BoneId[], parts: readonly PartId[]): Slots {
  const { deformers, handles } = stackedIn(puppet)
  const ids: Record<PosedFamily, readonly string[]> = {
    bone: bones,
    part: parts,
    target: Object.keys(puppet.targets),
    constraint: puppet.constraints.map((c) => c.id),
    deformer: [...deformers.keys()],
    handle: [...handles.keys()],
    control: puppet.controls.map((c) => c.id),
  }
  const rest: number[] = []
  const families = {} as Record<PosedFamily, Family>
  for (const family of POSED_FAMILIES) {
    const index = new Map(ids[family].map((id, i) => [id, i]))
    families[family] = { base: rest.length, stride: fieldsOf(family).length, index }
    const usual = restsOf(family)
    for (let i = 0; i < ids[family].length; i++) rest.push(...usual)
  }
  const fill = <T>(family: PosedFamily, records: Iterable<T>, restOf: (record: T, field: string) => number | undefined): void => {
    const { base, stride } = families[family]
    let at = base
    for (const record of records) {
      fieldsOf(family).forEach((field, k) => {
        const own = restOf(record, field)
        if (own !== undefined) rest[at + k] = own
      })
      at += stride
    }
  }
  fill('constraint', puppet.constraints, constraintRest)
  fill('deformer', deformers.values(), deformerRest)
  fill(
    'part',
    parts.map((id) => puppet.parts[id]!),
    partRest,
  )
  fill('control', puppet.controls, controlRest)
  return { families, rest: Float64Array.from(rest) }
}

const isPosed = (family: string): family is PosedFamily => (POSED_FAMILIES as readonly string[]).includes(family)

/** Where a channel stands; -1 for one that moves nothing, like the view. */
export function slotOfChannel(slots: Slots, { family, id, field }: Channel): number {
  if (!isPosed(family)) return -1
  const at = slots.families[family].index.get(id)
  return at === undefined ? -1 : slotOf(slots, family, at) + fieldsOf(family).indexOf(field)
}

/** Where the channel of an address stands; -1 where there is none. */
export function slotOfAddress(slots: Slots, address: string): number {
  const [family = '', id = '', field = ''] = address.split('/')
  if (!isPosed(family)) return -1
  const at = slots.families[family].index.get(id)
  const k = fieldsOf(family).indexOf(field)
  return at === undefined || k < 0 ? -1 : slotOf(slots, family, at) + k
}
