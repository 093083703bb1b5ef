/**
 * Weights made from other weights: mirrored, pruned, smoothed, taken over from another part by position, shared along a
 * border; and weights by the reach of bones alone, the fast alternative to heat.
 *
 * Weights are handed about as dense rows over a list of bones; places are on the canvas at rest.
 */
import type { BoneId } from '../kernel/ids'
import { distanceToPolyline } from '../maths/geometry/polyline'
import { NEGLIGIBLE, strongestRows } from '../maths/solve/heat'
import type { WeightField } from './records'
import { locatorOf } from '../maths/geometry/meshLocator'

/** Weights with one column for each bone. */
export interface DenseWeights {
  readonly bones: readonly BoneId[]
  /** [n b] */
  readonly rows: Float64Array
}

/** A field with the bones that it names and where its vertices lie on the canvas at rest. */
export interface PlacedField {
  readonly field: WeightField
  readonly bones: readonly BoneId[]
  /** [2n] */
  readonly places: readonly number[]
}

/** Weights of a field as dense rows [n b] over so many bones. */
export function denseRows(field: WeightField, count: number): Float64Array {
  const n = field.vertices.length / 2
  const rows = new Float64Array(n * count)
  for (let v = 0; v < n; v++)
    for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++) rows[v * count + field.bones[k]!]! += field.weights[k]!
  return rows
}

/** The weights of a field with one column for each bone of its bind. */
export const denseOf = ({ field, bones }: Pick<PlacedField, 'field' | 'bones'>): DenseWeights => ({
  bones,
  rows: denseRows(field, bones.length),
})

/**
 * The field with other weights: at most four bones a vertex, the strongest first, summing to 1; `least` weights are dropped.
 *
 * @param rows [n b] over `count` bones
 */
export function fieldOf({ vertices, triangles }: WeightField, rows: Float64Array, count: number, least = NEGLIGIBLE): WeightField {
  const n = vertices.length / 2
  const columns = Array.from({ length: count }, (_, b) => Float64Array.from({ length: n }, (_v, v) => rows[v * count + b]!))
  return { vertices, triangles, ...strongestRows(columns, n, least) }
}

/** The same weights without bones that pull nowhere; one is always left. */
export function pulling({ bones, rows }: DenseWeights): DenseWeights {
  const pulls = bones.filter((_, b) => rows.some((weight, i) => i % bones.length === b && weight > NEGLIGIBLE))
  return over({ bones, rows }, pulls.length > 0 ? pulls : bones.slice(0, 1))
}

/** Weights of a placed field at any spots, over its own bones: inside its mesh, or at the nearest spot of it. */
function sampled({ field, bones, places }: PlacedField, spots: ArrayLike<number>): DenseWeights {
  const dense = denseOf({ field, bones })
  const locate = locatorOf({ vertices: places, triangles: field.triangles })
  const count = bones.length
  const rows = new Float64Array((spots.length / 2) * count)
  for (let i = 0; i < spots.length / 2; i++) {
    const { triangle, u, v, w } = locate(spots[2 * i]!, spots[2 * i + 1]!)
    for (const [k, share] of [u, v, w].entries()) {
      const corner = field.triangles[3 * triangle + k]!
      for (let b = 0; b < count; b++) rows[i * count + b]! += Math.max(0, share) * dense.rows[corner * count + b]!
    }
  }
  return { bones, rows }
}

/** The same weights over another list of bones; what the list does not have is lost. */
function over({ bones, rows }: DenseWeights, list: readonly BoneId[], rename: (bone: BoneId) => BoneId = (b) => b): DenseWeights {
  const n = rows.length / bones.length
  const out = new Float64Array(n * list.length)
  bones.forEach((bone, b) => {
    const to = list.indexOf(rename(bone))
    if (to >= 0) for (let v = 0; v < n; v++) out[v * list.length + to]! += rows[v * bones.length + b]!
  })
  return { bones: list, rows: out }
}

/**
 * Weights of the left half taken over by the right, or the other way round, with bones that change sides.
 *
 * @param x the upright line on the canvas
 * @param from the side that stays: 1 right of the line, -1 left of it
 * @param other the bone of the other side; itself for one in the middle
 */
export function mirroredWeights(placed: PlacedField, x: number, from: 1 | -1, other: (bone: BoneId) => BoneId): DenseWeights {
  const { places, bones } = placed
  const own = denseOf(placed)
  const across = sampled(
    placed,
    places.map((v, i) => (i % 2 === 0 ? 2 * x - v : v)),
  )
  const turned = over(across, bones, other)
  const rows = own.rows.slice()
  for (let v = 0; v < places.length / 2; v++) {
    if ((places[2 * v]! - x) * from >= 0) continue
    const at = v * bones.length
    const sum = turned.rows.subarray(at, at + bones.length).reduce((a, b) => a + b, 0)
    if (sum > 1e-6) rows.set(turned.rows.subarray(at, at + bones.length), at)
  }
  return { bones, rows }
}

