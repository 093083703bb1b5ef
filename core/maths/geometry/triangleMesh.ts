/** Triangle meshes as flat arrays. */
export interface TriangleMesh {
  /** [2n] x,y */
  readonly vertices: number[]
  /** [3t] counted into vertices */
  readonly triangles: number[]
}
