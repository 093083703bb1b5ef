/** A triangulation that is changed in place: its edges known from both sides, flipped, made Delaunay (Lawson 1977). */
import { incircle } from 'robust-predicates'

/** A triangle mesh as plain lists, as documents keep it. */
export interface Mesh {
  /** [2n] x,y */
  readonly vertices: readonly number[]
  /** [3t] */
  readonly triangles: readonly number[]
}

/** A mesh while it is edited: triangles turn from x to y, and every directed edge knows the corner that it starts at. */
export class EditableMesh {
  readonly vertices: number[]
  readonly triangles: number[]
  private readonly corners = new Map<number, number>()

  constructor(mesh: Mesh) {
    this.vertices = [...mesh.vertices]
    this.triangles = [...mesh.triangles]
    for (let t = 0; t < this.triangles.length; t += 3) {
      const [a, b, c] = this.at(t)
      if (this.turn(a, b, c) < 0) this.triangles.splice(t, 3, a, c, b)
      this.file(t)
    }
  }

  private key(a: number, b: number): number {
    return a * 1048576 + b
  }

  private file(t: number): void {
    for (let k = 0; k < 3; k++) this.corners.set(this.key(this.triangles[t + k]!, this.triangles[t + ((k + 1) % 3)]!), t + k)
  }

  private unfile(t: number): void {
    for (let k = 0; k < 3; k++) this.corners.delete(this.key(this.triangles[t + k]!, this.triangles[t + ((k + 1) % 3)]!))
  }

  /** Corners of the triangle that starts at place t. */
  at(t: number): [number, number, number] {
    return [this.triangles[t]!, this.triangles[t + 1]!, this.triangles[t + 2]!]
  }

  x = (v: number): number => this.vertices[2 * v]!
  y = (v: number): number => this.vertices[2 * v + 1]!

  /** Twice the area of a, b, c; positive where they turn from x to y. */
  turn(a: number, b: number, c: number): number {
    return this.turnTo(a, b, this.x(c), this.y(c))
  }

  turnTo(a: number, b: number, x: number, y: number): number {
    return (this.x(b) - this.x(a)) * (y - this.y(a)) - (this.y(b) - this.y(a)) * (x - this.x(a))
  }

  length(a: number, b: number): number {
    return Math.hypot(this.x(b) - this.x(a), this.y(b) - this.y(a))
  }

  /** Place of the triangle in which a and b follow each other. */
  triangleOf(a: number, b: number): number | null {
    const corner = this.corners.get(this.key(a, b))
    return corner === undefined ? null : corner - (corner % 3)
  }

  /** The third corner of that triangle. */
  apex(a: number, b: number): number | null {
    const corner = this.corners.get(this.key(a, b))
    return corner === undefined ? null : this.triangles[corner - (corner % 3) + ((corner + 2) % 3)]!
  }

  hasEdge(a: number, b: number): boolean {
    return this.triangleOf(a, b) !== null || this.triangleOf(b, a) !== null
  }

  addPoint(x: number, y: number): number {
    return this.vertices.push(x, y) / 2 - 1
  }

  add(a: number, b: number, c: number): void {
    this.triangles.push(a, b, c)
    this.file(this.triangles.length - 3)
  }

  replace(t: number, a: number, b: number, c: number): void {
    this.unfile(t)
    this.triangles.splice(t, 3, a, b, c)
    this.file(t)
  }

  /** Takes triangles away; the last ones take their places. */
  remove(places: readonly number[]): void {
    for (const t of [...places].sort((a, b) => b - a)) {
      const last = this.triangles.length - 3
      this.unfile(t)
      if (t !== last) {
        const moved = this.at(last)
        this.unfile(last)
        this.triangles.splice(t, 3, ...moved)
        this.triangles.length = last
        this.file(t)
      } else this.triangles.length = last
    }
  }

  /** Turns the edge between two triangles into the other diagonal; false where that would fold. */
  flip(a: number, b: number): boolean {
    const [one, two] = [this.triangleOf(a, b), this.triangleOf(b, a)]
    if (one === null || two === null) return false
    const [p, q] = [this.apex(a, b)!, this.apex(b, a)!]
    if (this.turn(p, q, b) <= 0 || this.turn(q, p, a) <= 0) return false
    this.unfile(one)
    this.unfile(two)
    this.triangles.splice(one, 3, p, a, q)
    this.triangles.splice(two, 3, q, b, p)
    this.file(one)
    this.file(two)
    return true
  }

  /** Flips edges until none of those given, or that come up, could be better. */
  legalise(edges: [number, number][]): void {
    for (let left = 64 * edges.length + 256; edges.length > 0 && left > 0; left--) {
      const [a, b] = edges.pop()!
      const [p, q] = [this.apex(a, b), this.apex(b, a)]
      if (p === null || q === null || !this.isInCircle(a, b, p, q) || !this.flip(a, b)) continue
      edges.push([a, q], [q, b], [b, p], [p, a])
    }
  }

  private isInCircle(a: number, b: number, c: number, d: number): boolean {
    const [x, y] = [this.x, this.y]
    return incircle(x(a), y(a), x(b), y(b), x(c), y(c), x(d), y(d)) > 1e-9
  }

  /** Directed edges that belong to one triangle alone. */
  border(): [number, number][] {
    return this.edges().filter(([a, b]) => this.triangleOf(b, a) === null)
  }

  /** Directed edges, each as its triangle has it. */
  edges(): [number, number][] {
    return this.triangles.map((v, i) => [v, this.triangles[i % 3 === 2 ? i - 2 : i + 1]!])
  }

  /** Edges that start at a vertex, with the place of their triangle. */
  fan(v: number): { t: number; from: number; to: number }[] {
    const out: { t: number; from: number; to: number }[] = []
    this.triangles.forEach((u, i) => {
      if (u !== v) return
      const t = i - (i % 3)
      out.push({ t, from: this.triangles[t + ((i + 1) % 3)]!, to: this.triangles[t + ((i + 2) % 3)]! })
    })
    return out
  }

  /** Whether two segments cross inside both. */
  crosses(a: number, b: number, c: number, d: number): boolean {
    if (a === c || a === d || b === c || b === d) return false
    return this.turn(a, b, c) * this.turn(a, b, d) < 0 && this.turn(c, d, a) * this.turn(c, d, b) < 0
  }

  /** The mesh without vertices that no triangle uses. */
  result(): Mesh {
    const place = new Map<number, number>()
    const vertices: number[] = []
    const used = new Set(this.triangles)
    for (let v = 0; v < this.vertices.length / 2; v++) {
      if (!used.has(v)) continue
      place.set(v, vertices.length / 2)
      vertices.push(this.x(v), this.y(v))
    }
    return { vertices, triangles: this.triangles.map((v) => place.get(v)!) }
  }
}
