/**
 * As-rigid-as-possible deformation in the plane (Sorkine and Alexa 2007, "As-rigid-as-possible surface modeling").
 *
 * Handles hold spots of a triangulated region. Each iteration finds for every vertex the turn that fits its edges
 * best (in the plane a closed form), then all vertices at once from a sparse system that is factorised beforehand: it
 * depends on which spots are held, not on where they go. A held spot is a barycentric mixture of vertices that is
 * drawn to its place with a weight a million times that of the edges, so that any spot can be held exactly enough,
 * and any number of times.
 *
 * A solve starts from the turns and shifts of the handles alone, mixed by harmonic functions of the region (rigid
 * moving least squares, Schaefer et al. 2006, with weights that respect the shape), never from what was shown before:
 * the same handles give the same picture.
 */
import { dissect, factorise, symmetricFromTriplets, type Factor } from './cholesky'
import { edgeCotangents, edgeEnds } from './cotangents'
import type { TriangleMesh } from '../geometry/triangleMesh'

/** A spot of the mesh that is held: a mixture of the corners of one triangle. */
export interface HeldSpot {
  readonly corners: readonly [number, number, number]
  readonly shares: readonly [number, number, number]
}

/** How a mesh resists being bent. */
export interface ArapOptions {
  /** [n] how stiff the mesh is at each vertex; 1 without it */
  readonly stiffness?: ArrayLike<number>
  /** Vertices that turn as one and keep their distances: splints that nothing holds. */
  readonly rigid?: readonly (readonly number[])[]
}

/** Weight of a held spot against the mean of the edges, and of rest for pieces that nothing holds. */
const HOLD = 1e6
const REST = 1e-9
/** How many times stiffer the edges of a splint are. */
const SPLINT = 1e3

/** Deforms a mesh as rigidly as possible; keeps what it has factorised between calls. */
export class Arap {
  /** [2n] where vertices are after the last solve */
  readonly places: Float64Array
  /** [2n] cosine and sine of each vertex' turn */
  readonly turns: Float64Array
  private readonly rest: Float64Array
  private readonly starts: Int32Array
  private readonly neighbours: Int32Array
  private readonly weights: Float64Array
  private readonly factor: Factor
  private readonly right: Float64Array
  private readonly hold: number
  private readonly held: number
  /** [3s] corners and shares of held spots */
  private readonly corners: Int32Array
  private readonly shares: Float64Array
  /** [2s] held spots at rest */
  private readonly spots: Float64Array
  /** [n s] how much of each handle is felt at a vertex */
  private readonly felt: Float64Array
  private readonly groups: readonly Int32Array[]

  /**
   * @param mesh at rest
   * @param spots what is held, in the order in which `solve` takes places
   */
  constructor(mesh: TriangleMesh, spots: readonly HeldSpot[], { stiffness, rigid = [] }: ArapOptions = {}) {
    const n = mesh.vertices.length / 2
    this.rest = Float64Array.from(mesh.vertices)
    this.places = this.rest.slice()
    this.turns = new Float64Array(2 * n)
    for (let i = 0; i < n; i++) this.turns[2 * i] = 1
    this.right = new Float64Array(2 * n)
    this.groups = rigid.map((g) => Int32Array.from(g))
    const { starts, neighbours, weights, mean } = edgesOf(mesh, stiffness, rigid)
    this.starts = starts
    this.neighbours = neighbours
    this.weights = weights
    this.hold = HOLD * mean
    this.held = spots.length
    this.corners = Int32Array.from(spots.flatMap((s) => [...s.corners]))
    this.shares = Float64Array.from(spots.flatMap((s) => [...s.shares]))
    this.spots = new Float64Array(2 * spots.length)
    for (let s = 0; s < spots.length; s++)
      for (let k = 0; k < 3; k++)
        for (let axis = 0; axis < 2; axis++)
          this.spots[2 * s + axis]! += this.shares[3 * s + k]! * this.rest[2 * this.corners[3 * s + k]! + axis]!
    const matrix = this.matrixOf(mean)
    this.factor = factorise(matrix, dissect(matrix, this.rest))
    this.felt = this.harmonics()
  }

  /** The same system with places of its own: factors and weights are shared. */
  twin(): Arap {
    const own = { places: this.rest.slice(), turns: this.turns.slice(), right: new Float64Array(this.right.length) }
    return Object.assign(Object.create(Arap.prototype) as Arap, this, own)
  }

