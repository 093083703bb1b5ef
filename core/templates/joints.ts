/**
 * Where pieces of artwork are joined, and how bones run through them: found from the drawing itself.
 */
import { intersectPolygons, type MultiPolygon } from '../maths/geometry/polygons'
import { medialLine } from '../artwork/medial'
import { alongLine, lineLength } from '../maths/geometry/polyline'
import { stepped } from '../artwork/mesh'
import { polygonsArea } from '../artwork/region'
import type { Vec } from '../kernel/numbers'
import { largestCircle, signedDistance } from '../maths/geometry/largestCircle'
import { nth } from '../kernel/sure'

/** How a spot was found. */
export type FoundBy = 'overlap' | 'contact' | 'medial' | 'middle' | 'figure'

/** A spot of the skeleton, and how it was found. */
export interface Spot {
  readonly at: Vec
  readonly by: FoundBy
}

/** The shape of a piece with what is asked of it again and again. */
export interface Piece {
  readonly region: MultiPolygon
  readonly area: number
  readonly medial: readonly Vec[]
  /** Middle of the largest circle in it, and its radius. */
  readonly middle: Vec
  readonly radius: number
}

/** Null where nothing shows. */
export function pieceOf(region: MultiPolygon): Piece | null {
  const circle = largestCircle(region)
  if (!circle) return null
  return { region, area: polygonsArea(region), medial: medialLine(region), middle: circle.centre, radius: circle.radius }
}

/** Overlaps smaller than this, px², are a contact. */
const LEAST_OVERLAP = 4
/** Share of a piece that overlaps beyond which only the overlap at one end of it counts: it lies over the other, not at it. */
const LIES_OVER = 0.4
/** A piece whose ends lie equally deep in the other, up to this many radii, lies across it. */
const ACROSS = 0.25
/** Largest gap of a contact, in radii of the smaller piece's largest circle. */
const WIDEST_GAP = 1

/**
 * The joint of a piece with a neighbour: the middle of their overlap, or, where they only touch, of the contact. Null
 * where they are apart.
 */
export function jointOf(piece: Piece, neighbour: Piece): Spot | null {
  const overlap = intersectPolygons(piece.region, neighbour.region)
  if (polygonsArea(overlap) > LEAST_OVERLAP) {
    const at = middleOf(endOverlap(piece, neighbour, overlap) ?? overlap)
    if (at) return { at, by: 'overlap' }
  }
  return contactOf(piece, neighbour)
}

/** How deep the centre of gravity of an overlap lies in it, in radii of its largest circle, to be its middle. */
const DEEP_ENOUGH = 0.7

/**
 * The middle of an overlap: its centre of gravity, or, where that lies near its rim or outside, the centre of its largest
 * circle. A collar is a wide strip in which the largest circle fits anywhere: its centre would make a spine lean.
 */
function middleOf(overlap: MultiPolygon): Vec | null {
  const circle = largestCircle(overlap)
  if (!circle) return null
  const centre = centroidOf(overlap)
  return signedDistance(overlap, centre.x, centre.y) >= DEEP_ENOUGH * circle.radius ? centre : circle.centre
}

/** Centre of gravity of polygons with holes. */
function centroidOf(region: MultiPolygon): Vec {
  let [area, sx, sy] = [0, 0, 0]
  for (const polygon of region)
    polygon.forEach((ring, k) => {
      let [a, x, y] = [0, 0, 0]
      ring.forEach(([px, py], i) => {
        const [qx, qy] = nth(ring, (i + 1) % ring.length)
        const cross = px * qy - qx * py
        a += cross
        x += (px + qx) * cross
        y += (py + qy) * cross
      })
      // Rings turn either way; all but the first of a polygon are holes.
      const sign = (k === 0 ? 1 : -1) * Math.sign(a)
      area += sign * a
      sx += sign * x
      sy += sign * y
    })
  return { x: sx / (3 * area), y: sy / (3 * area) }
}

/**
 * Where one piece lies over the other for a good part of its length, the joint is at its end: the overlap within a
 * circle about the end that lies deeper in the neighbour.
 */
function endOverlap(piece: Piece, neighbour: Piece, overlap: MultiPolygon): MultiPolygon | null {
  const slim = piece.area <= neighbour.area ? piece : neighbour
  const other = slim === piece ? neighbour : piece
  if (polygonsArea(overlap) < LIES_OVER * slim.area || !isSlim(slim)) return null
  const [a, b] = [nth(slim.medial, 0), nth(slim.medial, -1)]
  const deep = (spot: Vec): number => signedDistance(other.region, spot.x, spot.y)
  // A collar or a pelvis lies across: both of its ends reach as deep, and neither is the joint.
  if (Math.abs(deep(a) - deep(b)) < ACROSS * slim.radius) return null
  const deeper = deep(a) > deep(b) ? a : b
  const near = intersectPolygons(overlap, [discRing(deeper, 2.2 * slim.radius)])
  return polygonsArea(near) > LEAST_OVERLAP ? near : null
}

