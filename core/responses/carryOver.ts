/**
 * Recorded moves of points when the drawing is edited later. Points that stay keep theirs; a point that was added takes what
 * the outline does where it was put; points that are gone take theirs along.
 */
import type { ChangeOf } from './records'
import type { Drawing, Path } from '../artwork/records'
import { isStraight } from '../artwork/flat/flat'
import { cubicAt, cubicBetween, segmentAt, segmentCount } from '../maths/geometry/pathCut'
import { smoothstep } from '../maths/solve/smoothstep'

/** A spot of an outline: a segment of a path, and the share of the way along it. */
interface Spot {
  readonly path: Path
  readonly segment: number
  readonly share: number
}

/** Ids of all points of a drawing. */
export const pointIds = ({ shapes }: Pick<Drawing, 'shapes'>): Set<number> => new Set(shapes.flatMap((s) => s.paths.flatMap((p) => p.ids)))

const NONE: readonly number[] = [0, 0, 0, 0, 0, 0]

type Moves = ReadonlyMap<number, readonly number[]>

/**
 * A change of points for the drawing as it is after an edit; null where nothing is left of it.
 *
 * @param by whether points are told by their ids, or, in a drawing made anew, by where they lie
 */
export function carriedOver(
  change: ChangeOf<'points'>,
  before: Drawing,
  after: Drawing,
  by: 'ids' | 'places' = 'ids',
): ChangeOf<'points'> | null {
  const moves: Moves = new Map(change.ids.map((id, k) => [id, change.by.slice(6 * k, 6 * k + 6)]))
  const widths = new Map(change.ids.map((id, k) => [id, change.widths?.[k] ?? 0]))
  const old = by === 'ids' ? pointIds(before) : new Set<number>()
  const places = by === 'ids' ? placesIn(before) : new Map<number, Spot>()
  const out = new Map<number, { by: readonly number[]; width: number }>()
  for (const path of after.shapes.flatMap((s) => s.paths)) {
    const spots = path.ids.map((id, i) => places.get(id) ?? nearestSpot(before, path.anchors[2 * i]!, path.anchors[2 * i + 1]!))
    path.ids.forEach((id, i) => {
      const moved = old.has(id) && !isBesideNew(path, i, old) ? (moves.get(id) ?? NONE) : movesAt(spots, i, path, moves)
      const width = old.has(id) ? (widths.get(id) ?? 0) : between(spots[i], (k) => widths.get(k) ?? 0)
      if (moved.some((v) => v !== 0) || width !== 0) out.set(id, { by: moved, width })
    })
  }
  if (out.size === 0) return null
  const { widths: _, ...rest } = change
  const made = { ...rest, drawing: after.id, ids: [...out.keys()], by: [...out.values()].flatMap((o) => o.by) }
  return change.widths ? { ...made, widths: [...out.values()].map((o) => o.width) } : made
}

/** Whether a point has a neighbour that was not there before: then its own handle was cut, too. */
function isBesideNew({ ids, closed }: Path, i: number, old: ReadonlySet<number>): boolean {
  const n = ids.length
  return [i - 1, i + 1].some((k) => (closed || (k >= 0 && k < n)) && !old.has(ids[(k + n) % n]!))
}

/** Where each point of a drawing lies on its outline: at the beginning of a segment, or the end of the last. */
function placesIn({ shapes }: Drawing): Map<number, Spot> {
  const out = new Map<number, Spot>()
  for (const path of shapes.flatMap((s) => s.paths)) {
    const count = segmentCount(path)
    if (count === 0) continue
    path.ids.forEach((id, i) => out.set(id, i < count ? { path, segment: i, share: 0 } : { path, segment: count - 1, share: 1 }))
  }
  return out
}

const STEPS = 24

/** The spot of an outline that is nearest to (x, y); undefined where there is none. */
function nearestSpot({ shapes }: Drawing, x: number, y: number): Spot | undefined {
  let best: Spot | undefined
  let least = Infinity
  const farFrom = (path: Path, segment: number, share: number): number => {
    const at = cubicAt(segmentAt(path, segment), share)
    return Math.hypot(at.x - x, at.y - y)
  }
  for (const path of shapes.flatMap((s) => s.paths))
    for (let segment = 0; segment < segmentCount(path); segment++)
      for (let k = 0; k <= STEPS; k++) {
        const far = farFrom(path, segment, k / STEPS)
        if (far >= least) continue
        least = far
        best = { path, segment, share: k / STEPS }
      }
  if (!best) return undefined
  let { share } = best
  for (let step = 0.5 / STEPS; step > 1e-9; step /= 2)
    for (const next of [share - step, share + step]) {
      if (next < 0 || next > 1) continue
      const far = farFrom(best.path, best.segment, next)
      if (far < least) {
        least = far
        share = next
      }
    }
  return { ...best, share }
}

