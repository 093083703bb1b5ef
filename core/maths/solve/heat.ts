/**
 * Bone weights by heat diffusion (Baran and Popović 2007, "Automatic rigging and animation of 3D characters",
 * section 4), on a triangulated region of the plane.
 *
 * Each bone in turn is held at temperature 1, the others at 0, and the equilibrium is read off: for every bone i
 *
 *     (L + M H) w_i = M H p_i
 *
 * with L the cotangent Laplacian, M the lumped areas, H = c / d² where d is the distance to the nearest bone, and
 * p_i = 1 where bone i is that nearest one (shared between equally near ones). H is 0 where the shortest way to the
 * bone leaves the region. In the plane, unlike on a surface in space, bones run through the region itself: distances
 * count from half their median upwards, or a vertex on a bone would be nailed to it and lines drawn along a limb
 * would kink at the joint. The matrix is the same for all bones: one factorisation serves them all.
 */
import { dissect, factorise, symmetricFromTriplets } from './cholesky'
import { edgeCotangents, edgeEnds } from './cotangents'
import type { TriangleMesh } from '../geometry/triangleMesh'

/** Most bones with a weight at one spot. */
export const MOST_INFLUENCES = 4

/** Weights of spots as sparse rows. */
export interface WeightRows {
  /** [n+1] */
  readonly starts: number[]
  readonly bones: number[]
  readonly weights: number[]
}

/** How heat spreads from bones. */
export interface HeatOptions {
  /** Heat transfer from the bones; smaller values give softer transitions. */
  readonly transfer?: number
  /** Called with 0 to 1. */
  readonly progress?: (done: number) => void
}

/**
 * Weights of bones at the vertices of a region.
 *
 * @param mesh the region, canvas px
 * @param bones [4b] start x,y, end x,y of each bone, canvas px
 * @returns for each vertex at most four bones, largest first, weights summing to 1
 */
export function heatWeights(mesh: TriangleMesh, bones: ArrayLike<number>, options: HeatOptions = {}): WeightRows {
  const n = mesh.vertices.length / 2
  const count = bones.length / 4
  const { i, j, v, area } = cotangentLaplacian(mesh)
  const nearest = nearestBones(mesh, bones)
  const heat = new Float64Array(n)
  const least = Math.max(1e-4, median(nearest.squared) / 4)
  for (let k = 0; k < n; k++) {
    heat[k] = nearest.visible[k] ? ((options.transfer ?? 1) * area[k]!) / Math.max(nearest.squared[k]!, least) : 0
    i.push(k)
    j.push(k)
    v.push(heat[k]!)
  }
  const matrix = symmetricFromTriplets(n, i, j, v)
  const factor = factorise(matrix, dissect(matrix, mesh.vertices))
  const b = new Float64Array(n)
  const columns = Array.from({ length: count }, (_, bone) => {
    for (let k = 0; k < n; k++) b[k] = heat[k]! * nearest.share(k, bone)
    const x = new Float64Array(n)
    factor.solve(b, x)
    options.progress?.((bone + 1) / count)
    return x
  })
  return strongestRows(columns, n)
}

const median = (values: Float64Array): number => values.slice().sort()[values.length >> 1] ?? 0

/** Cotangent weights as triplets of L, and the area that belongs to each vertex. */
function cotangentLaplacian(mesh: TriangleMesh): { i: number[]; j: number[]; v: number[]; area: Float64Array } {
  const i: number[] = []
  const j: number[] = []
  const v: number[] = []
  for (const [key, cotangent] of edgeCotangents(mesh)) {
    // An obtuse angle at the rim gives a negative weight, which would let weights leave 0 to 1: it counts as no edge.
    const weight = Math.max(cotangent, 1e-6)
    const [p, q] = edgeEnds(key, mesh.vertices.length / 2)
    i.push(p, q, p)
    j.push(p, q, q)
    v.push(weight, weight, -weight)
  }
  return { i, j, v, area: vertexAreas(mesh) }
}

/** A third of the area of the triangles about each vertex. */
function vertexAreas({ vertices, triangles }: TriangleMesh): Float64Array {
  const area = new Float64Array(vertices.length / 2)
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    const cross =
      (vertices[b]! - vertices[a]!) * (vertices[c + 1]! - vertices[a + 1]!) -
      (vertices[b + 1]! - vertices[a + 1]!) * (vertices[c]! - vertices[a]!)
    for (let k = 0; k < 3; k++) area[triangles[t + k]!]! += Math.abs(cross) / 6
  }
  return area
}

interface Nearest {
  squared: Float64Array
  visible: Uint8Array
  share(vertex: number, bone: number): number
}

