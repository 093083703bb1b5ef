/** Cotangent weights of the edges of a triangulation (Pinkall and Polthier 1993). */
import type { TriangleMesh } from '../geometry/triangleMesh'

/** The ends of an edge by its key in a mesh of n vertices. */
export const edgeEnds = (key: number, n: number): readonly [number, number] => [Math.floor(key / n), key % n]

/**
 * Half the sum of the cotangents of the angles that face each edge.
 *
 * @returns by key: the smaller vertex times the number of vertices, plus the larger one. Flat triangles give large
 * values of either sign; obtuse angles at the rim give negative ones.
 */
export function edgeCotangents({ vertices, triangles }: TriangleMesh): Map<number, number> {
  const edges = new Map<number, number>()
  const n = vertices.length / 2
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const o = triangles[t + k]!
      const p = triangles[t + ((k + 1) % 3)]!
      const q = triangles[t + ((k + 2) % 3)]!
      const ux = vertices[2 * p]! - vertices[2 * o]!
      const uy = vertices[2 * p + 1]! - vertices[2 * o + 1]!
      const wx = vertices[2 * q]! - vertices[2 * o]!
      const wy = vertices[2 * q + 1]! - vertices[2 * o + 1]!
      const key = Math.min(p, q) * n + Math.max(p, q)
      edges.set(key, (edges.get(key) ?? 0) + (ux * wx + uy * wy) / Math.max(Math.abs(ux * wy - uy * wx), 1e-9) / 2)
    }
  }
  return edges
}
