/** Which way each part's points go to the posed canvas, and what parts that hang on others look at. */
import type { Affine } from '../kernel/numbers'
import type { Deformer } from '../deformers/records'
import type { Puppet } from '../puppet/schema'
import { apply, IDENTITY, invert, multiply } from '../maths/geometry/affine'
import type { BoneTable } from '../bones/table'
import { fixPoints, isRigid, mapped, weigher, type Blend, type DeformChain, type Fixed, type Later, type Level } from './deformChain'
import type { Shape, ShapeSlots } from '../deformers/shape'
import type { Bind } from '../binds/records'
import { attachOrder } from '../binds/order'
import type { Placed } from './parts'

/** A deformer with the places of its values. */
export interface RigDeformer {
  readonly source: Deformer
  readonly part: number
  readonly slots: ShapeSlots
}

/** A part that hangs on another: what its spot on that one does says where it goes. */
export interface RigAnchor {
  readonly part: number
  readonly how: Extract<Bind, { kind: 'attached' }>['how']
  readonly chain: DeformChain
  /** [6] the spot and two beside it, in the space of the part that it hangs on, and fixed there. */
  readonly spots: Float64Array
  readonly fixed: Fixed
  /** [2] the spot on the canvas at rest */
  readonly at: readonly [number, number]
}

/** What of the table of parts says who hangs on whom. */
interface Attached {
  readonly ids: readonly string[]
  readonly index: ReadonlyMap<string, number>
  readonly bone: Int32Array
  readonly anchor: Int32Array
}

/** What courses are made from. */
export interface Ways {
  readonly puppet: Puppet
  readonly parts: readonly Placed[]
  readonly table: Attached
  readonly bones: BoneTable
  readonly deformers: readonly RigDeformer[]
  /** Shapes to fix points with; those of frames are their own. */
  readonly shapes: readonly Shape[]
  readonly known: Map<number, DeformChain>
}

/** The way of a part's points to the posed canvas. */
export function deformChainOf(ways: Ways, at: number): DeformChain {
  const known = ways.known.get(at)
  if (known) return known
  const { parts, table, bones } = ways
  const chain = chainUp(parts, at)
  const { holder, rest } = parts[at]!
  const bind = holder?.bind
  const attached = bind?.kind === 'attached' ? bind : null
  const to = attached ? table.index.get(attached.to)! : -1
  const other = attached?.how === 'fused' ? deformChainOf(ways, to) : null
  const deformChain: DeformChain = {
    part: at,
    rest,
    levels: levelsOf(ways, at, chain),
    blend: bind?.kind === 'blended' ? blendOf(bind, rest, holder!.rest, bones) : null,
    anchor: table.anchor[at]!,
    bone: table.bone[at]!,
    // What goes as one piece carries what is fused with it as one piece.
    fused: other && !isRigid(other) ? { back: invert(parts[to]!.rest) ?? IDENTITY, deformChain: other } : null,
    later: chain.flatMap((p) => stackOf(ways, p, 'after', chain).map((shape) => laterOf(ways, shape))),
  }
  ways.known.set(at, deformChain)
  return deformChain
}

/**
 * Numbers of the deformers of a part that act before bones, or after them, on what lies at the end of a chain.
 *
 * @param chain from a part up
 */
function stackOf({ deformers, parts }: Ways, at: number, when: Deformer['when'], chain: readonly number[]): number[] {
  // What a deformer does to its own part is what its handles show.
  const actsOn = ({ only }: Deformer): boolean => only === null || chain[0] === at || chain.some((p) => only.includes(parts[p]!.part.id))
  return deformers.flatMap(({ source, part }, shape) => (part === at && source.when === when && actsOn(source) ? [shape] : []))
}

function laterOf({ parts, bones, deformers }: Ways, shape: number): Later {
  const { source, part } = deformers[shape]!
  const place = parts[part]!.rest
  return { shape, bone: source.bone === null ? -1 : bones.index.get(source.bone)!, place, back: invert(place) ?? IDENTITY }
}

/** A part and those that it is in and that carry it, from the inside out. */
function chainUp(parts: readonly Placed[], at: number): number[] {
  const out: number[] = []
  for (let p = at; p >= 0; p = parts[p]!.carrier) out.push(p)
  return out
}

/** Deformers before bones on the way from a part up to the canvas; the first level stands at the part itself. */
function levelsOf(ways: Ways, at: number, chain: readonly number[]): Level[] {
  const { parts } = ways
  if (chain.every((p) => stackOf(ways, p, 'before', chain).length === 0)) return []
  const out: { shapes: number[]; parts: number[]; rest: Affine }[] = [{ shapes: [], parts: [], rest: IDENTITY }]
  for (const p of chain) {
    const shapes = stackOf(ways, p, 'before', chain)
    if (shapes.length > 0 && p !== at) {
      const back = invert(parts[p]!.rest) ?? IDENTITY
      out.push({ shapes, parts: [], rest: multiply(back, parts[at]!.rest) })
    } else if (p === at) out[0]!.shapes.push(...shapes)
    out.at(-1)!.parts.push(p)
  }
  return out.map((level) => ({ ...level, parts: Int32Array.from(level.parts) }))
}

const blendOf = (bind: Extract<Bind, { kind: 'blended' }>, rest: Affine, holder: Affine, bones: BoneTable): Blend => ({
  mode: bind.mode,
  bones: Int32Array.from(bind.bones, (b) => bones.index.get(b)!),
  weigh: weigher(rest, holder, bind),
})

/** How far beside its spot an anchor looks for the turn there, px. */
export const BESIDE = 1

/** The attached parts, those that others are attached to first. */
export function compileAnchors(ways: Ways): RigAnchor[] {
  const { puppet, parts, table } = ways
  return attachOrder(puppet, table.ids).flatMap((id): RigAnchor[] => {
    const part = table.index.get(id)!
    const { part: own, rest } = parts[part]!
    if (own.bind?.kind !== 'attached') return []
    const to = table.index.get(own.bind.to)!
    const deformChain = deformChainOf(ways, to)
    const { x, y } = apply(rest, own.pivot)
    const spots = mapped(invert(parts[to]!.rest) ?? IDENTITY, Float64Array.of(x, y, x + BESIDE, y, x, y + BESIDE))
    return [{ part, how: own.bind.how, chain: deformChain, spots, fixed: fixPoints(deformChain, ways.shapes, spots), at: [x, y] }]
  })
}
