/**
 * An incremental Delaunay triangulation (Bowyer 1981, Watson 1981) with exact predicates (Shewchuk 1997).
 *
 * Points lie inside a box whose corners are its first four vertices. Each triangle has three vertices, turning from x
 * to y, and three neighbours, each opposite to the vertex at the same place:
 *
 *         v0
 *        /  \
 *    n2 /    \ n1
 *      /      \
 *     v1 ---- v2
 *         n0
 */
import { incircle, orient2d } from 'robust-predicates'

const NONE = -1

/** A triangulation in which single points and edges can be put one after the other. */
export class Delaunay {
  /** [2n] */
  readonly points: number[] = []
  /** [3t] vertices; a free slot has -1 first. */
  readonly vertices: number[] = []
  /** [3t] */
  readonly neighbours: number[] = []
  /** Triangles made by the last insertion. */
  made: number[] = []
  /** Edges [a, b, ...] that the last insertion took away. */
  lost: number[] = []
  private readonly free: number[] = []
  /** One triangle at each vertex. */
  private readonly at: number[] = []
  private last = 0

  /** @param minX, minY, maxX, maxY the box; every point must lie strictly inside */
  constructor(minX: number, minY: number, maxX: number, maxY: number) {
    this.points.push(minX, minY, maxX, minY, maxX, maxY, minX, maxY)
    this.vertices.push(0, 1, 2, 0, 2, 3)
    this.neighbours.push(NONE, 1, NONE, NONE, NONE, 0)
    this.at.push(0, 0, 0, 1)
  }

  get count(): number {
    return this.points.length / 2
  }

  /** Positive where a, b, c turn from x to y. */
  private turn(a: number, b: number, x: number, y: number): number {
    const p = this.points
    return -orient2d(p[2 * a]!, p[2 * a + 1]!, p[2 * b]!, p[2 * b + 1]!, x, y)
  }

  private inCircle(t: number, x: number, y: number): boolean {
    const { points: p, vertices: v } = this
    const a = 2 * v[3 * t]!
    const b = 2 * v[3 * t + 1]!
    const c = 2 * v[3 * t + 2]!
    return incircle(p[a]!, p[a + 1]!, p[b]!, p[b + 1]!, p[c]!, p[c + 1]!, x, y) > 0
  }

  /** The triangle in which a point lies, by walking towards it; null where it lies outside of the box. */
  locate(x: number, y: number): number | null {
    let t = this.last
    if (this.vertices[3 * t] === NONE || t >= this.vertices.length / 3) t = this.at[0]!
    for (let steps = this.vertices.length; steps >= 0; steps--) {
      let next = t
      for (let k = 0; k < 3; k++) {
        const a = this.vertices[3 * t + ((k + 1) % 3)]!
        const b = this.vertices[3 * t + ((k + 2) % 3)]!
        if (this.turn(a, b, x, y) >= 0) continue
        next = this.neighbours[3 * t + k]!
        break
      }
      if (next === NONE) return null
      if (next === t) {
        this.last = t
        return t
      }
      t = next
    }
    return null
  }

  /** Triangles whose circle holds a point, which an insertion there would replace. */
  cavity(x: number, y: number): number[] {
    const start = this.locate(x, y)
    if (start === null) return []
    const out = [start]
    const seen = new Set(out)
    for (let i = 0; i < out.length; i++) {
      for (let k = 0; k < 3; k++) {
        const n = this.neighbours[3 * out[i]! + k]!
        if (n === NONE || seen.has(n) || !this.inCircle(n, x, y)) continue
        seen.add(n)
        out.push(n)
      }
    }
    return out
  }

  /** Inserts a point; returns its vertex, or that of a point which is there already. Null outside of the box. */
  insert(x: number, y: number): number | null {
    const hole = this.cavity(x, y)
    this.made = []
    this.lost = []
    if (hole.length === 0) return null
    for (const t of hole)
      for (let k = 0; k < 3; k++) {
        const v = this.vertices[3 * t + k]!
        if (this.points[2 * v] === x && this.points[2 * v + 1] === y) return v
      }
    const vertex = this.count
    this.points.push(x, y)
    this.fill(hole, vertex)
    return vertex
  }

  /** Replaces the triangles of a hole by a fan about a vertex. */
  private fill(hole: readonly number[], vertex: number): void {
    const inHole = new Set(hole)
    const rim: [a: number, b: number, outside: number][] = []
    for (const t of hole) {
      for (let k = 0; k < 3; k++) {
        const a = this.vertices[3 * t + ((k + 1) % 3)]!
        const b = this.vertices[3 * t + ((k + 2) % 3)]!
        const outside = this.neighbours[3 * t + k]!
        if (!inHole.has(outside)) rim.push([a, b, outside])
        else if (a < b) this.lost.push(a, b)
      }
    }
    for (const t of hole) {
      this.vertices[3 * t] = NONE
      this.free.push(t)
    }
    const startingAt = new Map<number, number>()
    for (const [a, b, outside] of rim) {
      const t = this.free.pop() ?? this.vertices.length / 3
      this.vertices[3 * t] = vertex
      this.vertices[3 * t + 1] = a
      this.vertices[3 * t + 2] = b
      this.neighbours[3 * t] = outside
      if (outside !== NONE) this.relink(outside, a, b, t)
      startingAt.set(a, t)
      this.made.push(t)
      this.at[a] = t
    }
    for (const [a, b] of rim) {
      const t = startingAt.get(a)!
      const next = startingAt.get(b)!
      this.neighbours[3 * t + 1] = next
      this.neighbours[3 * next + 2] = t
    }
    this.at[vertex] = this.made[0]!
    this.last = this.made[0]!
  }

  /** Tells a triangle which one lies now beyond its edge a b. */
  private relink(t: number, a: number, b: number, other: number): void {
    for (let k = 0; k < 3; k++) {
      const v = this.vertices[3 * t + k]!
      if (v !== a && v !== b) this.neighbours[3 * t + k] = other
    }
  }

  /** The vertices opposite to an edge, one on either side; null where the two are not joined by an edge. */
  apexes(a: number, b: number): [number, number] | null {
    let t = this.at[a]!
    const start = t
    // Round about the vertex one way, and the other way where that ends at the box.
    for (const step of [1, 2]) {
      t = start
      do {
        const k = this.placeOf(t, a)
        if (this.vertices[3 * t + ((k + step) % 3)] === b) {
          const own = this.vertices[3 * t + ((k + 3 - step) % 3)]!
          const beyond = this.neighbours[3 * t + ((k + 3 - step) % 3)]!
          return [own, beyond === NONE ? own : this.third(beyond, a, b)]
        }
        t = this.neighbours[3 * t + ((k + step) % 3)]!
      } while (t !== NONE && t !== start)
      if (t === start) return null
    }
    return null
  }

  private placeOf(t: number, v: number): number {
    return this.vertices[3 * t] === v ? 0 : this.vertices[3 * t + 1] === v ? 1 : 2
  }

  private third(t: number, a: number, b: number): number {
    for (let k = 0; k < 3; k++) {
      const v = this.vertices[3 * t + k]!
      if (v !== a && v !== b) return v
    }
    return NONE
  }
}
