/** Reading a weight field anywhere: barycentric inside its triangles, the nearest spot of the mesh outside. */
import { centresOf } from './centres'
import { INFLUENCES } from './skin'
import type { WeightField } from './records'
import { locatorOf } from '../maths/geometry/meshLocator'

/** Reads a weight field at any spot. */
export interface FieldSampler {
  /** Writes the bones (as listed by the bind) and weights of point `i` into [4n] arrays, and its centre of rotation into [2n]. */
  sample(x: number, y: number, i: number, bones: Int32Array, weights: Float64Array, centres: Float64Array): void
}

const cache = new WeakMap<WeightField, FieldSampler>()

/** The sampler of a field whose bind has `boneCount` bones, made once for each field. */
export function samplerOf(field: WeightField, boneCount: number): FieldSampler {
  let sampler = cache.get(field)
  if (!sampler) {
    sampler = makeSampler(field, boneCount)
    cache.set(field, sampler)
  }
  return sampler
}

function makeSampler(field: WeightField, boneCount: number): FieldSampler {
  const { triangles } = field
  const locate = locatorOf(field)
  const sum = new Float64Array(boneCount)
  const middles = centresOf(field, boneCount)
  return {
    sample(x, y, i, bones, weights, centres) {
      const spot = locate(x, y)
      const t = 3 * spot.triangle
      const a = 2 * triangles[t]!
      const b = 2 * triangles[t + 1]!
      const c = 2 * triangles[t + 2]!
      centres[2 * i] = spot.u * middles[a]! + spot.v * middles[b]! + spot.w * middles[c]!
      centres[2 * i + 1] = spot.u * middles[a + 1]! + spot.v * middles[b + 1]! + spot.w * middles[c + 1]!
      sum.fill(0)
      addVertex(field, triangles[t]!, spot.u, sum)
      addVertex(field, triangles[t + 1]!, spot.v, sum)
      addVertex(field, triangles[t + 2]!, spot.w, sum)
      writeStrongest(sum, bones, weights, INFLUENCES * i)
    },
  }
}

function addVertex(field: WeightField, vertex: number, share: number, sum: Float64Array): void {
  for (let k = field.starts[vertex]!; k < field.starts[vertex + 1]!; k++) sum[field.bones[k]!]! += share * field.weights[k]!
}

/** Writes the four largest entries, brought to a sum of 1; consumes `sum`. */
export function writeStrongest(sum: Float64Array, bones: Int32Array, weights: Float64Array, at: number): void {
  let total = 0
  for (let k = 0; k < INFLUENCES; k++) {
    let best = 0
    for (let b = 1; b < sum.length; b++) if (sum[b]! > sum[best]!) best = b
    const weight = Math.max(0, sum[best] ?? 0)
    bones[at + k] = weight > 0 ? best : (bones[at] ?? 0)
    weights[at + k] = weight
    total += weight
    sum[best] = 0
  }
  for (let k = 0; k < INFLUENCES; k++) weights[at + k]! /= total
}
