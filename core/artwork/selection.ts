/** Areas that are selected for cutting: built from gestures, combined, grown and shrunk. */
import { oddPolygons, subtractPolygons, unitePolygons, type MultiPolygon, type Polygon } from '../maths/geometry/polygons'
import { areaOf, combine, untangled, type Area } from '../maths/geometry/booleans'
import { flatten, polygonPath } from '../maths/geometry/path'
import { snap } from './region'

/** What a newly drawn area does to the one that was selected. */
export type SelectionMode = 'new' | 'add' | 'subtract' | 'intersect'

const OPERATIONS = { add: 'unite', subtract: 'subtract', intersect: 'intersect' } as const

/**
 * Combines a selection with a new loop, which may cross itself: what it winds around counts.
 *
 * @param loop flat x,y pairs of a closed polygon
 * @returns null where nothing is left
 */
export function selectLoop(before: Area | null, loop: readonly number[], mode: SelectionMode): Area | null {
  const drawn: Area = { paths: [polygonPath(loop)], rule: 'nonzero' }
  return combineSelection(before, drawn, mode)
}

/** What is selected after an area was drawn; null where nothing is. */
export function combineSelection(before: Area | null, drawn: Area, mode: SelectionMode): Area | null {
  const from = mode === 'new' ? null : before
  if (!from && (mode === 'subtract' || mode === 'intersect')) return null
  const paths = from && mode !== 'new' ? combine(from, drawn, OPERATIONS[mode]) : untangled(drawn)
  const area: Area = { paths, rule: 'nonzero' }
  return paths.length > 0 && areaOf(area) > 0.01 ? area : null
}

/** Sides of the polygon that stands for a circle. */
const SIDES = 16
const TOLERANCE = 0.1

/**
 * Grows a selection by so many px on all sides, corners round; shrinks it with a negative number. Null where nothing
 * is left.
 */
export function offsetSelection(area: Area, by: number): Area | null {
  if (by === 0) return area
  const loops = untangled(area).map((p) => flatten(p, TOLERANCE))
  const rim = loops.flatMap((points) => ribbon(points, Math.abs(by)))
  const inside = loops.map((points): Polygon => [ringOf(points)])
  // Holes come out of the even-odd sum of all loops.
  const whole = inside.length > 1 ? oddPolygons(inside[0]!, ...inside.slice(1)) : [inside[0]!]
  const result = by > 0 ? unitePolygons(whole, ...rim) : subtractPolygons(whole, ...rim)
  return areaOfPolygons(result)
}

function areaOfPolygons(polygons: MultiPolygon): Area | null {
  const paths = polygons.flatMap((rings) => rings.map((ring) => polygonPath(ring.slice(0, -1).flat())))
  return paths.length > 0 ? { paths, rule: 'evenodd' } : null
}

function ringOf(points: readonly number[]): [number, number][] {
  const out: [number, number][] = []
  for (let i = 0; i < points.length; i += 2) out.push([snap(points[i]!), snap(points[i + 1]!)])
  return out
}

/** What lies within a distance of a closed polyline: a box over each chord, a circle at each corner. */
function ribbon(points: readonly number[], half: number): Polygon[] {
  const out: Polygon[] = []
  const n = points.length
  for (let i = 0; i < n; i += 2) {
    const [x0, y0, x1, y1] = [points[i]!, points[i + 1]!, points[(i + 2) % n]!, points[(i + 3) % n]!]
    const length = Math.hypot(x1 - x0, y1 - y0)
    if (length < 1e-9) continue
    const [ux, uy] = [((x1 - x0) / length) * half, ((y1 - y0) / length) * half]
    const box: [number, number][] = [
      [snap(x0 - uy), snap(y0 + ux)],
      [snap(x1 - uy), snap(y1 + ux)],
      [snap(x1 + uy), snap(y1 - ux)],
      [snap(x0 + uy), snap(y0 - ux)],
    ]
    const circle = Array.from({ length: SIDES }, (_, k): [number, number] => {
      const angle = (2 * Math.PI * k) / SIDES
      return [snap(x0 + half * Math.cos(angle)), snap(y0 + half * Math.sin(angle))]
    })
    out.push([box], [circle])
  }
  return out
}