  private matrixOf(mean: number): ReturnType<typeof symmetricFromTriplets> {
    const { starts, neighbours, weights, corners, shares } = this
    const n = this.rest.length / 2
    const i: number[] = []
    const j: number[] = []
    const v: number[] = []
    for (let a = 0; a < n; a++) {
      let sum = REST * mean
      for (let e = starts[a]!; e < starts[a + 1]!; e++) {
        sum += weights[e]!
        const b = neighbours[e]!
        if (b < a) {
          i.push(b)
          j.push(a)
          v.push(-weights[e]!)
        }
      }
      i.push(a)
      j.push(a)
      v.push(sum)
    }
    for (let s = 0; s < this.held; s++)
      for (let k = 0; k < 3; k++)
        for (let l = 0; l <= k; l++) {
          const [a, b] = [corners[3 * s + k]!, corners[3 * s + l]!]
          const share = this.hold * shares[3 * s + k]! * shares[3 * s + l]!
          if (share === 0) continue
          i.push(Math.min(a, b))
          j.push(Math.max(a, b))
          v.push(share)
        }
    return symmetricFromTriplets(n, i, j, v)
  }

  /** For each vertex how near it is to each held spot through the region: harmonic functions h, as h / (1 - h). */
  private harmonics(): Float64Array {
    const n = this.rest.length / 2
    const felt = new Float64Array(n * this.held)
    const b = new Float64Array(n)
    for (let s = 0; s < this.held; s++) {
      b.fill(0)
      for (let k = 0; k < 3; k++) b[this.corners[3 * s + k]!]! += this.hold * this.shares[3 * s + k]!
      this.factor.solve(b, b)
      for (let i = 0; i < n; i++) {
        const h = Math.min(1, Math.max(0, b[i]!))
        felt[i * this.held + s] = (h + 1e-6) / (1.001 - h)
      }
    }
    return felt
  }

  /** Share of each held spot in the harmonic mixture at a vertex; they sum to 1. For what fades over the mesh, like depth. */
  mixture(vertex: number): number[] {
    const own = Array.from(this.felt.subarray(vertex * this.held, (vertex + 1) * this.held))
    const sum = own.reduce((a, b) => a + b, 0) || 1
    return own.map((f) => f / sum)
  }

  /**
   * Places the vertices.
   *
   * @param targets [2s] where the held spots go
   * @param iterations of fitting turns and places
   */
  solve(targets: Float64Array, iterations: number): void {
    this.begin(targets)
    for (let k = 0; k < iterations; k++) this.iterate(targets)
    this.fitTurns()
  }

  /** Moves every vertex by the turn and shift that fit the handles it feels, nearer ones more. */
  begin(targets: Float64Array): void {
    const { rest, places, spots, felt, held } = this
    if (held === 0) return void places.set(rest)
    for (let i = 0, at = 0; i < rest.length / 2; i++, at += held) {
      let sum = 0
      let px = 0
      let py = 0
      let qx = 0
      let qy = 0
      for (let s = 0; s < held; s++) {
        const w = felt[at + s]!
        sum += w
        px += w * spots[2 * s]!
        py += w * spots[2 * s + 1]!
        qx += w * targets[2 * s]!
        qy += w * targets[2 * s + 1]!
      }
      px /= sum
      py /= sum
      qx /= sum
      qy /= sum
      let c = 0
      let d = 0
      for (let s = 0; s < held; s++) {
        const w = felt[at + s]!
        const ux = spots[2 * s]! - px
        const uy = spots[2 * s + 1]! - py
        const vx = targets[2 * s]! - qx
        const vy = targets[2 * s + 1]! - qy
        c += w * (ux * vx + uy * vy)
        d += w * (ux * vy - uy * vx)
      }
      const size = Math.sqrt(c * c + d * d)
      const cos = size > 1e-12 ? c / size : 1
      const sin = size > 1e-12 ? d / size : 0
      const x = rest[2 * i]! - px
      const y = rest[2 * i + 1]! - py
      places[2 * i] = qx + cos * x - sin * y
      places[2 * i + 1] = qy + sin * x + cos * y
    }
  }

  /** One iteration: turns that fit the places, then places that fit the turns. */
  iterate(targets: Float64Array): void {
    this.fitTurns()
    this.fitPlaces(targets)
  }

  private fitTurns(): void {
    const { rest, places, starts, neighbours, weights, turns } = this
    for (let i = 0; i < rest.length / 2; i++) {
      let c = 0
      let s = 0
      const rx = rest[2 * i]!
      const ry = rest[2 * i + 1]!
      const px = places[2 * i]!
      const py = places[2 * i + 1]!
      for (let e = starts[i]!, end = starts[i + 1]!; e < end; e++) {
        const j = 2 * neighbours[e]!
        const w = weights[e]!
        const ux = rx - rest[j]!
        const uy = ry - rest[j + 1]!
        const vx = px - places[j]!
        const vy = py - places[j + 1]!
        c += w * (ux * vx + uy * vy)
        s += w * (ux * vy - uy * vx)
      }
      turns[2 * i] = c
      turns[2 * i + 1] = s
    }
    for (let g = 0; g < this.groups.length; g++) this.joinGroup(this.groups[g]!)
    for (let i = 0; i < turns.length; i += 2) {
      const size = Math.sqrt(turns[i]! * turns[i]! + turns[i + 1]! * turns[i + 1]!)
      turns[i] = size > 1e-12 ? turns[i]! / size : 1
      turns[i + 1] = size > 1e-12 ? turns[i + 1]! / size : 0
    }
  }

