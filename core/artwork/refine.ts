/**
 * Quality triangulation of a region by Delaunay refinement (Ruppert 1995), with concentric shells about sharp corners
 * (Shewchuk 2000) so that it ends for every outline.
 *
 * Outline edges whose diametral circle holds a vertex are split; then triangles with an angle that is too small, or
 * that are too large, get a vertex at their circumcentre, unless that would come too close to an outline edge, which is
 * split instead. All angles end above arcsin(1 / (2 √2)), 20.7 degrees, but beside corners of the outline sharper than
 * 60 degrees.
 */
import { emptyBounds, include } from '../maths/geometry/bounds'
import { Delaunay } from '../maths/geometry/delaunay'
import { edgeKey } from '../maths/geometry/meshOutline'
import type { TriangleMesh } from '../maths/geometry/triangleMesh'

/** Radius of the circumcircle over the shortest edge: √2 is 20.7 degrees; a little less keeps a reserve. */
const RATIO = 1.4
/** Largest circumradius over the wanted spacing; that of an equilateral triangle is 0.577. */
const LARGEST = 0.85
/** Vertices beyond which refining stops, over those at the start. A bound against endless work, never met by sound outlines. */
const MOST = 40

/** A piece of an outline edge. */
interface Segment {
  readonly a: number
  readonly b: number
  /** The outline edge that it is a piece of. */
  readonly edge: number
}

type Loops = readonly (readonly (readonly [number, number])[])[]

/**
 * Triangulates what lies inside of loops (by the even-odd rule).
 *
 * @param loops outlines and holes, px; the first point is not repeated; they must not cross
 * @param inner points to begin with, e.g. a lattice; well inside
 * @param spacing wanted length of edges, px
 */
export function refineRegion(loops: Loops, inner: Loops[number], spacing: number): TriangleMesh {
  const refiner = new Refiner(loops, inner, spacing)
  refiner.run()
  return refiner.result()
}

/**
 * Triangulates what lies inside of loops without points inside: a Delaunay triangulation in which outline edges are
 * split until all of them are part of it.
 */
export function triangulateRegion(loops: Loops): TriangleMesh {
  const refiner = new Refiner(loops, [], Infinity)
  refiner.conform()
  return refiner.result()
}

class Refiner {
  private readonly mesh: Delaunay
  private readonly segments = new Map<string, Segment>()
  private readonly open: Segment[] = []
  private readonly bad: number[] = []
  /** Outline edges: their two corners. */
  private readonly edges: (readonly [number, number])[] = []
  /** Outline edge on which a vertex lies inside; -1 for corners and vertices of the interior. */
  private readonly edgeOf: number[] = []
  /** Outline edges that meet at a corner with less than 60 degrees between them. */
  private readonly sharp = new Map<number, Set<number>>()
  private readonly inside: (x: number, y: number) => boolean
  private readonly most: number

  constructor(
    loops: Loops,
    inner: Loops[number],
    private readonly spacing: number,
  ) {
    const box = emptyBounds()
    for (const [x, y] of loops.flat()) include(box, x, y)
    const { minX, minY, maxX, maxY } = box
    const pad = Math.max(maxX - minX, maxY - minY, 1)
    this.mesh = new Delaunay(minX - pad, minY - pad, maxX + pad, maxY + pad)
    this.inside = insideTest(loops, minY, maxY)
    for (const loop of loops) this.addLoop(loop)
    for (const [x, y] of inner) this.mesh.insert(x, y)
    this.most = MOST * this.mesh.count + 20000
  }

  /** Splits outline edges until all are part of the triangulation. */
  conform(): void {
    this.open.push(...this.segments.values())
    this.splitAll()
  }

  run(): void {
    this.conform()
    for (let t = 0; t < this.mesh.vertices.length / 3; t++) this.bad.push(t)
    while (this.bad.length > 0 && this.mesh.count < this.most) this.mend(this.bad.pop()!)
  }

  /** The triangles inside, their vertices numbered anew. */
  result(): TriangleMesh {
    const { vertices: v, points } = this.mesh
    const place = new Map<number, number>()
    const out: { vertices: number[]; triangles: number[] } = { vertices: [], triangles: [] }
    for (let t = 0; t < v.length; t += 3) {
      if (v[t]! < 0 || !this.isInside(t / 3)) continue
      for (let k = 0; k < 3; k++) {
        const vertex = v[t + k]!
        if (!place.has(vertex)) {
          place.set(vertex, place.size)
          out.vertices.push(points[2 * vertex]!, points[2 * vertex + 1]!)
        }
        out.triangles.push(place.get(vertex)!)
      }
    }
    return out
  }

