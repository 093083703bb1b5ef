/** Reading a weight field anywhere: barycentric inside its triangles, the nearest spot of the mesh outside. */
import type { WeightField } from '../document/schema'
import { centresOf } from './centres'
import { INFLUENCES } from './skin'

export interface FieldSampler {
  /** Writes the bones (as listed by the bind) and weights of point `i` into [4n] arrays, and its centre of rotation into [2n]. */
  sample(x: number, y: number, i: number, bones: Int32Array, weights: Float64Array, centres: Float64Array): void
}

const cache = new WeakMap<WeightField, FieldSampler>()

export function samplerOf(field: WeightField, boneCount: number): FieldSampler {
  let sampler = cache.get(field)
  if (!sampler) {
    sampler = makeSampler(field, boneCount)
    cache.set(field, sampler)
  }
  return sampler
}

/** Triangles over a region, to be looked up by place. */
export interface Region {
  readonly vertices: readonly number[]
  readonly triangles: readonly number[]
}

/** Where a point is: a triangle and the shares of its corners. */
export interface Spot {
  triangle: number
  u: number
  v: number
  w: number
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

const locators = new WeakMap<readonly number[], { triangles: readonly number[]; locate: (x: number, y: number) => Spot }>()

/** Finds the triangle at or nearest to a point. Made once for a region; the spot that is given back is written anew each time. */
export function locatorOf(region: Region): (x: number, y: number) => Spot {
  const known = locators.get(region.vertices)
  if (known?.triangles === region.triangles) return known.locate
  const locate = makeLocator(region)
  locators.set(region.vertices, { triangles: region.triangles, locate })
  return locate
}

/** Triangles are filed in a grid. */
function makeLocator(field: Region): (x: number, y: number) => Spot {
  const { vertices, triangles } = field
  const count = triangles.length / 3
  let minX = Infinity
  let minY = Infinity
  let maxX = -Infinity
  let maxY = -Infinity
  for (let i = 0; i < vertices.length; i += 2) {
    minX = Math.min(minX, vertices[i]!)
    maxX = Math.max(maxX, vertices[i]!)
    minY = Math.min(minY, vertices[i + 1]!)
    maxY = Math.max(maxY, vertices[i + 1]!)
  }
  const columns = Math.max(1, Math.min(64, Math.ceil(Math.sqrt(count))))
  const cell = Math.max((maxX - minX) / columns, (maxY - minY) / columns, 1e-6)
  const wide = Math.floor((maxX - minX) / cell) + 1
  const high = Math.floor((maxY - minY) / cell) + 1
  const cells: number[][] = Array.from({ length: wide * high }, () => [])
  for (let t = 0; t < count; t++) {
    const xs = [0, 1, 2].map((k) => vertices[2 * triangles[3 * t + k]!]!)
    const ys = [0, 1, 2].map((k) => vertices[2 * triangles[3 * t + k]! + 1]!)
    for (let r = Math.floor((Math.min(...ys) - minY) / cell); r <= Math.floor((Math.max(...ys) - minY) / cell); r++) {
      for (let c = Math.floor((Math.min(...xs) - minX) / cell); c <= Math.floor((Math.max(...xs) - minX) / cell); c++) {
        cells[r * wide + c]?.push(t)
      }
    }
  }
  const found: Spot = { triangle: 0, u: 1, v: 0, w: 0 }
  return (x, y) => {
    const c = Math.floor((x - minX) / cell)
    const r = Math.floor((y - minY) / cell)
    if (c >= 0 && r >= 0 && c < wide && r < high) {
      for (const t of cells[r * wide + c]!) if (within(field, t, x, y, found)) return found
    }
    const qx = Math.min(Math.max(x, minX), maxX)
    const qy = Math.min(Math.max(y, minY), maxY)
    const middleC = Math.min(wide - 1, Math.floor((qx - minX) / cell))
    const middleR = Math.min(high - 1, Math.floor((qy - minY) / cell))
    // Nothing in a ring of cells is nearer than its breadth beyond the nearest spot of the grid.
    const off = (x - qx) ** 2 + (y - qy) ** 2
    let best = Infinity
    for (let ring = 0; ring < wide + high; ring++) {
      const reach = Math.max(0, ring - 1) * cell
      if (best <= off + reach * reach) break
      for (let row = Math.max(0, middleR - ring); row <= Math.min(high - 1, middleR + ring); row++) {
        const isSide = row === middleR - ring || row === middleR + ring
        for (let column = middleC - ring; column <= middleC + ring; column += isSide || ring === 0 ? 1 : 2 * ring) {
          if (column < 0 || column >= wide) continue
          for (const t of cells[row * wide + column]!) best = closest(field, t, x, y, best, found)
        }
      }
    }
    return found
  }
}

/** Whether (x, y) lies in triangle t; then writes its barycentric coordinates. */
function within(field: Region, t: number, x: number, y: number, out: Spot): boolean {
  const { vertices: p, triangles } = field
  const a = 2 * triangles[3 * t]!
  const b = 2 * triangles[3 * t + 1]!
  const c = 2 * triangles[3 * t + 2]!
  const det = (p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (p[c]! - p[a]!)
  if (det === 0) return false
  const v = ((x - p[a]!) * (p[c + 1]! - p[a + 1]!) - (y - p[a + 1]!) * (p[c]! - p[a]!)) / det
  const w = ((p[b]! - p[a]!) * (y - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (x - p[a]!)) / det
  if (v < -1e-9 || w < -1e-9 || v + w > 1 + 1e-9) return false
  out.triangle = t
  out.u = 1 - v - w
  out.v = v
  out.w = w
  return true
}

/** Compares the edges of triangle t with the best squared distance so far; writes and returns the better one. */
function closest(field: Region, t: number, x: number, y: number, best: number, out: Spot): number {
  const { vertices: p, triangles } = field
  for (let k = 0; k < 3; k++) {
    const a = 2 * triangles[3 * t + k]!
    const b = 2 * triangles[3 * t + ((k + 1) % 3)]!
    const dx = p[b]! - p[a]!
    const dy = p[b + 1]! - p[a + 1]!
    const s = Math.min(1, Math.max(0, ((x - p[a]!) * dx + (y - p[a + 1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
    const d = (x - p[a]! - s * dx) ** 2 + (y - p[a + 1]! - s * dy) ** 2
    if (d >= best) continue
    best = d
    out.triangle = t
    out.u = k === 0 ? 1 - s : k === 2 ? s : 0
    out.v = k === 1 ? 1 - s : k === 0 ? s : 0
    out.w = k === 2 ? 1 - s : k === 1 ? s : 0
  }
  return best
}