function discRing({ x, y }: Vec, radius: number): [number, number][] {
  const ring = Array.from({ length: 32 }, (_, i): [number, number] => {
    const angle = (i / 32) * 2 * Math.PI
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)]
  })
  return [...ring, nth(ring, 0)]
}

/** The middle of where two outlines come nearest to each other. */
function contactOf(a: Piece, b: Piece): Spot | null {
  const samples = a.region.flat().flatMap((ring) => stepped(ring, 2))
  const gaps = samples.map(([x, y]) => Math.abs(signedDistance(b.region, x, y)))
  const least = gaps.reduce((m, g) => Math.min(m, g), Infinity)
  if (!(least <= WIDEST_GAP * Math.min(a.radius, b.radius))) return null
  const touching = samples.filter((_, i) => nth(gaps, i) <= least + 1.5)
  const sum = touching.reduce((s, [x, y]) => ({ x: s.x + x, y: s.y + y }), { x: 0, y: 0 })
  return { at: { x: sum.x / touching.length, y: sum.y / touching.length }, by: 'contact' }
}

/** Whether a piece is a limb rather than a blob: its medial line is much longer than it is wide. */
export const isSlim = (piece: Piece): boolean => lineLength(piece.medial) > 2.4 * 2 * piece.radius

/** Share of a part's length by which a bone ends before its rim. */
const INSET = 0.08

/** Where a bone ends that begins at a spot of a piece and leads out of it: the far end of its medial line. */
export function farEnd(piece: Piece, start: Vec): Spot {
  if (!isSlim(piece)) return { at: acrossFrom(piece, start), by: 'medial' }
  const line = turnedFrom(piece.medial, start)
  return { at: alongLine(line, 1 - INSET), by: 'medial' }
}

/** The medial line so that it begins at the end nearer to a spot. */
function turnedFrom(line: readonly Vec[], start: Vec): readonly Vec[] {
  const [a, b] = [nth(line, 0), nth(line, -1)]
  return apart(a, start) <= apart(b, start) ? line : [...line].reverse()
}

/** From a spot through the middle of a blob to near its other side. */
function acrossFrom({ region, middle, radius }: Piece, start: Vec): Vec {
  const dx = middle.x - start.x
  const dy = middle.y - start.y
  const length = Math.hypot(dx, dy)
  if (length < 1e-6) return { x: middle.x, y: middle.y - radius }
  let reach = length
  while (signedDistance(region, start.x + (dx / length) * (reach + 1), start.y + (dy / length) * (reach + 1)) > 0) reach++
  const to = reach - INSET * reach
  return { x: start.x + (dx / length) * to, y: start.y + (dy / length) * to }
}

/** The end of a piece from which it grows where it hangs from nothing: away from where it leads to, else the lower one. */
export function nearEnd(piece: Piece, towards: Vec | null): Spot {
  const [a, b] = [piece.medial[0] ?? piece.middle, piece.medial.at(-1) ?? piece.middle]
  const isFirst = towards ? apart(a, towards) > apart(b, towards) : a.y > b.y
  const [from, to] = isFirst ? [a, b] : [b, a]
  return { at: { x: from.x + INSET * (to.x - from.x), y: from.y + INSET * (to.y - from.y) }, by: 'medial' }
}

/** The way through a piece from one spot to another: along its medial line where it is slim, straight otherwise. */
export function wayThrough(piece: Piece, start: Vec, end: Vec): Vec[] {
  const straight = [start, end]
  if (!isSlim(piece)) return straight
  const line = turnedFrom(piece.medial, start)
  const nearest = (spot: Vec): number => line.reduce((best, p, i) => (apart(p, spot) < apart(nth(line, best), spot) ? i : best), 0)
  const [from, to] = [nearest(start), nearest(end)]
  // Next to its joints the line runs into a corner of the rim; there the way is straight.
  const reach = piece.radius
  const between = line.slice(from, to + 1).filter((p) => apart(p, start) > reach && apart(p, end) > reach)
  const way = [start, ...between, end]
  return lineLength(way) > 1.6 * apart(start, end) && between.length < 3 ? straight : way
}

const apart = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)
