/** Drawings made ready for evaluation: verbs and points in flat arrays, one run for each shape. */
import type { Drawing, Path, Shape } from '../records'
import { forEachSegment } from '../../maths/geometry/path'

/** Path verbs as numbers; a renderer maps them to its own. MOVE and LINE take one point, CUBIC three, CLOSE none. */
export const MOVE = 0

/** Verb of a straight stretch: one point follows. */
export const LINE = 1

/** Verb of a cubic stretch: three points follow. */
export const CUBIC = 2

/** Verb that closes an outline: no point follows. */
export const CLOSE = 3

/** One shape of a drawing as verbs, and where its points lie in the drawing's array. */
export interface ShapeGeometry {
  readonly shape: Shape
  readonly verbs: Uint8Array
  /** First point of the shape in the drawing's array, and how many follow. */
  readonly first: number
  readonly count: number
}

/** A drawing as flat arrays. */
export interface Geometry {
  readonly shapes: readonly ShapeGeometry[]
  /** [2n] x,y in the part's own space */
  readonly points: Float64Array
}

const rigidCache = new WeakMap<Drawing, Geometry>()

/** Geometry of a drawing that moves as one piece. The same drawing gives the same object. */
export function rigidGeometry(drawing: Drawing): Geometry {
  let geometry = rigidCache.get(drawing)
  if (!geometry) {
    geometry = collect(drawing)
    rigidCache.set(drawing, geometry)
  }
  return geometry
}

function collect(drawing: Drawing): Geometry {
  const points: number[] = []
  const shapes = drawing.shapes.map((shape) => {
    const verbs: number[] = []
    const first = points.length / 2
    for (const path of shape.paths) {
      verbs.push(MOVE)
      points.push(path.anchors[0]!, path.anchors[1]!)
      emitPath(path, verbs, points)
      if (path.closed) verbs.push(CLOSE)
    }
    return { shape, verbs: Uint8Array.from(verbs), first, count: points.length / 2 - first }
  })
  return { shapes, points: Float64Array.from(points) }
}

/** Whether segment i of a path has no handles. */
export const isStraight = (path: Path, i: number): boolean => {
  const j = (i + 1) % path.ids.length
  return path.handles[4 * i + 2] === 0 && path.handles[4 * i + 3] === 0 && path.handles[4 * j] === 0 && path.handles[4 * j + 1] === 0
}

function emitPath(path: Path, verbs: number[], points: number[]): void {
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
