/**
 * Weights of chosen points: found in a lasso, given to one bone, typed, copied and laid on other points.
 *
 * Points are vertices of a weight field. What one bone gains the others give in proportion, but for locked ones, as with
 * the brush.
 */
import type { BoneId } from '../kernel/ids'
import { isWithin } from '../maths/geometry/polyline'
import { giveWeight } from './weightBrush'
import { denseRows, fieldOf, type DenseWeights } from './weightFields'
import type { WeightField } from './records'
import { locatorOf, type Region } from '../maths/geometry/meshLocator'

/**
 * Vertices of a field inside a lasso, and the corners around each point of a drawing in it: all that such a point goes by.
 *
 * @param places [2n] where the vertices are seen
 * @param lasso [2k] closed polygon
 * @param drawn [2m] points of drawings as they are seen, and [2m] the same in the field's space
 */
export function pointsInLasso(
  field: WeightField,
  places: ArrayLike<number>,
  lasso: readonly number[],
  drawn: { readonly seen: ArrayLike<number>; readonly own: ArrayLike<number> } = { seen: [], own: [] },
): number[] {
  const found = new Set<number>()
  const isIn = (points: ArrayLike<number>, i: number): boolean => isWithin([lasso], points[2 * i]!, points[2 * i + 1]!, 'nonzero')
  for (let v = 0; v < places.length / 2; v++) if (isIn(places, v)) found.add(v)
  for (let i = 0; i < drawn.seen.length / 2; i++)
    if (isIn(drawn.seen, i)) for (const v of cornersAt(field, drawn.own[2 * i]!, drawn.own[2 * i + 1]!)) found.add(v)
  return [...found].sort((a, b) => a - b)
}

/** Corners of the triangle at or nearest to a spot that have a share in it. */
function cornersAt(region: Region, x: number, y: number): number[] {
  const { triangle, u, v, w } = locatorOf(region)(x, y)
  return [u, v, w].flatMap((share, k) => (share > 1e-9 ? [region.triangles[3 * triangle + k]!] : []))
}

/** Gives points a weight of a bone; the others share what is left. */
export function weighPoints(
  field: WeightField,
  count: number,
  points: readonly number[],
  bone: number,
  weight: number,
  locked = new Uint8Array(count),
): WeightField {
  const rows = denseRows(field, count)
  for (const v of points) giveWeight(rows, count, v, bone, weight, locked)
  return fieldOf(field, rows, count)
}

/** The mean of the weights of some points, over the bones that pull there. */
export function meanWeights(field: WeightField, bones: readonly BoneId[], points: readonly number[]): ReadonlyMap<BoneId, number> {
  const rows = denseRows(field, bones.length)
  const means = bones.map((bone, b) => {
    const sum = points.reduce((total, v) => total + rows[v * bones.length + b]!, 0)
    return [bone, sum / Math.max(1, points.length)] as const
  })
  return new Map(means.filter(([, weight]) => weight > 1e-6))
}

/** Weights laid on points; bones that the field did not know come to its list. */
export function layWeights(
  field: WeightField,
  bones: readonly BoneId[],
  points: readonly number[],
  laid: ReadonlyMap<BoneId, number>,
): DenseWeights {
  const all = [...bones, ...[...laid.keys()].filter((b) => !bones.includes(b))]
  const own = denseRows(field, bones.length)
  const n = field.vertices.length / 2
  const rows = new Float64Array(n * all.length)
  const chosen = new Set(points)
  const sum = [...laid.values()].reduce((a, b) => a + b, 0) || 1
  for (let v = 0; v < n; v++)
    all.forEach((bone, b) => {
      rows[v * all.length + b] = chosen.has(v) ? (laid.get(bone) ?? 0) / sum : b < bones.length ? own[v * bones.length + b]! : 0
    })
  return { bones: all, rows }
}
