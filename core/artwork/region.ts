/** The region that drawings cover: what is inked and what lines run over, as polygons with holes. */
import { intersectPolygons, unitePolygons, type MultiPolygon, type Polygon, type Ring } from '../maths/geometry/polygons'
import type { Affine } from '../kernel/numbers'
import type { Drawing, Shape } from './records'
import { flatten, mapPath } from '../maths/geometry/path'

export type { MultiPolygon } from '../maths/geometry/polygons'

/** Coordinates are kept on this grid, so that nearly touching edges meet exactly and the union cannot stumble over them. */
const GRID = 1 / 64

/** A coordinate on that grid. */
export const snap = (v: number): number => Math.round(v / GRID) * GRID

/** Area of a ring by the shoelace formula; positive when clockwise on screen. */
export function ringArea(ring: Ring): number {
  let sum = 0
  for (let i = 0; i < ring.length; i++) {
    const [x0, y0] = ring[i]!
    const [x1, y1] = ring[(i + 1) % ring.length]!
    sum += x0 * y1 - x1 * y0
  }
  return sum / 2
}

/** Area of polygons in square px, holes taken away. */
export const polygonsArea = (polygons: MultiPolygon): number =>
  polygons.reduce((sum, rings) => sum + rings.reduce((s, ring, k) => s + (k === 0 ? 1 : -1) * Math.abs(ringArea(ring)), 0), 0)

/**
 * United region of drawings.
 *
 * @param drawings each with the map that takes it into the common space
 * @param tolerance largest distance of the polygons from the curves, px
 */
export function regionOf(drawings: readonly PlacedDrawing[], tolerance: number): MultiPolygon {
  return uniteAll(piecesOf(drawings, tolerance))
}

/** The host that shares most area with a region; null where none shares any. */
export function mostShared<T extends { readonly region: MultiPolygon }>(region: MultiPolygon, hosts: readonly T[]): T | null {
  let best: T | null = null
  let most = 0
  for (const host of hosts) {
    const area = polygonsArea(intersectPolygons(region, host.region))
    if (area > most) [best, most] = [host, area]
  }
  return best
}

/** A drawing with the map that takes it into the common space. */
export interface PlacedDrawing {
  readonly drawing: Drawing
  readonly map: Affine
}

/** The polygons that drawings cover, one by one and overlapping: enough to ask what lies inside, and cheap. */
export const piecesOf = (drawings: readonly PlacedDrawing[], tolerance: number): Polygon[] =>
  drawings.flatMap(({ drawing, map }) => drawing.shapes.flatMap((shape) => shapePieces(shape, map, tolerance)))

function shapePieces(shape: Shape, map: Affine, tolerance: number): Polygon[] {
  const out: Polygon[] = []
  const scale = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]))
  for (const path of shape.paths) {
    const points = flatten(mapPath(path, map), tolerance)
    if (shape.ink && points.length >= 6) out.push([toRing(points)])
    if (shape.line) out.push(...ribbon(points, path.closed, Math.max(0.5, (shape.line.width * scale) / 2)))
  }
  return out
}

function toRing(points: readonly number[]): Ring {
  const ring: Ring = []
  for (let i = 0; i < points.length; i += 2) ring.push([snap(points[i]!), snap(points[i + 1]!)])
  ring.push([...ring[0]!])
  return ring
}

/** A line as boxes over its chords, lengthened by half the width so that they overlap at the corners. */
function ribbon(points: readonly number[], closed: boolean, half: number): Polygon[] {
  const out: Polygon[] = []
  const n = points.length / 2
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const j = (i + 1) % n
    const x0 = points[2 * i]!
    const y0 = points[2 * i + 1]!
    const dx = points[2 * j]! - x0
    const dy = points[2 * j + 1]! - y0
    const length = Math.hypot(dx, dy)
    if (length < GRID) continue
    const ux = (dx / length) * half
    const uy = (dy / length) * half
    const corners = [
      x0 - ux - uy,
      y0 - uy + ux,
      x0 - ux + uy,
      y0 - uy - ux,
      x0 + dx + ux + uy,
      y0 + dy + uy - ux,
      x0 + dx + ux - uy,
      y0 + dy + uy + ux,
    ]
    out.push([toRing(corners)])
  }
  return out
}

/** Union in halves, which keeps the intermediate polygons small. */
function uniteAll(pieces: readonly Polygon[]): MultiPolygon {
  if (pieces.length === 0) return []
  if (pieces.length <= 8) return unitePolygons(pieces[0]!, ...pieces.slice(1))
  const middle = pieces.length >> 1
  return unitePolygons(uniteAll(pieces.slice(0, middle)), uniteAll(pieces.slice(middle)))
}

/** Drops corners that move the outline by less than `tolerance` (Douglas and Peucker 1973) and tiny pieces; what then crosses is united again. */
export function simplifyRegion(region: MultiPolygon, tolerance: number): MultiPolygon {
  const rings = region.map((rings) =>
    rings.map((ring) => simplifyRing(ring, tolerance)).filter((r) => r.length >= 4 && Math.abs(ringArea(r)) > tolerance * tolerance),
  )
  const kept = rings.filter((r) => r.length > 0)
  return kept.length === 0 ? region : unitePolygons(kept[0]!, ...kept.slice(1))
}

function simplifyRing(ring: Ring, tolerance: number): Ring {
  const n = ring.length - 1
  if (n < 4) return ring
  // The ring is cut at its first corner and the one farthest from it, so that both halves have a chord.
  let far = 0
  let best = -1
  for (let i = 1; i < n; i++) {
    const d = (ring[i]![0] - ring[0]![0]) ** 2 + (ring[i]![1] - ring[0]![1]) ** 2
    if (d > best) {
      best = d
      far = i
    }
  }
  const keep = new Uint8Array(n + 1)
  keep[0] = keep[far] = keep[n] = 1
  const stack: [number, number][] = [
    [0, far],
    [far, n],
  ]
  while (stack.length > 0) {
    const [a, b] = stack.pop()!
    let worst = tolerance
    let at = -1
    for (let i = a + 1; i < b; i++) {
      const d = distanceToChord(ring[i]!, ring[a]!, ring[b]!)
      if (d > worst) {
        worst = d
        at = i
      }
    }
    if (at < 0) continue
    keep[at] = 1
    stack.push([a, at], [at, b])
  }
  return ring.filter((_, i) => keep[i])
}

function distanceToChord(p: readonly number[], a: readonly number[], b: readonly number[]): number {
  const dx = b[0]! - a[0]!
  const dy = b[1]! - a[1]!
  const t = Math.min(1, Math.max(0, ((p[0]! - a[0]!) * dx + (p[1]! - a[1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
  return Math.hypot(p[0]! - a[0]! - t * dx, p[1]! - a[1]! - t * dy)
}
