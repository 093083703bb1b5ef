/** Parts as typed arrays, with what they inherit from those that they are in. */
import type { PartId } from '../kernel/ids'
import type { Puppet, Part } from '../puppet/schema'
import { IDENTITY, multiply, placementMatrix } from '../maths/geometry/affine'
import type { BoneTable } from '../bones/table'
import { familyOf, type Slots } from '../kernel/slots'
import type { Affine } from '../kernel/numbers'
import type { Bind } from '../binds/records'

/** All parts of a puppet in painting order. */
export interface PartTable {
  readonly ids: readonly PartId[]
  readonly index: ReadonlyMap<PartId, number>
  /** [p] index of the parent, -1 for the root; parents come first */
  readonly parent: Int32Array
  /** [p] index of the part that carries it when that is moved: its parent, or -1 for scenery, which stands still */
  readonly carrier: Int32Array
  /** [6p] map of the home alone, to the canvas for what nothing carries */
  readonly home: Float64Array
  /** [6p] to the canvas at rest */
  readonly rest: Float64Array
  /** [2p] */
  readonly pivot: Float64Array
  /** [p] the bone that carries the part whole, or -1 */
  readonly bone: Int32Array
  /** [p] the part whose attached bind carries this one, or -1 */
  readonly anchor: Int32Array
  /** Where the fields of the first part start in a pose array, and how many each has. */
  readonly slots: { readonly base: number; readonly stride: number }
}

/** All parts in painting order with what they inherit. */
export function collectParts(puppet: Puppet): Placed[] {
  const out: Placed[] = []
  const scenery = new Set(puppet.stage.scenery.map((s) => s.part))
  const stack = [{ id: puppet.root, parent: -1 }]
  while (stack.length > 0) {
    const { id, parent } = stack.pop()!
    const part = puppet.parts[id]!
    const above = out[parent]
    const home = placementMatrix(part.home, part.pivot)
    const rest = multiply(above?.rest ?? IDENTITY, home)
    const stands = scenery.has(id)
    // Nothing in scenery hangs on bones, whatever it hung on before.
    const isStill = stands || (above?.isStill ?? false)
    const holder = isStill ? null : part.bind ? { at: out.length, bind: part.bind, rest } : (above?.holder ?? null)
    const at = out.push({ part, parent, carrier: stands ? -1 : parent, isStill, holder, home: stands ? rest : home, rest }) - 1
    for (let i = part.children.length - 1; i >= 0; i--) stack.push({ id: part.children[i]!, parent: at })
  }
  return out
}

/** The table of parts that are collected. */
export function compileParts(parts: readonly Placed[], bones: BoneTable, slots: Slots): PartTable {
  return {
    ids: parts.map((p) => p.part.id),
    index: new Map(parts.map((p, i) => [p.part.id, i])),
    parent: Int32Array.from(parts, (p) => p.parent),
    carrier: Int32Array.from(parts, (p) => p.carrier),
    home: Float64Array.from(parts.flatMap((p) => p.home)),
    rest: Float64Array.from(parts.flatMap((p) => p.rest)),
    pivot: Float64Array.from(parts.flatMap((p) => [p.part.pivot.x, p.part.pivot.y])),
    bone: Int32Array.from(parts, ({ holder }) => (holder?.bind.kind === 'whole' ? bones.index.get(holder.bind.bone)! : -1)),
    slots: familyOf(slots, 'part'),
    anchor: Int32Array.from(parts, ({ holder }) => (holder?.bind.kind === 'attached' ? holder.at : -1)),
  }
}

/** A part with what it inherits. */
export interface Placed {
  part: Part
  parent: number
  /** The part that carries it; -1 where none does. */
  carrier: number
  /** Whether it is scenery, or in some. */
  isStill: boolean
  /** Its place in the space of the part that carries it. */
  home: Affine
  /** The part whose bind applies, and its map to the canvas at rest. */
  holder: { at: number; bind: Bind; rest: Affine } | null
  rest: Affine
}