  /** Vertices of a splint turn as one. */
  private joinGroup(group: Int32Array): void {
    const { turns } = this
    let c = 0
    let s = 0
    for (let k = 0; k < group.length; k++) {
      c += turns[2 * group[k]!]!
      s += turns[2 * group[k]! + 1]!
    }
    for (let k = 0; k < group.length; k++) {
      turns[2 * group[k]!] = c
      turns[2 * group[k]! + 1] = s
    }
  }

  private fitPlaces(targets: Float64Array): void {
    const { rest, starts, neighbours, weights, turns, right, corners, shares, hold } = this
    const still = (hold / HOLD) * REST
    for (let i = 0; i < rest.length / 2; i++) {
      const ci = turns[2 * i]!
      const si = turns[2 * i + 1]!
      const rx = rest[2 * i]!
      const ry = rest[2 * i + 1]!
      let x = still * rx
      let y = still * ry
      for (let e = starts[i]!, end = starts[i + 1]!; e < end; e++) {
        const j = 2 * neighbours[e]!
        const half = 0.5 * weights[e]!
        const ux = rx - rest[j]!
        const uy = ry - rest[j + 1]!
        const c = ci + turns[j]!
        const s = si + turns[j + 1]!
        x += half * (c * ux - s * uy)
        y += half * (s * ux + c * uy)
      }
      right[2 * i] = x
      right[2 * i + 1] = y
    }
    for (let k = 0; k < corners.length; k++) {
      const s = (k / 3) | 0
      const share = hold * shares[k]!
      right[2 * corners[k]!]! += share * targets[2 * s]!
      right[2 * corners[k]! + 1]! += share * targets[2 * s + 1]!
    }
    this.factor.solvePairs(right, this.places)
  }

  /** What is left of stretch: sum of w |(pi - pj) - Ri (ri - rj)|² over all edges, with the turns last fitted. */
  energy(): number {
    const { rest, places, starts, neighbours, weights, turns } = this
    let sum = 0
    for (let i = 0; i < rest.length / 2; i++)
      for (let e = starts[i]!; e < starts[i + 1]!; e++) {
        const j = 2 * neighbours[e]!
        const ux = rest[2 * i]! - rest[j]!
        const uy = rest[2 * i + 1]! - rest[j + 1]!
        const dx = places[2 * i]! - places[j]! - (turns[2 * i]! * ux - turns[2 * i + 1]! * uy)
        const dy = places[2 * i + 1]! - places[j + 1]! - (turns[2 * i + 1]! * ux + turns[2 * i]! * uy)
        sum += weights[e]! * (dx * dx + dy * dy)
      }
    return sum
  }
}

/** Smallest and largest weight of an edge: flat triangles would give more, obtuse ones less than nothing. */
const LEAST_EDGE = 1e-3
const MOST_EDGE = 1e3

/** Edges as compressed rows with cotangent weights, stiffer where asked. */
function edgesOf(
  mesh: TriangleMesh,
  stiffness: ArrayLike<number> | undefined,
  rigid: readonly (readonly number[])[],
): { starts: Int32Array; neighbours: Int32Array; weights: Float64Array; mean: number } {
  const n = mesh.vertices.length / 2
  const edges = [...edgeCotangents(mesh)].map(([key, cotangent]) => ({ ends: edgeEnds(key, n), cotangent }))
  const group = new Int32Array(n).fill(-1)
  rigid.forEach((vs, g) => vs.forEach((v) => (group[v] = g)))
  const starts = new Int32Array(n + 1)
  for (const { ends } of edges) for (const v of ends) starts[v + 1]!++
  for (let i = 0; i < n; i++) starts[i + 1]! += starts[i]!
  const next = starts.slice(0, n)
  const neighbours = new Int32Array(starts[n]!)
  const weights = new Float64Array(starts[n]!)
  let sum = 0
  const put = (v: number, other: number, weight: number): void => {
    neighbours[next[v]!] = other
    weights[next[v]!++] = weight
  }
  for (const { ends, cotangent } of edges) {
    const [a, b] = ends
    const stiff = stiffness ? Math.sqrt(stiffness[a]! * stiffness[b]!) : 1
    const weight = Math.min(MOST_EDGE, Math.max(LEAST_EDGE, cotangent)) * stiff
    const isSplint = group[a]! >= 0 && group[a] === group[b]
    sum += weight
    put(a, b, isSplint ? weight * SPLINT : weight)
    put(b, a, isSplint ? weight * SPLINT : weight)
  }
  return { starts, neighbours, weights, mean: edges.length > 0 ? (2 * sum) / n : 1 }
}