  private addLoop(loop: Loops[number]): void {
    const corners = loop.map(([x, y]) => this.mesh.insert(x, y)!).filter((v, i, all) => v !== all[i - 1])
    if (corners.length > 1 && corners[0] === corners.at(-1)) corners.pop()
    const first = this.edges.length
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length]!
      const edge = this.edges.push([a, b]) - 1
      this.addSegment({ a, b, edge })
    })
    corners.forEach((corner, i) => {
      const before = corners[(i + corners.length - 1) % corners.length]!
      const after = corners[(i + 1) % corners.length]!
      if (this.cosine(corner, before, after) <= 0.5) return
      const pair = this.sharp.get(corner) ?? new Set()
      pair.add(first + i).add(first + ((i + corners.length - 1) % corners.length))
      this.sharp.set(corner, pair)
    })
  }

  private addSegment(segment: Segment): void {
    this.segments.set(edgeKey(segment.a, segment.b), segment)
  }

  /** Cosine of the angle at a vertex between two others. */
  private cosine(at: number, a: number, b: number): number {
    const p = this.mesh.points
    const ux = p[2 * a]! - p[2 * at]!
    const uy = p[2 * a + 1]! - p[2 * at + 1]!
    const vx = p[2 * b]! - p[2 * at]!
    const vy = p[2 * b + 1]! - p[2 * at + 1]!
    return (ux * vx + uy * vy) / (Math.hypot(ux, uy) * Math.hypot(vx, vy) || 1)
  }

  private distance(a: number, b: number): number {
    const p = this.mesh.points
    return Math.hypot(p[2 * a]! - p[2 * b]!, p[2 * a + 1]! - p[2 * b + 1]!)
  }

  /** Whether a segment is missing, or an apex beside it lies in its diametral circle. */
  private isEncroached({ a, b }: Segment): boolean {
    const apexes = this.mesh.apexes(a, b)
    return !apexes || apexes.some((apex) => this.cosine(apex, a, b) < 0)
  }

  private splitAll(): void {
    while (this.open.length > 0 && this.mesh.count < this.most) {
      const segment = this.open.pop()!
      if (this.segments.get(edgeKey(segment.a, segment.b)) === segment && this.isEncroached(segment)) this.split(segment)
    }
  }

  /** Splits a segment in the middle, or on a shell about the sharp corner where it begins. */
  private split(segment: Segment): void {
    const { a, b, edge } = segment
    const p = this.mesh.points
    const t = this.sharp.has(a) !== this.sharp.has(b) ? this.shell(this.sharp.has(a) ? a : b, a, b) : 0.5
    const x = p[2 * a]! + t * (p[2 * b]! - p[2 * a]!)
    const y = p[2 * a + 1]! + t * (p[2 * b + 1]! - p[2 * a + 1]!)
    const before = this.mesh.count
    const middle = this.mesh.insert(x, y)
    this.segments.delete(edgeKey(a, b))
    if (middle === null || middle === a || middle === b) return
    if (middle >= before) this.edgeOf[middle] = edge
    for (const half of [
      { a, b: middle, edge },
      { a: middle, b, edge },
    ]) {
      this.addSegment(half)
      this.open.push(half)
    }
    if (middle >= before) this.look()
  }

  /** Where a segment is cut so that its end by the corner has a length that is a power of two. */
  private shell(corner: number, a: number, b: number): number {
    const length = this.distance(a, b)
    const reach = 2 ** Math.round(Math.log2(length / 2))
    const t = Math.min(0.75, Math.max(0.25, reach / length))
    return corner === a ? t : 1 - t
  }

  /** After an insertion: new triangles may be bad, and segments near it encroached or lost. */
  private look(): void {
    const { made, lost, vertices } = this.mesh
    for (let i = 0; i < lost.length; i += 2) this.reopen(lost[i]!, lost[i + 1]!)
    for (const t of made) {
      this.bad.push(t)
      for (let k = 0; k < 3; k++) this.reopen(vertices[3 * t + k]!, vertices[3 * t + ((k + 1) % 3)]!)
    }
  }

  private reopen(a: number, b: number): void {
    const segment = this.segments.get(edgeKey(a, b))
    if (segment) this.open.push(segment)
  }

  /** Puts a vertex at the circumcentre of a bad triangle, or splits the segments that it would encroach upon. */
  private mend(t: number): void {
    if (!this.isBad(t)) return
    const [x, y] = this.centre(t)
    const near = this.encroachedBy(x, y)
    if (near.length === 0) {
      const before = this.mesh.count
      this.mesh.insert(x, y)
      if (this.mesh.count > before) this.look()
    } else {
      for (const segment of near) if (this.segments.get(edgeKey(segment.a, segment.b)) === segment) this.split(segment)
      this.bad.push(t)
    }
    this.splitAll()
  }

  private isBad(t: number): boolean {
    const { vertices: v } = this.mesh
    if (v[3 * t]! < 0) return false
    const [a, b, c] = [v[3 * t]!, v[3 * t + 1]!, v[3 * t + 2]!]
    if (Math.min(a, b, c) < 4) return false
    const edges = [
      [this.distance(a, b), a, b],
      [this.distance(b, c), b, c],
      [this.distance(c, a), c, a],
    ] as const
    const [shortest, u, w] = edges.reduce((m, e) => (e[0] < m[0] ? e : m))
    const radius = circumradius(edges[0][0], edges[1][0], edges[2][0])
    if (radius <= RATIO * shortest && radius <= LARGEST * this.spacing) return false
    if (!this.isInside(t)) return false
    return radius > LARGEST * this.spacing || !this.isForced(u, w)
  }

  /** Whether a short edge spans a sharp corner of the outline, on one shell: no vertex could mend the angle. */
  private isForced(u: number, w: number): boolean {
    const [e, f] = [this.edgeOf[u] ?? -1, this.edgeOf[w] ?? -1]
    if (e < 0 || f < 0 || e === f) return false
    for (const corner of this.edges[e]!)
      if (this.edges[f]!.includes(corner) && this.sharp.get(corner)?.has(e)) {
        const near = this.distance(u, corner)
        return Math.abs(near - this.distance(w, corner)) < 0.01 * near
      }
    return false
  }

  private isInside(t: number): boolean {
    const { vertices: v, points: p } = this.mesh
    const [a, b, c] = [2 * v[3 * t]!, 2 * v[3 * t + 1]!, 2 * v[3 * t + 2]!]
    return this.inside((p[a]! + p[b]! + p[c]!) / 3, (p[a + 1]! + p[b + 1]! + p[c + 1]!) / 3)
  }

  private centre(t: number): [number, number] {
    const { vertices: v, points: p } = this.mesh
    const a = 2 * v[3 * t]!
    const [bx, by] = [p[2 * v[3 * t + 1]!]! - p[a]!, p[2 * v[3 * t + 1]! + 1]! - p[a + 1]!]
    const [cx, cy] = [p[2 * v[3 * t + 2]!]! - p[a]!, p[2 * v[3 * t + 2]! + 1]! - p[a + 1]!]
    const d = 2 * (bx * cy - by * cx)
    const b2 = bx * bx + by * by
    const c2 = cx * cx + cy * cy
    return [p[a]! + (cy * b2 - by * c2) / d, p[a + 1]! + (bx * c2 - cx * b2) / d]
  }

  /** Segments in whose diametral circle a point lies, among those that an insertion there would touch. */
  private encroachedBy(x: number, y: number): Segment[] {
    const { vertices: v, points: p } = this.mesh
    const out: Segment[] = []
    for (const t of this.mesh.cavity(x, y)) {
      for (let k = 0; k < 3; k++) {
        const segment = this.segments.get(edgeKey(v[3 * t + k]!, v[3 * t + ((k + 1) % 3)]!))
        if (!segment || out.includes(segment)) continue
        const { a, b } = segment
        const dot = (p[2 * a]! - x) * (p[2 * b]! - x) + (p[2 * a + 1]! - y) * (p[2 * b + 1]! - y)
        if (dot < 0) out.push(segment)
      }
    }
    return out
  }
}

