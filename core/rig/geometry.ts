/** Drawings made ready for evaluation: verbs and points in flat arrays, one run for each shape. */
import type { Drawing, Path, Shape } from '../document/schema'
import { forEachSegment } from '../geometry/path'

/** Path verbs as numbers; a renderer maps them to its own. MOVE and LINE take one point, CUBIC three, CLOSE none. */
export const MOVE = 0
export const LINE = 1
export const CUBIC = 2
export const CLOSE = 3

export interface ShapeGeometry {
  readonly shape: Shape
  readonly verbs: Uint8Array
  /** First point of the shape in the drawing's array, and how many follow. */
  readonly first: number
  readonly count: number
}

export interface Geometry {
  readonly shapes: readonly ShapeGeometry[]
  /** [2n] x,y in the part's own space */
  readonly points: Float64Array
}

type Emit = (path: Path, verbs: number[], points: number[]) => void

const rigidCache = new WeakMap<Drawing, Geometry>()

/** Geometry of a drawing that moves as one piece. The same drawing gives the same object. */
export function rigidGeometry(drawing: Drawing): Geometry {
  let geometry = rigidCache.get(drawing)
  if (!geometry) {
    geometry = collect(drawing, emitPlain)
    rigidCache.set(drawing, geometry)
  }
  return geometry
}

/** Geometry of a drawing that bends: segments are split so that none is longer than `longest` px of its own space. */
export const bentGeometry = (drawing: Drawing, longest: number): Geometry => collect(drawing, (p, v, q) => emitSplit(p, longest, v, q))

function collect(drawing: Drawing, emit: Emit): Geometry {
  const points: number[] = []
  const shapes = drawing.shapes.map((shape) => {
    const verbs: number[] = []
    const first = points.length / 2
    for (const path of shape.paths) {
      verbs.push(MOVE)
      points.push(path.anchors[0]!, path.anchors[1]!)
      emit(path, verbs, points)
      if (path.closed) verbs.push(CLOSE)
    }
    return { shape, verbs: Uint8Array.from(verbs), first, count: points.length / 2 - first }
  })
  return { shapes, points: Float64Array.from(points) }
}

const isStraight = (path: Path, i: number): boolean => {
  const j = (i + 1) % path.ids.length
  return path.handles[4 * i + 2] === 0 && path.handles[4 * i + 3] === 0 && path.handles[4 * j] === 0 && path.handles[4 * j + 1] === 0
}

function emitPlain(path: Path, verbs: number[], points: number[]): void {
  forEachSegment(path, (_x0, _y0, x1, y1, x2, y2, x3, y3, i) => {
    if (isStraight(path, i)) {
      verbs.push(LINE)
      points.push(x3, y3)
    } else {
      verbs.push(CUBIC)
      points.push(x1, y1, x2, y2, x3, y3)
    }
  })
}

function emitSplit(path: Path, longest: number, verbs: number[], points: number[]): void {
  forEachSegment(path, (x0, y0, x1, y1, x2, y2, x3, y3, i) => {
    if (isStraight(path, i)) {
      x1 = x0 + (x3 - x0) / 3
      y1 = y0 + (y3 - y0) / 3
      x2 = x3 - (x3 - x0) / 3
      y2 = y3 - (y3 - y0) / 3
    }
    const length = Math.hypot(x1 - x0, y1 - y0) + Math.hypot(x2 - x1, y2 - y1) + Math.hypot(x3 - x2, y3 - y2)
    const pieces = Math.max(1, Math.min(64, Math.ceil(length / longest)))
    for (let k = 0; k < pieces; k++) {
      verbs.push(CUBIC)
      subCurve([x0, y0, x1, y1, x2, y2, x3, y3], k / pieces, (k + 1) / pieces, points)
    }
  })
}

/** Appends the control points 1 to 3 of the part of a cubic between two parameters (blossoming). */
function subCurve(c: readonly number[], t0: number, t1: number, out: number[]): void {
  const blossom = (axis: number, a: number, b: number, d: number): number => {
    const p0 = c[axis]!
    const p1 = c[axis + 2]!
    const p2 = c[axis + 4]!
    const p3 = c[axis + 6]!
    const ua = 1 - a
    const ub = 1 - b
    const ab0 = ub * (ua * p0 + a * p1) + b * (ua * p1 + a * p2)
    const ab1 = ub * (ua * p1 + a * p2) + b * (ua * p2 + a * p3)
    return (1 - d) * ab0 + d * ab1
  }
  for (const [a, b, d] of [
    [t0, t0, t1],
    [t0, t1, t1],
    [t1, t1, t1],
  ] as const) {
    out.push(blossom(0, a, b, d), blossom(1, a, b, d))
  }
}
