/**
 * Optimised centres of rotation (Le and Hodgins 2016).
 *
 * The centre of a vertex is the mean of all triangles, each counted by its area and by how alike its weights are to
 * those of the vertex. Likeness asks for two bones at least: what follows one bone alone has no centre and needs none.
 */
import type { WeightField } from './records'

/** Width of likeness in weights, as in the paper. */
const SIGMA = 0.1
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

interface Samples {
  /** [t*b] mean weights of triangles that two bones share */
  readonly weights: Float64Array
  /** [t] */
  readonly area: Float64Array
  /** [2t] middles */
  readonly middle: Float64Array
  readonly count: number
}

/** Triangles that follow more than one bone; the others are like nothing. */
function sharedTriangles(field: WeightField, rows: Float64Array, b: number): Samples {
  const { vertices: p, triangles } = field
  const most = triangles.length / 3
  const weights = new Float64Array(most * b)
  const area = new Float64Array(most)
  const middle = new Float64Array(2 * most)
  let count = 0
  for (let t = 0; t < most; t++) {
    const [i, j, k] = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!]
    let shared = 0
    for (let m = 0; m < b; m++) {
      const w = (rows[i * b + m]! + rows[j * b + m]! + rows[k * b + m]!) / 3
      weights[count * b + m] = w
      if (w >= LEAST) shared++
    }
    if (shared < 2) continue
    const ux = p[2 * j]! - p[2 * i]!
    const uy = p[2 * j + 1]! - p[2 * i + 1]!
    const vx = p[2 * k]! - p[2 * i]!
    const vy = p[2 * k + 1]! - p[2 * i + 1]!
    area[count] = Math.abs(ux * vy - uy * vx) / 2
    middle[2 * count] = p[2 * i]! + (ux + vx) / 3
    middle[2 * count + 1] = p[2 * i + 1]! + (uy + vy) / 3
    count++
  }
  return { weights, area, middle, count }
}

function makeCentres(field: WeightField, b: number): Float64Array {
  const rows = denseRows(field, b)
  const samples = sharedTriangles(field, rows, b)
  const centres = Float64Array.from(field.vertices)
  const bones: number[] = []
  for (let v = 0; v < centres.length / 2; v++) {
    bones.length = 0
    for (let m = 0; m < b; m++) if (rows[v * b + m]! >= LEAST) bones.push(m)
    if (bones.length < 2) continue
    let sum = 0
    let x = 0
    let y = 0
    for (let t = 0; t < samples.count; t++) {
      const s = samples.area[t]! * likeness(rows, v * b, samples.weights, t * b, bones)
      sum += s
      x += s * samples.middle[2 * t]!
      y += s * samples.middle[2 * t + 1]!
    }
    if (sum < 1e-12) continue
    centres[2 * v] = x / sum
    centres[2 * v + 1] = y / sum
  }
  return centres
}

/** Likeness of two rows of weights: the sum over pairs of bones j, k of wj wk vj vk exp(-((wj vk - wk vj) / sigma)²). */
function likeness(rows: Float64Array, at: number, others: Float64Array, other: number, bones: readonly number[]): number {
  let sum = 0
  for (let i = 1; i < bones.length; i++) {
    const wj = rows[at + bones[i]!]!
    const vj = others[other + bones[i]!]!
    if (vj < LEAST) continue
    for (let k = 0; k < i; k++) {
      const wk = rows[at + bones[k]!]!
      const vk = others[other + bones[k]!]!
      if (vk < LEAST) continue
      const apart = (wj * vk - wk * vj) / SIGMA
      if (apart < 6 && apart > -6) sum += wj * wk * vj * vk * Math.exp(-apart * apart)
    }
  }
  return sum
}
