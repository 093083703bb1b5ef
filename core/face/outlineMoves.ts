/** Changes that move points of a drawing by where they lie on the canvas at rest. */
import type { PartId } from '../kernel/ids'
import type { ChangeOf } from '../responses/records'
import type { Drawing, Path } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import type { Affine, Vec } from '../kernel/numbers'
import { restMatrix } from '../parts/tree'
import { invert } from '../maths/geometry/affine'
import { mapPath } from '../maths/geometry/path'
import { cubicAt, segmentAt, segmentCount } from '../maths/geometry/pathCut'
import { isStraight } from '../artwork/flat/flat'

/** The widest closed path of a drawing, by which it is known; null where it has none. */
export function widestOutline({ shapes }: Drawing): Path | null {
  const wide = (p: Path): number => {
    const xs = p.anchors.filter((_, i) => i % 2 === 0)
    return Math.max(...xs) - Math.min(...xs)
  }
  const closed = shapes.flatMap((s) => s.paths).filter((p) => p.closed && p.ids.length > 1)
  return closed.reduce<Path | null>((best, p) => (best && wide(best) >= wide(p) ? best : p), null)
}

/** Which stretches of a closed path are its lower edge: those of the lower one of its two runs between its corners. */
export function lowerStretches(path: Path): boolean[] {
  const n = path.ids.length
  const x = (i: number): number => path.anchors[2 * (i % n)]!
  let [left, right] = [0, 0]
  for (let i = 0; i < n; i++) {
    if (x(i) < x(left)) left = i
    if (x(i) > x(right)) right = i
  }
  const run = (from: number, to: number): number[] => Array.from({ length: (to - from + n) % n }, (_, k) => (from + k) % n)
  const [there, back] = [run(left, right), run(right, left)]
  const depth = (stretches: readonly number[]): number =>
    stretches.reduce((sum, i) => sum + middleY(path, i), 0) / Math.max(1, stretches.length)
  // A shape that is closed to a line has both runs in one place: then the way back is the lower one.
  const lower = new Set(depth(there) > depth(back) + 1e-6 ? there : back)
  return Array.from({ length: n }, (_, i) => lower.has(i))
}

/** The y half way along a stretch of a path. */
export function middleY({ anchors, handles, ids }: Path, i: number): number {
  const j = (i + 1) % ids.length
  const [a, d] = [anchors[2 * i + 1]!, anchors[2 * j + 1]!]
  return (a + 3 * (a + handles[4 * i + 3]!) + 3 * (d + handles[4 * j + 1]!) + d) / 8
}

/** Control points of a stretch of a path, on the canvas; a straight one has its handles at thirds of the way. */
export type Stretch = readonly [Vec, Vec, Vec, Vec]

/** Where a stretch goes. */
export type StretchMove = (stretch: Stretch, path: Path, i: number) => Stretch

/** The stretches of a path as they lie on the canvas at rest. */
export function stretchesOf(path: Path, map: Affine): Stretch[] {
  const onCanvas = mapPath(path, map)
  return Array.from({ length: segmentCount(path) }, (_, i): Stretch => {
    const c = segmentAt(onCanvas, i)
    const [a, d] = [at(c, 0), at(c, 3)]
    return isStraight(path, i) ? [a, mix(a, d, 1 / 3), mix(a, d, 2 / 3), d] : [a, at(c, 1), at(c, 2), d]
  })
}

const at = (c: readonly number[], k: number): Vec => ({ x: c[2 * k]!, y: c[2 * k + 1]! })
const mix = (a: Vec, b: Vec, share: number): Vec => ({ x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) })
const minus = (a: Vec, b: Vec): Vec => ({ x: a.x - b.x, y: a.y - b.y })

/**
 * A change that moves the points of a drawing as their stretches move. An anchor between two stretches that take it to two places
 * comes between them; handles are each stretch's own. Stretches that are straight at rest bend where their move bends them.
 */
export function movedStretches(puppet: Puppet, part: PartId, drawing: Drawing, move: StretchMove): ChangeOf<'points'> {
  const map = restMatrix(puppet, part)
  const back = invert(map) ?? map
  const ids: number[] = []
  const by: number[] = []
  for (const path of drawing.shapes.flatMap((s) => s.paths)) {
    if (segmentCount(path) === 0) continue
    const steps = stepsOf(path, map, move)
    path.ids.forEach((id, k) => {
      const own = steps[k]!.flatMap(({ x, y }) => [back[0] * x + back[2] * y, back[1] * x + back[3] * y])
      if (own.every((v) => Math.abs(v) < 1e-9)) return
      ids.push(id)
      by.push(...own)
    })
  }
  return { kind: 'points', muted: false, scale: 1, part, drawing: drawing.id, ids, by }
}

