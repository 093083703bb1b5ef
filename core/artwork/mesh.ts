/** Triangulated interiors of regions. */
import cdt2d from 'cdt2d'
import type { Ring } from '../maths/geometry/polygons'
import { simplifyRegion, type MultiPolygon } from './region'
import type { TriangleMesh } from '../maths/geometry/triangleMesh'

/**
 * Triangulates a region: its outline resampled, a triangular lattice of points inside, and a constrained Delaunay
 * triangulation of both.
 *
 * @param spacing wanted length of edges, px
 * @returns an empty mesh for an empty region
 */
export function meshRegion(region: MultiPolygon, spacing: number): TriangleMesh {
  const outline = simplifyRegion(region, spacing * 0.12)
  const points: [number, number][] = []
  const edges: [number, number][] = []
  for (const rings of outline) for (const ring of rings) addRing(ring, spacing, points, edges)
  const rim = points.length
  const clearance = new NearPoints(points.slice(0, rim), spacing)
  for (const point of latticeInside(outline, spacing)) if (clearance.isFree(point, spacing * 0.55)) points.push(point)
  const triangles = points.length < 3 ? [] : cdt2d(points, edges, { exterior: false })
  return compact(points, triangles)
}

/** A ring's corners with points between them on edges longer than the spacing; the first point is not repeated. */
export function stepped(ring: Ring, spacing: number): [number, number][] {
  const points: [number, number][] = []
  for (let i = 0; i + 1 < ring.length; i++) {
    const [x0, y0] = ring[i]!
    const [x1, y1] = ring[i + 1]!
    const steps = Math.max(1, Math.round(Math.hypot(x1 - x0, y1 - y0) / spacing))
    for (let k = 0; k < steps; k++) points.push([x0 + ((x1 - x0) * k) / steps, y0 + ((y1 - y0) * k) / steps])
  }
  return points
}

/** Adds a ring and its edges. */
function addRing(ring: Ring, spacing: number, points: [number, number][], edges: [number, number][]): void {
  const first = points.length
  points.push(...stepped(ring, spacing))
  const last = points.length - 1
  for (let i = first; i <= last; i++) edges.push([i, i === last ? first : i + 1])
}

/** Points of a triangular lattice that lie inside, row by row: a row meets the outline an even number of times. */
export function latticeInside(region: MultiPolygon, spacing: number): [number, number][] {
  const edges = region.flat().flatMap((ring) => ring.slice(1).map((p, i) => [ring[i]![0], ring[i]![1], p[0], p[1]] as const))
  const top = edges.reduce((m, e) => Math.min(m, e[1], e[3]), Infinity)
  const bottom = edges.reduce((m, e) => Math.max(m, e[1], e[3]), -Infinity)
  const out: [number, number][] = []
  const rise = (spacing * Math.sqrt(3)) / 2
  for (let row = 1; top + row * rise < bottom; row++) {
    const y = top + row * rise
    const crossings = edges
      .filter((e) => e[1] > y !== e[3] > y)
      .map((e) => e[0] + ((y - e[1]) / (e[3] - e[1])) * (e[2] - e[0]))
      .sort((a, b) => a - b)
    const offset = row % 2 === 0 ? 0 : spacing / 2
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const from = Math.ceil((crossings[k]! - offset) / spacing)
      for (let c = from; c * spacing + offset < crossings[k + 1]!; c++) out.push([c * spacing + offset, y])
    }
  }
  return out
}

/** Asks whether a point keeps a distance from given ones; a hash grid. */
export class NearPoints {
  private readonly cells = new Map<string, [number, number][]>()
  constructor(
    points: readonly [number, number][],
    private readonly size: number,
  ) {
    for (const p of points) {
      const key = this.key(p[0], p[1])
      const cell = this.cells.get(key)
      if (cell) cell.push(p)
      else this.cells.set(key, [p])
    }
  }
  private key(x: number, y: number): string {
    return `${Math.floor(x / this.size)},${Math.floor(y / this.size)}`
  }
  isFree([x, y]: readonly [number, number], distance: number): boolean {
    for (let i = -1; i <= 1; i++) {
      for (let j = -1; j <= 1; j++) {
        const cell = this.cells.get(this.key(x + i * this.size, y + j * this.size))
        if (cell?.some((p) => Math.hypot(p[0] - x, p[1] - y) < distance)) return false
      }
    }
    return true
  }
}

/** Keeps the vertices that a triangle uses; coordinates to a hundredth of a pixel. */
function compact(points: readonly [number, number][], triangles: readonly [number, number, number][]): TriangleMesh {
  const place = new Map<number, number>()
  const vertices: number[] = []
  const out: number[] = []
  for (const triangle of triangles) {
    for (const v of triangle) {
      let at = place.get(v)
      if (at === undefined) {
        at = place.size
        place.set(v, at)
        vertices.push(Math.round(points[v]![0] * 100) / 100, Math.round(points[v]![1] * 100) / 100)
      }
      out.push(at)
    }
  }
  return { vertices, triangles: out }
}
