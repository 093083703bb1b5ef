/**
 * Drawings that are one thing to the eye: lips and their line, a sleeve and its shade. Where points of both coincide at rest, what is
 * recorded of one is recorded of the other.
 */
import type { Drawing } from '../artwork/records'
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import type { ChangeOf } from '../responses/records'
import { apply, invert, multiply } from '../maths/geometry/affine'
import type { Affine } from '../kernel/numbers'
import { drawingOf, drawnParts, restMatrix } from '../parts/tree'
import { pointsOf, type DrawnPoint } from '../touch/posedPaths'

/** Distance on the canvas within which points coincide, px. */
const SAME = 0.5
/** Share of the points of the smaller drawing that have to coincide, and how many at least. */
const MOST = 0.8
const FEWEST = 2

/** A point with the one of another drawing that lies in its place; `swapped` where its path runs the other way. */
interface Pair {
  readonly id: number
  readonly other: number
  readonly swapped: boolean
}

/** A drawing that goes along with another. */
export interface Companion {
  readonly part: PartId
  readonly drawing: Drawing
  readonly pairs: readonly Pair[]
  /** Takes steps in the space of the one to the space of the other. */
  readonly map: Affine
}

/** Companions by part, as long as parts and drawings stay: a drag asks on every move of the pointer. */
const known = new WeakMap<Puppet['parts'], { readonly drawings: Puppet['drawings']; readonly of: Map<PartId, readonly Companion[]> }>()

/** The drawings that go along with that of a part. */
export function companionsOf(puppet: Puppet, part: PartId): readonly Companion[] {
  let kept = known.get(puppet.parts)
  if (kept?.drawings !== puppet.drawings) known.set(puppet.parts, (kept = { drawings: puppet.drawings, of: new Map() }))
  const found = kept.of.get(part) ?? foundCompanions(puppet, part)
  kept.of.set(part, found)
  return found
}

function foundCompanions(puppet: Puppet, part: PartId): Companion[] {
  const own = puppet.parts[part] && drawingOf(puppet, puppet.parts[part])
  if (!own) return []
  const space = restMatrix(puppet, part)
  return drawnParts(puppet, puppet.root).flatMap((p): Companion[] => {
    const drawing = p.id === part || p.content.kind !== 'drawing' ? null : drawingOf(puppet, p)
    const back = drawing && invert(restMatrix(puppet, p.id))
    if (!drawing || !back) return []
    const map = multiply(back, space)
    const pairs = pairsOf(pointsOf(own), pointsOf(drawing), map)
    const fewer = Math.min(pointsOf(own).size, pointsOf(drawing).size)
    return pairs.length >= Math.max(FEWEST, MOST * fewer) ? [{ part: p.id, drawing, pairs, map }] : []
  })
}

function pairsOf(own: ReadonlyMap<number, DrawnPoint>, others: ReadonlyMap<number, DrawnPoint>, map: Affine): Pair[] {
  const free = new Map(others)
  return [...own].flatMap(([id, point]): Pair[] => {
    const { x, y } = apply(map, point)
    let best: Pair | null = null
    let least = Infinity
    for (const [other, q] of free) {
      if (Math.hypot(q.x - x, q.y - y) > SAME) continue
      // Of points that lie on each other, as on the two lips of a closed mouth, the one whose handles lie alike is meant.
      const [alike, swapped] = [handlesOff(point, q, map, false), handlesOff(point, q, map, true)]
      if (Math.min(alike, swapped) >= least) continue
      least = Math.min(alike, swapped)
      best = { id, other, swapped: swapped < alike }
    }
    if (best) free.delete(best.other)
    return best ? [best] : []
  })
}

/** How far apart the handles of two points are, px. */
function handlesOff({ handles }: DrawnPoint, other: DrawnPoint, map: Affine, swapped: boolean): number {
  const mapped = [...stepOf(map, handles[0]!, handles[1]!), ...stepOf(map, handles[2]!, handles[3]!)]
  const order = swapped ? [2, 3, 0, 1] : [0, 1, 2, 3]
  return order.reduce((sum, k, n) => sum + Math.abs(other.handles[k]! - mapped[n]!), 0)
}

const stepOf = (m: Affine, x: number, y: number): [number, number] => [m[0] * x + m[2] * y, m[1] * x + m[3] * y]

/**
 * What is recorded of a companion when moves of points were recorded; null where nothing of it is.
 *
 * @param was the moves as they were before, and `is` as they are now
 * @param known what is recorded of the companion so far
 */
export function recordedTogether(
  { part, drawing, pairs, map }: Companion,
  was: ChangeOf<'points'> | null,
  is: ChangeOf<'points'> | null,
  known: ChangeOf<'points'> | null,
): ChangeOf<'points'> | null {
  const [before, now] = [movesOf(was), movesOf(is)]
  const moves = movesOf(known)
  for (const { id, other, swapped } of pairs) {
    const [a, b] = [before.get(id), now.get(id)]
    if (String(a ?? NONE) === String(b ?? NONE)) continue
    const [x, y, inX, inY, outX, outY] = b ?? NONE
    const [into, out] = [stepOf(map, inX!, inY!), stepOf(map, outX!, outY!)]
    moves.set(other, [...stepOf(map, x!, y!), ...(swapped ? [...out, ...into] : [...into, ...out])])
  }
  const kept = [...moves].filter(([, by]) => by.some((v) => v !== 0))
  if (kept.length === 0 && !known) return null
  const rest = known ?? { kind: 'points' as const, muted: false, scale: 1, part, drawing: drawing.id }
  const widths = new Map(known?.widths ? known.ids.map((id, k) => [id, known.widths![k]!]) : [])
  return {
    ...rest,
    ids: kept.map(([id]) => id),
    by: kept.flatMap(([, by]) => by),
    ...(known?.widths && { widths: kept.map(([id]) => widths.get(id) ?? 0) }),
  }
}

const NONE: readonly number[] = [0, 0, 0, 0, 0, 0]

const movesOf = (change: ChangeOf<'points'> | null): Map<number, readonly number[]> =>
  new Map(change?.ids.map((id, k) => [id, change.by.slice(6 * k, 6 * k + 6)]))
