/** Cubic paths: walking their segments, mapping, splitting and flattening. */
import type { Affine } from '../../kernel/numbers'
import type { Path } from '../../artwork/records'

/** Called with a cubic stretch: start, two handles and end, px. */
export type SegmentVisitor = (
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  x3: number,
  y3: number,
  index: number,
) => void

/** Visits each cubic segment with absolute control points; closed paths end at their first anchor. */
export function forEachSegment(path: Path, visit: SegmentVisitor): void {
  const { anchors, handles, closed } = path
  const n = path.ids.length
  const segments = closed ? n : n - 1
  for (let i = 0; i < segments; i++) {
    const j = (i + 1) % n
    const x0 = anchors[2 * i]!
    const y0 = anchors[2 * i + 1]!
    const x3 = anchors[2 * j]!
    const y3 = anchors[2 * j + 1]!
    const x1 = x0 + handles[4 * i + 2]!
    const y1 = y0 + handles[4 * i + 3]!
    const x2 = x3 + handles[4 * j]!
    const y2 = y3 + handles[4 * j + 1]!
    visit(x0, y0, x1, y1, x2, y2, x3, y3, i)
  }
}

/** A closed polygon as a path. `points` are flat x,y pairs. */
export const polygonPath = (points: readonly number[]): Path => ({
  closed: true,
  ids: Array.from({ length: points.length / 2 }, (_, i) => i),
  anchors: [...points],
  handles: new Array<number>(2 * points.length).fill(0),
})

/** The path under an affine map; anchors keep their ids. */
export function mapPath(path: Path, m: Affine): Path {
  const anchors = path.anchors.slice()
  for (let i = 0; i < anchors.length; i += 2) {
    const x = anchors[i]!
    const y = anchors[i + 1]!
    anchors[i] = m[0] * x + m[2] * y + m[4]
    anchors[i + 1] = m[1] * x + m[3] * y + m[5]
  }
  const handles = path.handles.slice()
  for (let i = 0; i < handles.length; i += 2) {
    const x = handles[i]!
    const y = handles[i + 1]!
    handles[i] = m[0] * x + m[2] * y
    handles[i + 1] = m[1] * x + m[3] * y
  }
  return { ...path, anchors, handles }
}

/**
 * Appends the points of a cubic after its start, so that no chord strays from it by more than `tolerance` px.
 *
 * Uniform steps, their number from the bound on the second differences of the control polygon (Wang 1984):
 * n = sqrt(6 m / (8 tolerance)) with m the largest second difference of a cubic.
 */
export function flattenCubic(
  out: number[],
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  x3: number,
  y3: number,
  tolerance: number,
): void {
  const d1 = Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2)
  const d2 = Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3)
  const isStraight = x1 === x0 && y1 === y0 && x2 === x3 && y2 === y3
  const steps = isStraight ? 1 : Math.max(1, Math.min(256, Math.ceil(Math.sqrt((6 * Math.max(d1, d2)) / (8 * tolerance)))))
  for (let k = 1; k <= steps; k++) {
    const t = k / steps
    const u = 1 - t
    const a = u * u * u
    const b = 3 * u * u * t
    const c = 3 * u * t * t
    const d = t * t * t
    out.push(a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3)
  }
}

/** Points of a path as flat x,y pairs, true to `tolerance` px; the first point of a closed path is not repeated. */
export function flatten(path: Path, tolerance: number): number[] {
  const out: number[] = [path.anchors[0]!, path.anchors[1]!]
  forEachSegment(path, (x0, y0, x1, y1, x2, y2, x3, y3) => flattenCubic(out, x0, y0, x1, y1, x2, y2, x3, y3, tolerance))
  const last = out.length - 2
  if (path.closed && last > 0 && out[last] === out[0] && out[last + 1] === out[1]) out.length = last
  return out
}
