/**
 * Where the points of a drawing stand among the points that are painted: each anchor with its handles, and the pieces that its
 * segments were split into. Moving an anchor or a handle moves the points of all pieces of its segments, in a fixed way.
 */
import type { ChangeOf } from '../responses/records'
import type { Drawing, Path } from '../artwork/records'
import { segmentCount } from '../maths/geometry/pathCut'
import { CLOSE, CUBIC, isStraight, MOVE, type Geometry, type ShapeGeometry } from '../artwork/flat/flat'

/** A stretch of a path, and its points in the drawing's array. */
export interface LaidSegment {
  /** Places of its ends in the ids of the path. */
  readonly from: number
  readonly to: number
  /** Whether it has no handles: as a curve it has them at thirds of the way, which go along with its ends. */
  readonly straight: boolean
  /** Shares of the way at which it is split, 0 and 1 included. */
  readonly splits: readonly number[]
  /** Its first control point; those of all pieces follow, three for each piece. */
  readonly at: number
}

/** A path, and its points in the drawing's array. */
export interface LaidPath {
  readonly shape: number
  readonly ids: readonly number[]
  /** Number of its first point. */
  readonly at: number
  readonly segments: readonly LaidSegment[]
}

/** Where the points of each path stand in a drawing's array. */
export type Layout = readonly LaidPath[]

/** The layout of a drawing whose segments are all curves, split or whole. */
export function layoutOf(drawing: Drawing, splitsOf: (segment: number) => readonly number[] = () => WHOLE): Layout {
  let at = 0
  let number = 0
  return drawing.shapes.flatMap((shape) =>
    shape.paths.map((path): LaidPath => {
      const first = at++
      const segments = Array.from({ length: segmentCount(path) }, (_, i): LaidSegment => {
        const splits = splitsOf(number++)
        const segment = { from: i, to: (i + 1) % path.ids.length, straight: isStraight(path, i), splits, at }
        at += 3 * (splits.length - 1)
        return segment
      })
      return { shape: shape.id, ids: path.ids, at: first, segments }
    }),
  )
}

const WHOLE = [0, 1]

/** Geometry of a drawing that moves as one piece, with each of its segments as a curve. */
export function curvedGeometry(drawing: Drawing): Geometry {
  const points: number[] = []
  const shapes = drawing.shapes.map((shape): ShapeGeometry => {
    const first = points.length / 2
    const verbs: number[] = []
    for (const path of shape.paths) {
      verbs.push(MOVE)
      points.push(path.anchors[0]!, path.anchors[1]!)
      for (let i = 0; i < segmentCount(path); i++) {
        verbs.push(CUBIC)
        points.push(...controlsOf(path, i))
      }
      if (path.closed) verbs.push(CLOSE)
    }
    return { shape, verbs: Uint8Array.from(verbs), first, count: points.length / 2 - first }
  })
  return { shapes, points: Float64Array.from(points) }
}

/** Handles and end of a segment as a curve. */
function controlsOf(path: Path, i: number): number[] {
  const { anchors: a, handles: h } = path
  const j = (i + 1) % path.ids.length
  const [x0, y0, x3, y3] = [a[2 * i]!, a[2 * i + 1]!, a[2 * j]!, a[2 * j + 1]!]
  if (isStraight(path, i)) return [x0 + (x3 - x0) / 3, y0 + (y3 - y0) / 3, x3 - (x3 - x0) / 3, y3 - (y3 - y0) / 3, x3, y3]
  return [x0 + h[4 * i + 2]!, y0 + h[4 * i + 3]!, x3 + h[4 * j]!, y3 + h[4 * j + 1]!, x3, y3]
}

const NONE = [0, 0, 0, 0, 0, 0]

/**
 * What a change of points does to painted points.
 *
 * @param into receives the number of each moved point with its shift
 */
export function shiftPoints(
  layout: Layout,
  { ids, by }: Pick<ChangeOf<'points'>, 'ids' | 'by'>,
  into: (point: number, x: number, y: number) => void,
): void {
  const moves = new Map(ids.map((id, k) => [id, by.slice(6 * k, 6 * k + 6)]))
  for (const path of layout) {
    const moveOf = (k: number): readonly number[] => moves.get(path.ids[k]!) ?? NONE
    if (!path.ids.some((id) => moves.has(id))) continue
    const first = moveOf(0)
    into(path.at, first[0]!, first[1]!)
    for (const segment of path.segments) shiftSegment(segment, moveOf(segment.from), moveOf(segment.to), into)
  }
}

function shiftSegment(
  { straight, splits, at }: LaidSegment,
  from: readonly number[],
  to: readonly number[],
  into: (point: number, x: number, y: number) => void,
): void {
  if (from === NONE && to === NONE) return
  const controls = [0, 1].map((axis) => {
    const [a, b] = [from[axis]!, to[axis]!]
    const third = straight ? (b - a) / 3 : 0
    return [a, a + third + from[4 + axis]!, b - third + to[2 + axis]!, b] as const
  }) as [Cubic, Cubic]
  for (let k = 1; k < splits.length; k++) {
    const [s, t] = [splits[k - 1]!, splits[k]!]
    const [x, y] = controls.map((c) => piece(c, s, t)) as unknown as [number[], number[]]
    for (let p = 0; p < 3; p++) into(at + 3 * (k - 1) + p, x[p]!, y[p]!)
  }
}

type Cubic = readonly [number, number, number, number]

/** The second, third and fourth control value of the stretch of a cubic from s to t. */
function piece(c: Cubic, s: number, t: number): [number, number, number] {
  const third = (t - s) / 3
  return [value(c, s) + third * slope(c, s), value(c, t) - third * slope(c, t), value(c, t)]
}

const value = ([a, b, c, d]: Cubic, t: number): number => {
  const u = 1 - t
  return u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d
}
const slope = ([a, b, c, d]: Cubic, t: number): number => {
  const u = 1 - t
  return 3 * (u * u * (b - a) + 2 * u * t * (c - b) + t * t * (d - c))
}

/** An anchor with its handles among painted points. */
export interface LaidPoint {
  readonly id: number
  readonly anchor: number
  /** Control points beside it with the share of the handle that they show, and the other end of that segment; null at an end. */
  readonly out: LaidSide | null
  readonly in: LaidSide | null
}

/** One side of an anchor: its handle, and the anchor on the other end of the stretch. */
export interface LaidSide {
  readonly control: number
  readonly share: number
  readonly straight: boolean
  readonly other: number
}

/** All anchors of a layout with their handles. */
export function laidPoints(layout: Layout): LaidPoint[] {
  return layout.flatMap((path) => {
    // The last point of the segment before, or the first of the path.
    const anchorAt = (k: number): number => {
      const before = path.segments.find((s) => s.to === k && s.from < k)
      return before ? before.at + 3 * (before.splits.length - 1) - 1 : path.at
    }
    return path.ids.map((id, k): LaidPoint => {
      const [after, before] = [path.segments.find((s) => s.from === k), path.segments.find((s) => s.to === k)]
      return {
        id,
        anchor: anchorAt(k),
        out: after ? { control: after.at, share: after.splits[1]!, straight: after.straight, other: anchorAt(after.to) } : null,
        in: before
          ? {
              control: before.at + 3 * (before.splits.length - 1) - 2,
              share: 1 - before.splits.at(-2)!,
              straight: before.straight,
              other: anchorAt(before.from),
            }
          : null,
      }
    })
  })
}
