/**
 * Which drawing of one alternate morphs into which of another: as it was corrected by hand; else those of one role or name, the likest
 * of several first; else those that lie alike and are of like size.
 */
import type { PartId } from '../kernel/ids'
import type { Affine } from '../kernel/numbers'
import type { Match } from './records'
import { inverse, type Correction } from './outlines'
import type { RigDrawing } from '../placement/drawing'

/** A drawing in an alternate, and what it is known by there. */
export interface Piece {
  readonly drawing: number
  readonly part: PartId
  readonly name: string
  /** From its own space to the canvas at rest. */
  readonly home: Affine
  /** Its middle at rest and the longer side of its box, canvas px. */
  readonly x: number
  readonly y: number
  readonly size: number
}

/** A piece, what it morphs into, and what a person has said about the two. */
export interface Pair {
  readonly a: Piece
  /** Null where it morphs into nothing. */
  readonly b: Piece | null
  readonly correction: Correction | null
}

/** What is left of `b` has no partner either. */
export function pairsOf(from: readonly Piece[], to: readonly Piece[], matches: readonly Match[], drawings: readonly RigDrawing[]): Pair[] {
  const out: Pair[] = []
  const left = new Set(from)
  const free = new Set(to)
  const join = (a: Piece, b: Piece | null, correction: Correction | null): void => {
    out.push({ a, b, correction })
    left.delete(a)
    if (b) free.delete(b)
  }
  for (const { a, b, turn, runsBack } of matches) {
    const own = [...left].find((p) => p.part === a)
    const other = [...free].find((p) => p.part === b)
    if (own && (b === null || other)) join(own, other ?? null, other ? { turn, runsBack } : null)
    const [back, forth] = [[...left].find((p) => p.part === b), [...free].find((p) => p.part === a)]
    if (back && forth) join(back, forth, inverse({ turn, runsBack }))
    // What was said to morph into nothing comes from nothing as well.
    if (b === null && forth) free.delete(forth)
  }
  const joinAll = (fits: (a: Piece, b: Piece) => boolean): void => {
    const all = [...left].flatMap((a) => [...free].filter((b) => fits(a, b)).map((b) => ({ a, b, unlike: unlikeness(a, b) })))
    for (const { a, b } of all.sort((p, q) => p.unlike - q.unlike)) if (left.has(a) && free.has(b)) join(a, b, null)
  }
  joinAll((a, b) => a.name === b.name)
  joinAll((a, b) => unlikeness(a, b) < LIKE && isOfAKind(drawings[a.drawing]!, drawings[b.drawing]!))
  for (const a of left) out.push({ a, b: null, correction: null })
  return out.sort((p, q) => p.a.drawing - q.a.drawing)
}

/** Beyond this two of other names have nothing to do with each other. */
const LIKE = 0.9

/** How far apart two lie, in their size, and by how much one is larger. */
function unlikeness(a: Piece, b: Piece): number {
  const size = Math.max(1e-6, (a.size + b.size) / 2)
  return Math.hypot(a.x - b.x, a.y - b.y) / size + Math.abs(Math.log(Math.max(1e-6, a.size) / Math.max(1e-6, b.size)))
}

const isOfAKind = (a: RigDrawing, b: RigDrawing): boolean =>
  (a.picture === null) === (b.picture === null) && (a.picture !== null || a.geometry.shapes.length === b.geometry.shapes.length)
