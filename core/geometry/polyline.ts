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