/** Nearest bones of each vertex and whether the way to them stays inside; a piece that sees no bone sees through its rim. */
function nearestBones(mesh: TriangleMesh, bones: ArrayLike<number>): Nearest {
  const { vertices } = mesh
  const n = vertices.length / 2
  const count = bones.length / 4
  const squared = new Float64Array(n).fill(Infinity)
  const visible = new Uint8Array(n)
  const distance = new Float64Array(n * count)
  const rim = rimEdges(mesh)
  for (let k = 0; k < n; k++) {
    const x = vertices[2 * k]!
    const y = vertices[2 * k + 1]!
    let foot = { x, y }
    for (let bone = 0; bone < count; bone++) {
      const f = footOn(bones, bone, x, y)
      const d = (f.x - x) ** 2 + (f.y - y) ** 2
      distance[k * count + bone] = d
      if (d < squared[k]!) {
        squared[k] = d
        foot = f
      }
    }
    visible[k] = staysInside(mesh, rim, k, foot) ? 1 : 0
  }
  lightDarkPieces(mesh, visible)
  const isNearest = (k: number, bone: number): boolean => Math.sqrt(distance[k * count + bone]!) <= Math.sqrt(squared[k]!) + 1e-6
  return {
    squared,
    visible,
    share(k, bone) {
      if (!isNearest(k, bone)) return 0
      let equal = 0
      for (let other = 0; other < count; other++) if (isNearest(k, other)) equal++
      return 1 / equal
    },
  }
}

/** Closest point of a bone to (x, y). */
function footOn(bones: ArrayLike<number>, bone: number, x: number, y: number): { x: number; y: number } {
  const ax = bones[4 * bone]!
  const ay = bones[4 * bone + 1]!
  const dx = bones[4 * bone + 2]! - ax
  const dy = bones[4 * bone + 3]! - ay
  const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
  return { x: ax + t * dx, y: ay + t * dy }
}

/** Edges of the region's rim, pairs of vertices. */
function rimEdges(mesh: TriangleMesh): number[] {
  const n = mesh.vertices.length / 2
  const seen = new Map<number, number>()
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const p = mesh.triangles[t + k]!
      const q = mesh.triangles[t + ((k + 1) % 3)]!
      const key = Math.min(p, q) * n + Math.max(p, q)
      seen.set(key, (seen.get(key) ?? 0) + 1)
    }
  }
  return [...seen].filter(([, times]) => times === 1).flatMap(([key]) => [Math.floor(key / n), key % n])
}

/** Whether the segment from a vertex to a spot crosses no rim edge but those at the vertex itself. */
function staysInside(mesh: TriangleMesh, rim: readonly number[], vertex: number, foot: { x: number; y: number }): boolean {
  const v = mesh.vertices
  const x = v[2 * vertex]!
  const y = v[2 * vertex + 1]!
  const side = (px: number, py: number, qx: number, qy: number, rx: number, ry: number): number =>
    (qx - px) * (ry - py) - (qy - py) * (rx - px)
  for (let e = 0; e < rim.length; e += 2) {
    const p = rim[e]!
    const q = rim[e + 1]!
    if (p === vertex || q === vertex) continue
    const px = v[2 * p]!
    const py = v[2 * p + 1]!
    const qx = v[2 * q]!
    const qy = v[2 * q + 1]!
    if (Math.max(px, qx) < Math.min(x, foot.x) || Math.min(px, qx) > Math.max(x, foot.x)) continue
    if (
      side(x, y, foot.x, foot.y, px, py) * side(x, y, foot.x, foot.y, qx, qy) < 0 &&
      side(px, py, qx, qy, x, y) * side(px, py, qx, qy, foot.x, foot.y) < 0
    ) {
      return false
    }
  }
  return true
}

/** Connected pieces in which no vertex sees a bone would have no heat at all: all their vertices are made to see. */
function lightDarkPieces(mesh: TriangleMesh, visible: Uint8Array): void {
  const n = visible.length
  const leader = Int32Array.from({ length: n }, (_, k) => k)
  const find = (k: number): number => {
    while (leader[k] !== k) k = leader[k] = leader[leader[k]!]!
    return k
  }
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const p = find(mesh.triangles[t]!)
    leader[find(mesh.triangles[t + 1]!)] = p
    leader[find(mesh.triangles[t + 2]!)] = p
  }
  const lit = new Set<number>()
  for (let k = 0; k < n; k++) if (visible[k]) lit.add(find(k))
  for (let k = 0; k < n; k++) if (!lit.has(find(k))) visible[k] = 1
}

/** Weights that are not kept. */
export const NEGLIGIBLE = 1e-3

/** Keeps the strongest influences of each vertex and brings their sum back to 1. `columns` hold one bone each. */
export function strongestRows(columns: readonly Float64Array[], n: number, least = NEGLIGIBLE): WeightRows {
  const rows: WeightRows = { starts: [0], bones: [], weights: [] }
  for (let k = 0; k < n; k++) {
    const all = columns.map((column, bone) => ({ bone, weight: column[k]! })).sort((a, b) => b.weight - a.weight || a.bone - b.bone)
    const kept = all.slice(0, MOST_INFLUENCES).filter((e, at) => at === 0 || e.weight > least)
    const sum = kept.reduce((s, e) => s + Math.max(e.weight, 0), 0)
    for (const e of kept) {
      rows.bones.push(e.bone)
      rows.weights.push(sum > 0 ? Math.max(e.weight, 0) / sum : 1 / kept.length)
    }
    rows.starts.push(rows.bones.length)
  }
  return rows
}