/** R = abc / 4A, with the area by Heron's formula as Kahan (1986) writes it, stable for needles. */
function circumradius(a: number, b: number, c: number): number {
  const [x, y, z] = [a, b, c].sort((p, q) => q - p) as [number, number, number]
  const area4 = Math.sqrt(Math.max(0, (x + (y + z)) * (z - (x - y)) * (z + (x - y)) * (x + (y - z))))
  return area4 === 0 ? Infinity : (a * b * c) / area4
}

/** Even-odd test against loops; their edges are filed by rows. */
function insideTest(loops: Loops, minY: number, maxY: number): (x: number, y: number) => boolean {
  const rows = Math.max(1, Math.min(512, Math.ceil(maxY - minY)))
  const high = (maxY - minY) / rows || 1
  const filed: (readonly [number, number, number, number])[][] = Array.from({ length: rows }, () => [])
  const rowOf = (y: number): number => Math.min(rows - 1, Math.max(0, Math.floor((y - minY) / high)))
  for (const loop of loops)
    loop.forEach(([x0, y0], i) => {
      const [x1, y1] = loop[(i + 1) % loop.length]!
      for (let r = rowOf(Math.min(y0, y1)); r <= rowOf(Math.max(y0, y1)); r++) filed[r]!.push([x0, y0, x1, y1])
    })
  return (x, y) => {
    if (y < minY || y > maxY) return false
    let odd = false
    for (const [x0, y0, x1, y1] of filed[rowOf(y)]!) if (y0 > y !== y1 > y && x < x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) odd = !odd
    return odd
  }
}
