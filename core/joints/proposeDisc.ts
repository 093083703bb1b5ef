/** Where two pieces of artwork could be joined, from their outlines alone. */
import type { Vec } from '../kernel/numbers'
import { areaOf, areaTest, combine, type Area } from '../maths/geometry/booleans'
import { polygonPath } from '../maths/geometry/path'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { jointRadius, type Rims } from '../maths/geometry/breadth'
import type { Disc } from '../maths/geometry/disc'
import { nth } from '../kernel/sure'

interface Meeting {
  readonly middle: Vec
  /** Half the length over which the pieces meet, px. */
  readonly spread: number
}

/** Radius of a disc that is too small to be seen, px. */
const LEAST_RADIUS = 2

/**
 * A disc at which two pieces could be joined: its middle in what both cover, or half way along where they run beside
 * each other; as wide as the slimmer of them is there.
 *
 * @returns null for a piece without outlines
 */
export function proposeDisc(under: Rims, over: Rims): Disc | null {
  const meeting = overlap(under, over) ?? nearest(under, over)
  if (!meeting) return null
  const { middle, spread } = meeting
  const radius = jointRadius(under, over, middle)
  // Across an open gap the outline runs right through the middle; there the length of the gap tells.
  return { centre: middle, radius: Math.max(LEAST_RADIUS, radius < spread / 3 ? spread : radius) }
}

/** Outlines as an area. */
export const toArea = (rims: Rims): Area => ({ rule: 'nonzero', paths: rims.map(polygonPath) })

const STEPS = 24

/** Centre of gravity of what both cover. */
function overlap(under: Rims, over: Rims): Meeting | null {
  const both: Area = { paths: combine(toArea(under), toArea(over), 'intersect'), rule: 'nonzero' }
  if (both.paths.length === 0 || areaOf(both) < 1) return null
  const isIn = areaTest(both)
  const range = (axis: 0 | 1): readonly [number, number] => {
    const values = both.paths.flatMap((p) => p.anchors.filter((_, i) => i % 2 === axis))
    return [Math.min(...values), Math.max(...values)]
  }
  const [[minX, maxX], [minY, maxY]] = [range(0), range(1)]
  let [sx, sy, n] = [0, 0, 0]
  for (let i = 0.5; i < STEPS; i++)
    for (let j = 0.5; j < STEPS; j++) {
      const [x, y] = [minX + ((maxX - minX) * i) / STEPS, minY + ((maxY - minY) * j) / STEPS]
      if (!isIn(x, y)) continue
      sx += x
      sy += y
      n++
    }
  return n === 0 ? null : { middle: { x: sx / n, y: sy / n }, spread: 0 }
}

/** How much farther apart than the nearest spots two pieces may be and still run beside each other, px. */
const BESIDE = 1.5

/** The middle of where two pieces are nearest: pieces that were cut apart run along each other there. */
function nearest(under: Rims, over: Rims): Meeting | null {
  const spots = under.flatMap((rim) => {
    const out: { d: number; x: number; y: number }[] = []
    for (let i = 0; i < rim.length; i += 2) {
      const [x, y] = [nth(rim, i), nth(rim, i + 1)]
      out.push({ x, y, d: Math.min(...over.map((o) => distanceToPolyline(o, true, x, y))) })
    }
    return out
  })
  const least = Math.min(...spots.map((s) => s.d))
  const near = spots.filter((s) => s.d <= least + BESIDE)
  if (near.length === 0 || !Number.isFinite(least)) return null
  const middleOf = (values: readonly number[]): number => (Math.min(...values) + Math.max(...values)) / 2
  const middle = { x: middleOf(near.map((p) => p.x)), y: middleOf(near.map((p) => p.y)) }
  return { middle, spread: Math.max(...near.map((p) => Math.hypot(p.x - middle.x, p.y - middle.y))) }
}
