/** How much of each pixel an area covers. */
import { untangled, type Area } from './booleans'
import { flatten } from './path'

/** Largest distance of the polygon that is covered from the curves, px. */
const TOLERANCE = 0.05
const ROUNDING = 1e-4

/**
 * Exact share of each pixel that an area covers, by accumulating signed areas under edges (after Levien 2016).
 *
 * @param area in pixels of the grid; it may cross itself
 * @returns [width * height] 0 to 1
 */
export function coverageOf(area: Area, width: number, height: number): Float32Array {
  const sums = new Float32Array((width + 2) * height + 2)
  for (const path of untangled(area)) {
    const points = flatten(path, TOLERANCE)
    const n = points.length
    for (let i = 0; i < n; i += 2) edge(sums, width, height, points[i]!, points[i + 1]!, points[(i + 2) % n]!, points[(i + 3) % n]!)
  }
  const out = new Float32Array(width * height)
  for (let y = 0; y < height; y++) {
    let sum = 0
    for (let x = 0; x < width; x++) {
      sum += sums[y * (width + 2) + x]!
      const share = Math.abs(sum)
      // What is left of rounding is nothing, or all.
      out[y * width + x] = share < ROUNDING ? 0 : share > 1 - ROUNDING ? 1 : share
    }
  }
  return out
}

/** Adds what lies to the right of an edge: row by row, the edge clamped to the grid on either side. */
function edge(sums: Float32Array, width: number, height: number, x0: number, y0: number, x1: number, y1: number): void {
  if (y0 === y1) return
  const sign = y0 < y1 ? 1 : -1
  const [ax, ay, bx, by] = y0 < y1 ? [x0, y0, x1, y1] : [x1, y1, x0, y0]
  const slope = (bx - ax) / (by - ay)
  const last = Math.min(height, Math.ceil(by))
  for (let y = Math.max(0, Math.floor(ay)); y < last; y++) {
    const top = Math.max(y, ay)
    const bottom = Math.min(y + 1, by)
    const high = bottom - top
    if (high <= 0) continue
    const from = ax + (top - ay) * slope
    const to = ax + (bottom - ay) * slope
    span(sums, y * (width + 2), width, Math.min(from, to), Math.max(from, to), sign * high)
  }
}

/**
 * One row of an edge that runs from `left` to `right` while it descends by `high`. What lies to its right is covered:
 * the running sum along the row becomes 0 before the edge, `high` after it, and the exact area in between.
 */
function span(sums: Float32Array, row: number, width: number, left: number, right: number, high: number): void {
  if (left >= width) return
  const breadth = right - left
  if (right <= 0 || breadth < 1e-9) {
    const x = Math.max(0, (left + right) / 2)
    const first = Math.floor(x)
    sums[row + first]! += high * (first + 1 - x)
    sums[row + first + 1]! += high * (x - first)
    return
  }
  const each = high / breadth
  let passed = Math.max(0, -left) * each
  let before = 0
  const end = Math.min(width, right)
  let x = Math.floor(Math.max(0, left))
  for (; x < end; x++) {
    const a = Math.max(left, x)
    const b = Math.min(right, x + 1)
    const here = passed + (b - a) * each * (x + 1 - (a + b) / 2)
    sums[row + x]! += here - before
    before = here
    passed += (b - a) * each
  }
  sums[row + x]! += passed - before
}
