/** Where each channel stands in a pose array: family after family, each thing with its fields in a row. */
import {
  constraintRest,
  deformerRest,
  fieldsOf,
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
  }
  const rest: number[] = []
  const families = {} as Record<PosedFamily, Family>
  for (const family of POSED_FAMILIES) {
    const index = new Map(ids[family].map((id, i) => [id, i]))
    families[family] = { base: rest.length, stride: fieldsOf(family).length, index }
    const usual = restsOf(family)
    for (let i = 0; i < ids[family].length; i++) rest.push(...usual)
  }
  const write = (family: PosedFamily, at: number, values: readonly number[]): void => {
    const { base, stride } = families[family]
    values.forEach((v, k) => (rest[base + at * stride + k] = v))
  }
  puppet.constraints.forEach((c, at) =>
    write(
      'constraint',
      at,
      fieldsOf('constraint').map((f) => constraintRest(c, f)),
    ),
  )
  ;[...deformers.values()].forEach((d, at) =>
    write(
      'deformer',
      at,
      fieldsOf('deformer').map((f) => deformerRest(d, f)),
    ),
  )
  return { families, rest: Float64Array.from(rest) }
}

const isPosed = (family: string): family is PosedFamily => (POSED_FAMILIES as readonly string[]).includes(family)

/** Where a channel stands; -1 for one that moves nothing, like the view. */
export function slotOfChannel(slots: Slots, { family, id, field }: Channel): number {
  if (!isPosed(family)) return -1
  const at = slots.families[family].index.get(id)
  return at === undefined ? -1 : slotOf(slots, family, at) + fieldsOf(family).indexOf(field)
}
