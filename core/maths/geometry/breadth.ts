/** How broad pieces are at a spot, from their outlines: what a round end there may measure. */
import type { Vec } from '../../kernel/numbers'
import { distanceToPolyline, isWithin } from './polyline'
import { sure } from '../../kernel/sure'

/** Closed polylines as flat x,y pairs. */
export type Rims = readonly (readonly number[])[]

/** How exactly a thickness is found, px. */
const PRECISION = 0.1
/** Directions in which room is looked for. */
const DIRECTIONS = 72
/** What is between two pieces that were cut apart or drawn beside each other, px: no end of them. */
const SLIT = 4

interface Cell {
  readonly x: number
  readonly y: number
  /** Half its side. */
  readonly half: number
  /** The largest circle that a middle within it could have. */
  readonly most: number
}

/** Distance from a spot to the outline: positive within. */
function depthAt(rims: Rims, x: number, y: number): number {
  const distance = Math.min(...rims.map((rim) => distanceToPolyline(rim, true, x, y)))
  return isWithin(rims, x, y, 'nonzero') ? distance : -distance
}

/**
 * Local thickness (Hildebrand and Ruegsegger 1997): radius of the largest circle within the outlines that holds the spot. A limb
 * has half its breadth, whether it ends at the spot or runs on, round or square. Found by dividing squares, the most promising
 * first (as for the pole of inaccessibility, Garcia-Castellanos and Lombardo 2007).
 *
 * @returns px; 0 for a spot that lies outside by more than a slit
 */
export function thicknessAt(rims: Rims, spot: Vec): number {
  const own = depthAt(rims, spot.x, spot.y)
  if (own < -SLIT || rims.length === 0) return 0
  // A spot in the slit beside a cut belongs to the piece.
  const slack = Math.max(0, -own) + PRECISION
  let best = Math.max(0, own)
  let reach = 0
  for (const rim of rims)
    for (let i = 0; i < rim.length; i += 2) reach = Math.max(reach, Math.hypot(rim[i]! - spot.x, rim[i + 1]! - spot.y))
  const cells: Cell[] = []
  const add = (x: number, y: number, half: number): void => {
    const depth = depthAt(rims, x, y)
    const far = Math.hypot(x - spot.x, y - spot.y)
    if (far <= depth + slack) best = Math.max(best, depth)
    const most = depth + half * Math.SQRT2
    // No circle about a middle in here is large enough to hold the spot, or larger than what was found.
    if (most > best + PRECISION && far - half * Math.SQRT2 <= most + slack) cells.push({ x, y, half, most })
  }
  add(spot.x, spot.y, reach)
  while (cells.length > 0) {
    const next = cells.reduce((a, b, i) => (b.most > sure(cells[a]).most ? i : a), 0)
    const { x, y, half, most } = sure(cells.splice(next, 1)[0])
    if (most <= best + PRECISION) break
    for (const dx of [-0.5, 0.5]) for (const dy of [-0.5, 0.5]) add(x + dx * half, y + dy * half, half / 2)
  }
  return best
}

/**
 * Distance from a spot to the silhouette of several pieces together; slits between them are no part of it.
 *
 * @returns px; 0 where the spot is outside of all
 */
export function roomAt(pieces: readonly Rims[], { x, y }: Vec): number {
  let least = Infinity
  for (let k = 0; k < DIRECTIONS; k++) {
    const angle = (2 * Math.PI * k) / DIRECTIONS
    const [dx, dy] = [Math.cos(angle), Math.sin(angle)]
    // A notch where two pieces meet at the silhouette is no end of it: what is seen beside it counts.
    const ways = [0, SLIT, -SLIT].map((aside) => wayOut(pieces, x - aside * dy, y + aside * dx, dx, dy))
    least = Math.min(least, sure(ways[0]) === 0 ? 0 : Math.max(...ways))
  }
  return least
}

/** How far a ray runs within pieces, stepping over slits. */
function wayOut(pieces: readonly Rims[], x: number, y: number, dx: number, dy: number): number {
  const spans = pieces.flatMap((rims) => spansOf(rims, x, y, dx, dy)).sort((a, b) => a[0] - b[0])
  let out = 0
  for (const [from, to] of spans) {
    if (from > out + SLIT) break
    out = Math.max(out, to)
  }
  return out
}

/** Stretches of a ray that lie within outlines. */
function spansOf(rims: Rims, x: number, y: number, dx: number, dy: number): [number, number][] {
  const crossings: { at: number; turn: number }[] = []
  for (const rim of rims)
    for (let i = 0, n = rim.length; i < n; i += 2) {
      const [ax, ay, bx, by] = [rim[i]! - x, rim[i + 1]! - y, rim[(i + 2) % n]! - x, rim[(i + 3) % n]! - y]
      const [sideA, sideB] = [dx * ay - dy * ax, dx * by - dy * bx]
      if (sideA > 0 === sideB > 0) continue
      const share = sideA / (sideA - sideB)
      const at = (ax + share * (bx - ax)) * dx + (ay + share * (by - ay)) * dy
      if (at >= 0) crossings.push({ at, turn: sideB > sideA ? 1 : -1 })
    }
  crossings.sort((a, b) => b.at - a.at)
  // From far away inward: outside of everything at first.
  const spans: [number, number][] = []
  let winding = 0
  let leaves = 0
  for (const { at, turn } of crossings) {
    const before = winding
    winding += turn
    if (before === 0) leaves = at
    else if (winding === 0) spans.push([at, leaves])
  }
  if (winding !== 0) spans.push([0, leaves])
  return spans
}

/** Shares of a bone's length at which a piece is looked at that does not reach the pivot. */
const ALONG = [0, 0.08, -0.08, 0.16, -0.16]

/**
 * Half the breadth of a piece across a bone at its start, the nearer side of both.
 *
 * @returns px; Infinity for a piece that is nowhere near
 */
export function breadthAcross(rims: Rims, { start, end }: { readonly start: Vec; readonly end: Vec }, spot: Vec): number {
  const length = Math.hypot(end.x - start.x, end.y - start.y) || 1
  const [ux, uy] = [(end.x - start.x) / length, (end.y - start.y) / length]
  for (const along of ALONG) {
    const [x, y] = [spot.x + along * length * ux, spot.y + along * length * uy]
    const sides = [1, -1].map((sign) => wayOut([rims], x, y, -sign * uy, sign * ux))
    if (isWithin(rims, x, y, 'nonzero')) return Math.min(...sides)
  }
  return Infinity
}

/**
 * Radius of a round end at which two pieces can meet: half the breadth of the slimmer one, and nowhere outside of what both show.
 *
 * @returns px; 0 where the pieces have nothing at the spot
 */
export function jointRadius(under: Rims, over: Rims, spot: Vec): number {
  const room = roomAt([under, over], spot)
  const limits = [thicknessAt(under, spot), thicknessAt(over, spot)].filter((t) => t > 0).map((t) => t + PRECISION)
  if (room > 0) limits.push(room)
  return limits.length > 0 ? Math.min(...limits) : 0
}
