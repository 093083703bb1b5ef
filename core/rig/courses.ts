/** Which way each part's points go to the posed canvas, and what parts that hang on others look at. */
import { attachOrder } from '../document/order'
import type { Affine, Bind, Deformer, Part, Puppet } from '../document/schema'
import { IDENTITY, invert, multiply } from '../geometry/affine'
import type { BoneTable } from './boneTable'
import { fixPoints, isRigid, weigher, type Blend, type Course, type Fixed, type Level } from './course'
import type { Shape, ShapeSlots } from './deform/shape'

/** A deformer with the places of its values. */
export interface RigDeformer {
  readonly source: Deformer
  readonly part: number
  readonly slots: ShapeSlots
}

/** A part that hangs on another: what its spot on that one does says where it goes. */
export interface RigAnchor {
  readonly part: number
  readonly turns: boolean
  readonly course: Course
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
  readonly known: Map<number, Course>
}

/** A part with what it inherits. */
export interface Placed {
  part: Part
  parent: number
  /** The part whose bind applies, and its map to the canvas at rest. */
  holder: { at: number; bind: Bind; rest: Affine } | null
  rest: Affine
}

/** The way of a part's points to the posed canvas. */
export function courseOf(ways: Ways, at: number): Course {
  const known = ways.known.get(at)
  if (known) return known
  const { parts, table, bones, deformers } = ways
  const { holder, rest } = parts[at]!
  const bind = holder?.bind
  const attached = bind?.kind === 'attached' ? bind : null
  const to = attached ? table.index.get(attached.to)! : -1
  const other = attached?.how === 'fused' ? courseOf(ways, to) : null
  const course: Course = {
    part: at,
    rest,
    levels: levelsOf(ways, at),
    blend: bind?.kind === 'blended' ? blendOf(bind, rest, holder!.rest, bones) : null,
    anchor: table.anchor[at]!,
    bone: table.bone[at]!,
    // What goes as one piece carries what is fused with it as one piece.
    fused: other && !isRigid(other) ? { back: invert(parts[to]!.rest) ?? IDENTITY, course: other } : null,
    later: chainUp(parts, at).flatMap((p) =>
      deformers.flatMap(({ source, part }, shape) =>
        part === p && source.when === 'after'
          ? [
              {
                shape,
                bone: source.bone === null ? -1 : bones.index.get(source.bone)!,
                place: parts[p]!.rest,
                back: invert(parts[p]!.rest) ?? IDENTITY,
              },
            ]
          : [],
      ),
    ),
  }
  ways.known.set(at, course)
  return course
}

/** A part and those that it is in, from the inside out. */
function chainUp(parts: readonly Placed[], at: number): number[] {
  const out: number[] = []
  for (let p = at; p >= 0; p = parts[p]!.parent) out.push(p)
  return out
}

/** Deformers before bones on the way from a part up to the canvas; the first level stands at the part itself. */
function levelsOf({ parts, deformers }: Ways, at: number): Level[] {
  const chain = chainUp(parts, at)
  const acting = (p: number): number[] => deformers.flatMap((d, s) => (d.part === p && d.source.when === 'before' ? [s] : []))
  if (chain.every((p) => acting(p).length === 0)) return []
  const out: { shapes: number[]; parts: number[]; rest: Affine }[] = [{ shapes: [], parts: [], rest: IDENTITY }]
  for (const p of chain) {
    const shapes = acting(p)
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
const BESIDE = 1

export function compileAnchors(ways: Ways): RigAnchor[] {
  const { puppet, parts, table } = ways
  return attachOrder(puppet, table.ids).flatMap((id): RigAnchor[] => {
    const part = table.index.get(id)!
    const { part: own, rest } = parts[part]!
    if (own.bind?.kind !== 'attached') return []
    const to = table.index.get(own.bind.to)!
    const course = courseOf(ways, to)
    const x = rest[0] * own.pivot.x + rest[2] * own.pivot.y + rest[4]
    const y = rest[1] * own.pivot.x + rest[3] * own.pivot.y + rest[5]
    const back = invert(parts[to]!.rest) ?? IDENTITY
    const spots = Float64Array.from(
      [x, y, x + BESIDE, y, x, y + BESIDE].map((_, i, all) => {
        const k = i - (i % 2)
        return back[i % 2]! * all[k]! + back[2 + (i % 2)]! * all[k + 1]! + back[4 + (i % 2)]!
      }),
    )
    return [{ part, turns: own.bind.how !== 'pivoting', course, spots, fixed: fixPoints(course, ways.shapes, spots), at: [x, y] }]
  })
}
