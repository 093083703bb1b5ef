/** Polylines as flat x,y pairs, and lines through points. */
import type { Vec } from '../../kernel/numbers'

/** Distance from (x, y) to a polyline. */
export function distanceToPolyline(points: readonly number[], closed: boolean, x: number, y: number): number {
  let best = Infinity
  const n = points.length
  for (let i = 0; i < n; i += 2) {
    if (i + 2 >= n && !closed && n > 2) break
    const j = (i + 2) % n
    const dx = points[j]! - points[i]!
    const dy = points[j + 1]! - points[i + 1]!
    const t = Math.min(1, Math.max(0, ((x - points[i]!) * dx + (y - points[i + 1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
    best = Math.min(best, Math.hypot(x - points[i]! - t * dx, y - points[i + 1]! - t * dy))
  }
  return best
}

/** Whether (x, y) lies within closed polylines, taken together by a fill rule. */
export function isWithin(lines: readonly (readonly number[])[], x: number, y: number, rule: 'nonzero' | 'evenodd'): boolean {
  let winding = 0
  let crossings = 0
  for (const points of lines) {
    const n = points.length
    for (let i = 0; i < n; i += 2) {
      const y0 = points[i + 1]!
      const y1 = points[(i + 3) % n]!
      if (y0 > y === y1 > y) continue
      const x0 = points[i]!
      const x1 = points[(i + 2) % n]!
      if (x0 + ((y - y0) / (y1 - y0)) * (x1 - x0) <= x) continue
      crossings++
      winding += y1 > y0 ? 1 : -1
    }
  }
  return rule === 'evenodd' ? crossings % 2 === 1 : winding !== 0
}

/** Area inside of a closed polyline, px², by the shoelace formula. */
export function areaInside(points: readonly number[]): number {
  const n = points.length
  let sum = 0
  for (let i = 0; i < n; i += 2) sum += points[i]! * points[(i + 3) % n]! - points[(i + 2) % n]! * points[i + 1]!
  return Math.abs(sum / 2)
}

/** Length of a line through points. */
export const lineLength = (line: readonly Vec[]): number =>
  line.slice(1).reduce((sum, p, i) => sum + Math.hypot(p.x - line[i]!.x, p.y - line[i]!.y), 0)

/** The spot at a share of the length of a line, 0 to 1. */
export function alongLine(line: readonly Vec[], share: number): Vec {
  let left = share * lineLength(line)
  for (const [i, to] of line.slice(1).entries()) {
    const from = line[i]!
    const length = Math.hypot(to.x - from.x, to.y - from.y)
    if (left <= length || i === line.length - 2) {
      const t = length === 0 ? 0 : Math.min(1, left / length)
      return { x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) }
    }
    left -= length
  }
  return line[0]!
}

/** Spots at even shares of a line. */
export const evenly = (line: readonly Vec[], count: number): Vec[] =>
  Array.from({ length: count }, (_, k) => alongLine(line, k / (count - 1)))

/** Joints of a chain of bones along a line, evenly from its beginning to its end. */
export const jointsAlong = (line: readonly Vec[], bones: number): Vec[] =>
  evenly(line, bones + 1).map(({ x, y }) => ({ x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 }))

/** Points along a closed polyline at most a step apart, its own among them. */
export function dense(points: readonly number[], step: number): number[] {
  const out: number[] = []
  for (let i = 0, n = points.length; i < n; i += 2) {
    const [x, y, dx, dy] = [points[i]!, points[i + 1]!, points[(i + 2) % n]! - points[i]!, points[(i + 3) % n]! - points[i + 1]!]
    const parts = Math.max(1, Math.ceil(Math.hypot(dx, dy) / step))
    for (let k = 0; k < parts; k++) out.push(x + (dx * k) / parts, y + (dy * k) / parts)
  }
  return out
}

/** The least distance of points of closed polylines from others. */
export function gapBetween(a: readonly (readonly number[])[], b: readonly (readonly number[])[]): number {
  let least = Infinity
  for (const rim of a)
    for (let i = 0; i < rim.length; i += 2)
      for (const other of b) least = Math.min(least, distanceToPolyline(other, true, rim[i]!, rim[i + 1]!))
  return least
}
