/** Edges and outlines of triangulations. */

/** An edge between two vertices, whichever way it runs. */
export const edgeKey = (a: number, b: number): string => (a < b ? `${a},${b}` : `${b},${a}`)

/** The vertex after corner `t` of a list of triangles, round its triangle. */
const nextCorner = (triangles: ArrayLike<number>, t: number): number => triangles[t % 3 === 2 ? t - 2 : t + 1]!

/** Edges that two triangles share. */
export function innerEdges(triangles: ArrayLike<number>): Set<string> {
  const once = new Set<string>()
  const twice = new Set<string>()
  for (let t = 0; t < triangles.length; t++) {
    const key = edgeKey(triangles[t]!, nextCorner(triangles, t))
    if (once.has(key)) twice.add(key)
    once.add(key)
  }
  return twice
}

/**
 * Boundary loops of a triangulation: edges that belong to one triangle alone, joined end to end.
 *
 * @param triangles [3t] vertex indices, all turning the same way
 * @returns vertex indices of each loop, the first not repeated; a vertex where loops touch stands in each of them
 */
export function boundaryLoops(triangles: ArrayLike<number>): number[][] {
  const next = new Map<number, number[]>()
  const inner = innerEdges(triangles)
  for (let t = 0; t < triangles.length; t++) {
    const a = triangles[t]!
    const b = nextCorner(triangles, t)
    if (inner.has(edgeKey(a, b))) continue
    const list = next.get(a)
    if (list) list.push(b)
    else next.set(a, [b])
  }
  const loops: number[][] = []
  for (const start of next.keys()) {
    while (next.get(start)!.length > 0) {
      const loop: number[] = []
      for (let at: number | undefined = start; at !== undefined;) {
        loop.push(at)
        at = next.get(at)?.pop()
        if (at === start) break
      }
      loops.push(loop)
    }
  }
  return loops
}
