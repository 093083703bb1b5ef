/**
 * Optimised centres of rotation (Le and Hodgins 2016).
 *
 * The centre of a vertex is the mean of all triangles, each counted by its area and by how alike its weights are to
 * those of the vertex. Likeness asks for two bones at least: what follows one bone alone has no centre and needs none.
 */
import type { WeightField } from './records'

/** Width of likeness in weights, as in the paper. */
const SIGMA = 0.1
/** Square of the widths of likeness beyond which a triangle counts for nothing: less than a millionth of the most alike. */
const FAR = 16
/** Steps of the table of exp(-q) for q up to FAR; linear between them it is within 5e-7, and five times as fast as the function. */
const STEPS = 8192
const LIKENESS = Float64Array.from({ length: STEPS + 2 }, (_, i) => Math.exp((-i * FAR) / STEPS))
/** Weights below this are noise of the diffusion. */
const LEAST = 1e-3

const cache = new WeakMap<WeightField, Float64Array>()

/**
 * Centres of the field's vertices, made once for each field.
 *
 * @returns [2n] in the space of the field; a vertex without a centre has its own place
 */
export function centresOf(field: WeightField, boneCount: number): Float64Array {
  let centres = cache.get(field)
  if (!centres) {
    centres = makeCentres(field, boneCount)
    cache.set(field, centres)
  }
  return centres
}

/** Weights as dense rows [n*b], noise left out. */
function denseRows(field: WeightField, boneCount: number): Float64Array {
  const n = field.vertices.length / 2
  const rows = new Float64Array(n * boneCount)
  for (let v = 0; v < n; v++)
    for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++)
      if (field.weights[k]! >= LEAST) rows[v * boneCount + field.bones[k]!] = field.weights[k]!
  return rows
}

/** Triangles that two bones share, one list for each pair of bones. */
interface SharedTriangles {
  /** Mean weights of the two bones, product of both with the area, and the middle: five numbers for each triangle. */
  readonly numbers: Float64Array
  readonly count: number
}

/** [b*b] lists at [higher bone * b + lower bone]; pairs that share nothing have none. */
type Pairs = readonly (SharedTriangles | undefined)[]

function sharedTriangles(field: WeightField, rows: Float64Array, b: number): Pairs {
  const { vertices: p, triangles } = field
  const lists: number[][] = []
  const weights = new Float64Array(b)
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    const shared: number[] = []
    for (let m = 0; m < b; m++) {
      weights[m] = (rows[i * b + m]! + rows[j * b + m]! + rows[k * b + m]!) / 3
      if (weights[m]! >= LEAST) shared.push(m)
    }
    const ux = p[2 * j]! - p[2 * i]!
    const uy = p[2 * j + 1]! - p[2 * i + 1]!
    const vx = p[2 * k]! - p[2 * i]!
    const vy = p[2 * k + 1]! - p[2 * i + 1]!
    const area = Math.abs(ux * vy - uy * vx) / 2
    for (let high = 1; high < shared.length; high++)
      for (let low = 0; low < high; low++) {
        const [m, n] = [shared[high]!, shared[low]!]
        const [wm, wn] = [weights[m]!, weights[n]!]
        const list = (lists[m * b + n] ??= [])
        list.push(wm, wn, wm * wn * area, p[2 * i]! + (ux + vx) / 3, p[2 * i + 1]! + (uy + vy) / 3)
      }
  }
  return lists.map((list) => list && { numbers: Float64Array.from(list), count: list.length / 5 })
}

function makeCentres(field: WeightField, b: number): Float64Array {
  const rows = denseRows(field, b)
  const pairs = sharedTriangles(field, rows, b)
  const centres = Float64Array.from(field.vertices)
  const bones: number[] = []
  const sums = new Float64Array(3)
  for (let v = 0; v < centres.length / 2; v++) {
    bones.length = 0
    for (let m = 0; m < b; m++) if (rows[v * b + m]! >= LEAST) bones.push(m)
    sums.fill(0)
    for (let high = 1; high < bones.length; high++)
      for (let low = 0; low < high; low++) {
        const shared = pairs[bones[high]! * b + bones[low]!]
        if (shared) addAlike(shared, rows[v * b + bones[high]!]!, rows[v * b + bones[low]!]!, sums)
      }
    const weight = sums[0]!
    if (weight < 1e-12) continue
    centres[2 * v] = sums[1]! / weight
    centres[2 * v + 1] = sums[2]! / weight
  }
  return centres
}

/**
 * Adds the triangles of a pair of bones, each by its area and its likeness to weights wj and wk:
 * wj wk vj vk exp(-((wj vk - wk vj) / sigma)²).
 *
 * @param sums weight, and middles times weight; added to
 */
function addAlike({ numbers, count }: SharedTriangles, wj: number, wk: number, sums: Float64Array): void {
  const both = wj * wk
  let [weight, x, y] = [0, 0, 0]
  for (let i = 0, at = 0; i < count; i++, at += 5) {
    const apart = (wj * numbers[at + 1]! - wk * numbers[at]!) / SIGMA
    const place = apart * apart * (STEPS / FAR)
    if (place > STEPS) continue
    const step = place | 0
    const alike = LIKENESS[step]! + (place - step) * (LIKENESS[step + 1]! - LIKENESS[step]!)
    const s = both * numbers[at + 2]! * alike
    weight += s
    x += s * numbers[at + 3]!
    y += s * numbers[at + 4]!
  }
  sums[0]! += weight
  sums[1]! += x
  sums[2]! += y
}
