/** Polylines as flat x,y pairs. */

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