/** A value between those at the ends of a spot's segment. */
function between(spot: Spot | undefined, valueOf: (id: number) => number): number {
  if (!spot) return 0
  const { path, segment, share } = spot
  const [a, b] = [path.ids[segment]!, path.ids[(segment + 1) % path.ids.length]!].map(valueOf) as [number, number]
  return a + (b - a) * share
}

/**
 * What the moves of a segment's ends do to its four control points, along x and y: [8] as a cubic. A straight one has its handles at
 * thirds of the way between them, which go along with its ends.
 */
function movedCubic({ path, segment }: Spot, moves: Moves): number[] {
  const a = moves.get(path.ids[segment]!) ?? NONE
  const b = moves.get(path.ids[(segment + 1) % path.ids.length]!) ?? NONE
  const along = isStraight(path, segment) ? [(b[0]! - a[0]!) / 3, (b[1]! - a[1]!) / 3] : [0, 0]
  const out = [a[0]! + along[0]! + a[4]!, a[1]! + along[1]! + a[5]!]
  const into = [b[0]! - along[0]! + b[2]!, b[1]! - along[1]! + b[3]!]
  return [a[0]!, a[1]!, ...out, ...into, b[0]!, b[1]!]
}

/** Where a share of a segment lies on its moved cubic: a straight segment is walked from a stand to a stand, its cubic evenly. */
const walked = ({ path, segment }: Spot, share: number): number => (isStraight(path, segment) ? smoothstep(share) : share)

/** Moves of point i of a path whose points lie on spots of the outline before. */
function movesAt(spots: readonly (Spot | undefined)[], i: number, path: Path, moves: Moves): readonly number[] {
  const here = spots[i]
  if (!here) return NONE
  const anchor = cubicAt(movedCubic(here, moves), walked(here, here.share))
  const n = spots.length
  const [before, after] = [i - 1, i + 1].map((k) => (path.closed || (k >= 0 && k < n) ? (k + n) % n : -1)) as [number, number]
  return [
    ...[anchor.x, anchor.y],
    ...handleTowards(spots, path, i, before, false, moves),
    ...handleTowards(spots, path, i, after, true, moves),
  ]
}

/** What the handle of point i towards a neighbour is moved by: that of the stretch between both, where they lie on one segment. */
function handleTowards(
  spots: readonly (Spot | undefined)[],
  path: Path,
  i: number,
  neighbour: number,
  isAfter: boolean,
  moves: Moves,
): readonly [number, number] {
  const [here, other] = [spots[i], spots[neighbour]]
  const stretch = here && other && (isAfter ? sharedStretch(here, other) : sharedStretch(other, here))
  if (!stretch) return [0, 0]
  const { on, from, to } = stretch
  const piece: readonly number[] = cubicBetween(movedCubic(on, moves) as never, walked(on, from), walked(on, to))
  const [x, y] = isAfter ? [piece[2]! - piece[0]!, piece[3]! - piece[1]!] : [piece[4]! - piece[6]!, piece[5]! - piece[7]!]
  if (!isStraight(path, isAfter ? i : neighbour)) return [x, y]
  // What stays straight has its handles at thirds of its way, and is told by how far they are from there.
  const sign = isAfter ? 1 : -1
  return [x - (sign * (piece[6]! - piece[0]!)) / 3, y - (sign * (piece[7]! - piece[1]!)) / 3]
}

/** The segment on which one spot follows another, with the shares of both. */
function sharedStretch(a: Spot, b: Spot): { on: Spot; from: number; to: number } | null {
  if (a.path !== b.path) return null
  if (a.segment === b.segment && a.share < b.share) return { on: a, from: a.share, to: b.share }
  const next = (a.segment + 1) % segmentCount(a.path)
  return b.share === 0 && b.segment === next && a.share < 1 ? { on: a, from: a.share, to: 1 } : null
}