/** Every vertex drawn towards the mean of its neighbours. */
export function smoothedWeights(placed: Pick<PlacedField, 'field' | 'bones'>, rounds = 1, share = 0.5): DenseWeights {
  const { bones } = placed
  let { rows } = denseOf(placed)
  const around = neighboursIn(placed.field)
  for (let round = 0; round < rounds; round++) {
    const next = rows.slice()
    around.forEach((list, v) => {
      for (let b = 0; b < bones.length && list.length > 0; b++) {
        const mean = list.reduce((sum, u) => sum + rows[u * bones.length + b]!, 0) / list.length
        next[v * bones.length + b]! += share * (mean - next[v * bones.length + b]!)
      }
    })
    rows = next
  }
  return { bones, rows }
}

/** Vertices that share an edge with each vertex. */
export function neighboursIn({ vertices, triangles }: Pick<WeightField, 'vertices' | 'triangles'>): number[][] {
  const out = Array.from({ length: vertices.length / 2 }, () => new Set<number>())
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!]
      out[a]!.add(b)
      out[b]!.add(a)
    }
  return out.map((set) => [...set])
}

/** Weights taken over from another part, wherever its vertices lie nearest. */
export const transferredWeights = (from: PlacedField, places: readonly number[]): DenseWeights => sampled(from, places)

/**
 * Weights of two parts made one along their border: within a distance of each other both take the mean of what they were,
 * fading to their own. Where they lie over each other they then bend alike, and no gap can open.
 *
 * @returns the weights of both, over the bones of both
 */
export function sharedBorder(a: PlacedField, b: PlacedField, reach: number): [DenseWeights, DenseWeights] {
  const bones = [...new Set([...a.bones, ...b.bones])]
  const drawn = (own: PlacedField, other: PlacedField): DenseWeights => {
    const mine = over(denseOf(own), bones)
    const theirs = over(sampled(other, own.places), bones)
    const rows = mine.rows.slice()
    for (let v = 0; v < own.places.length / 2; v++) {
      const far = distanceTo(other, own.places[2 * v]!, own.places[2 * v + 1]!)
      if (far >= reach) continue
      const t = 1 - far / reach
      const share = 0.5 * t * t * (3 - 2 * t)
      for (let k = 0; k < bones.length; k++) {
        const i = v * bones.length + k
        rows[i] = mine.rows[i]! + share * (theirs.rows[i]! - mine.rows[i]!)
      }
    }
    return { bones, rows }
  }
  return [drawn(a, b), drawn(b, a)]
}

/** Distance of a spot from the mesh of a placed field; 0 inside. */
function distanceTo({ field, places }: PlacedField, x: number, y: number): number {
  const { triangle, u, v, w } = locatorOf({ vertices: places, triangles: field.triangles })(x, y)
  const at = (axis: number): number =>
    [u, v, w].reduce((sum, share, k) => sum + share * places[2 * field.triangles[3 * triangle + k]! + axis]!, 0)
  return Math.hypot(at(0) - x, at(1) - y)
}

/** How far and how strongly a bone acts. */
export interface Influence {
  /** Canvas px. */
  readonly radius: number
  readonly strength: number
}

/**
 * Weights by the distance from bones: full on a bone, fading to nothing at its radius. What no bone reaches follows the
 * nearest one.
 *
 * @param ends [4b] start x,y, end x,y of each bone
 */
export function influenceWeights(
  places: ArrayLike<number>,
  bones: readonly BoneId[],
  ends: readonly number[],
  influences: readonly Influence[],
): DenseWeights {
  const n = places.length / 2
  const count = bones.length
  const rows = new Float64Array(n * count)
  const lines = bones.map((_, b) => ends.slice(4 * b, 4 * b + 4))
  for (let v = 0; v < n; v++) {
    let sum = 0
    let nearest = 0
    let least = Infinity
    for (let b = 0; b < count; b++) {
      const far = distanceToPolyline(lines[b]!, false, places[2 * v]!, places[2 * v + 1]!)
      const { radius, strength } = influences[b]!
      const t = Math.max(0, 1 - far / Math.max(radius, 1e-9))
      rows[v * count + b] = strength * t * t * (3 - 2 * t)
      sum += rows[v * count + b]!
      if (strength > 0 && far < least) {
        least = far
        nearest = b
      }
    }
    if (sum < 1e-6) rows[v * count + nearest] = 1
    else for (let b = 0; b < count; b++) rows[v * count + b]! /= sum
  }
  return { bones, rows }
}