/** Steps of each anchor and of its two handles, on the canvas. */
function stepsOf(path: Path, map: Affine, move: StretchMove): [Vec, Vec, Vec][] {
  const was = stretchesOf(path, map)
  const is = was.map((s, i) => move(s, path, i))
  const n = path.ids.length
  const before = (k: number): number => (path.closed ? (k + n - 1) % n : k - 1)
  const anchors = path.ids.map((_, k) => {
    const places = [is[before(k)]?.[3], is[k]?.[0]].filter((p) => p !== undefined)
    return mix(places[0]!, places.at(-1)!, 0.5)
  })
  /** What is added to a handle; of a straight stretch to the third of its way, which goes along with its ends. */
  const handle = (i: number, own: number, other: number, k: 1 | 2): Vec => {
    if (!is[i]) return { x: 0, y: 0 }
    const now = minus(is[i][k], anchors[own]!)
    if (!isStraight(path, i)) return minus(now, minus(was[i]![k], was[i]![k === 1 ? 0 : 3]))
    return minus(now, mix({ x: 0, y: 0 }, minus(anchors[other]!, anchors[own]!), 1 / 3))
  }
  return path.ids.map((_, k) => {
    const rest = was[k]?.[0] ?? was[before(k)]![3]
    return [minus(anchors[k]!, rest), handle(before(k), k, before(k), 2), handle(k, k, (k + 1) % n, 1)]
  })
}

/** The spot half way along a stretch. */
export const middleOf = (stretch: Stretch): Vec =>
  cubicAt(
    stretch.flatMap((p) => [p.x, p.y]),
    0.5,
  )

/** A stretch whose handles are shifted so that its middle lies on a spot. */
export function throughMiddle([a, b, c, d]: Stretch, spot: Vec): Stretch {
  const now = middleOf([a, b, c, d])
  const [x, y] = [(4 / 3) * (spot.x - now.x), (4 / 3) * (spot.y - now.y)]
  return [a, { x: b.x + x, y: b.y + y }, { x: c.x + x, y: c.y + y }, d]
}

/**
 * Moves ends and middle of each stretch as a map of the canvas moves spots. Follows moves that bend more than once along a stretch; where
 * stretches meet they may have a corner.
 */
export const throughSpots =
  (move: (spot: Vec) => readonly [number, number]): StretchMove =>
  (stretch) => {
    const moved = (p: Vec): Vec => {
      const [dx, dy] = move(p)
      return { x: p.x + dx, y: p.y + dy }
    }
    const [a, b, c, d] = stretch
    return throughMiddle([moved(a), moved(b), moved(c), moved(d)], moved(middleOf(stretch)))
  }

/** Step by which the derivative of a move is taken, as a share of a handle. */
const STEP = 1e-3

/**
 * Moves stretches as a smooth map of the canvas does: handles take its derivative at their anchor, so that what is smooth at rest
 * stays so. A handle moved like a spot of its own would not.
 *
 * @param move by how much a spot is moved, px
 */
export const smoothly =
  (move: (spot: Vec, path: Path, i: number, stretch: Stretch) => readonly [number, number]): StretchMove =>
  (stretch, path, i) => {
    const [a, b, c, d] = stretch
    const moved = (p: Vec): Vec => {
      const [dx, dy] = move(p, path, i, stretch)
      return { x: p.x + dx, y: p.y + dy }
    }
    const side = (from: Vec, handle: Vec): Vec => {
      const [start, beside] = [moved(from), moved(mix(from, handle, STEP))]
      return mix(start, beside, 1 / STEP)
    }
    return [moved(a), side(a, b), side(d, c), moved(d)]
  }

/** How far a spot of a stretch moves, canvas px; an anchor belongs to the stretches on both of its sides. */
export type SpotMove = (spot: Vec, path: Path, stretch: number) => readonly [number, number]

/**
 * A change that moves anchors and handles each by where they are. An anchor between two stretches that move differently takes
 * the mean of both, its handles their own; what is straight stays straight.
 */
export const movedPoints = (puppet: Puppet, part: PartId, drawing: Drawing, move: SpotMove): ChangeOf<'points'> =>
  movedStretches(puppet, part, drawing, (stretch, path, i) => {
    const [a, b, c, d] = stretch.map((spot): Vec => {
      const [x, y] = move(spot, path, i)
      return { x: spot.x + x, y: spot.y + y }
    }) as [Vec, Vec, Vec, Vec]
    return isStraight(path, i) ? [a, mix(a, d, 1 / 3), mix(a, d, 2 / 3), d] : [a, b, c, d]
  })
