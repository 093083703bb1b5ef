/** The largest circle in a region: the spot farthest from its outline. */
import type { MultiPolygon } from './polygons'
import type { Vec } from '../../kernel/numbers'
import { emptyBounds, include } from './bounds'

/** A circle in px. */
export interface Circle {
  readonly centre: Vec
  readonly radius: number
}

interface Cell {
  readonly x: number
  readonly y: number
  readonly half: number
  /** Distance of the middle from the outline, positive inside. */
  readonly distance: number
  /** The most that any spot in the cell could have. */
  readonly most: number
}

/**
 * Finds the centre by halving squares, the most promising first (Garcia-Castellanos and Lombardo 2007 search the same
 * spot; the branch and bound over squares follows Agafonkin 2016).
 *
 * @param precision px; the radius is the largest one up to this
 * @returns null for an empty region
 */
export function largestCircle(region: MultiPolygon, precision = 0.25): Circle | null {
  const box = emptyBounds()
  for (const [x, y] of region.flat(2)) include(box, x, y)
  const { minX, minY, maxX, maxY } = box
  const side = Math.min(maxX - minX, maxY - minY)
  if (!(side > 0)) return null
  const cellAt = (x: number, y: number, half: number): Cell => {
    const distance = signedDistance(region, x, y)
    return { x, y, half, distance, most: distance + half * Math.SQRT2 }
  }
  let open: Cell[] = []
  for (let x = minX; x < maxX; x += side) for (let y = minY; y < maxY; y += side) open.push(cellAt(x + side / 2, y + side / 2, side / 2))
  let best = open.reduce((a, b) => (b.distance > a.distance ? b : a))
  while (open.length > 0) {
    const next: Cell[] = []
    for (const cell of open) {
      if (cell.distance > best.distance) best = cell
      if (cell.most - best.distance <= precision) continue
      const half = cell.half / 2
      for (const [dx, dy] of QUARTERS) next.push(cellAt(cell.x + dx * half, cell.y + dy * half, half))
    }
    open = next
  }
  return best.distance > 0 ? { centre: { x: best.x, y: best.y }, radius: best.distance } : null
}

const QUARTERS = [
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
] as const

/** Distance of a spot from the outline of a region; negative outside (even-odd). */
export function signedDistance(region: MultiPolygon, x: number, y: number): number {
  let odd = false
  let best = Infinity
  for (const rings of region)
    for (const ring of rings)
      for (let i = 0; i + 1 < ring.length; i++) {
        const [x0, y0] = ring[i]!
        const [x1, y1] = ring[i + 1]!
        if (y0 > y !== y1 > y && x < x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) odd = !odd
        const dx = x1 - x0
        const dy = y1 - y0
        const t = Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
        best = Math.min(best, (x - x0 - t * dx) ** 2 + (y - y0 - t * dy) ** 2)
      }
  return (odd ? 1 : -1) * Math.sqrt(best)
}
