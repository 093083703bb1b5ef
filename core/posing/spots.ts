/** Spots of the drawing that are followed while the puppet moves. */
import type { BoneId, PartId } from '../kernel/ids'
import type { Vec } from '../kernel/numbers'
import { affineAt, apply } from '../maths/geometry/affine'
import { posedPoint } from '../puppet/probe'
import type { Frame } from '../puppet/frame'
import { drawingOfPart, type Rig } from '../puppet/rig'

/** A spot of a drawing or a picture, as a mean of three of its points. */
export interface DrawnSpot {
  readonly part: PartId
  /** Which points; their weights sum to 1. */
  readonly points: readonly [number, number, number]
  readonly weights: readonly [number, number, number]
  /** Number of points of the drawing when the spot was taken: with another number it is another drawing. */
  readonly of: number
}

/** A spot that goes along with a bone: its place at rest, canvas px. */
export interface BoneRestSpot {
  readonly bone: BoneId
  readonly rest: Vec
}

export type Spot = DrawnSpot | BoneRestSpot

/** The end of a bone; the same in every pose. */
export function tipOf({ bones: { ids, end } }: Rig, bone: number): BoneRestSpot {
  return { bone: ids[bone]!, rest: { x: end[2 * bone]!, y: end[2 * bone + 1]! } }
}

/** Points nearest to a spot among which its triangle is looked for. */
const NEAREST = 14

/**
 * The spot of a drawing that is at a place of the posed canvas. It is written as a mean of three near points of the drawing, if there are
 * such of a triangle around it: exact where the drawing moves as one piece, and true to its bend near these points.
 *
 * @param d index of the drawing in the rig
 * @returns null for a drawing whose points all lie on one line
 */
export function spotOn(frame: Frame, d: number, at: Vec): DrawnSpot | null {
  const { geometry, part } = frame.rig.drawings[d]!
  const count = geometry.points.length / 2
  const places = Array.from({ length: count }, (_, i) => posedPoint(frame, d, i))
  const away = places.map(({ x, y }) => Math.hypot(x - at.x, y - at.y))
  const order = places.map((_, i) => i).sort((i, j) => away[i]! - away[j]!)
  let best: DrawnSpot | null = null
  let least = Infinity
  const near = Math.min(NEAREST, count)
  for (let i = 0; i < near; i++)
    for (let j = i + 1; j < near; j++)
      // Where the nearest ones lie on one line, those beyond them.
      for (let k = j + 1; k < (best ? near : count); k++) {
        const points = [order[i]!, order[j]!, order[k]!] as const
        const weights = meanAt(at, places[points[0]]!, places[points[1]]!, places[points[2]]!)
        if (!weights) continue
        const reach = Math.max(...weights.map(Math.abs))
        // Inside of small triangles, else as little outside as can be.
        const cost = reach <= 1 ? away[points[2]]! : 1e6 * reach
        if (cost >= least) continue
        least = cost
        best = { part: frame.rig.parts.ids[part]!, points, weights, of: count }
      }
  return best
}

/** Weights with which three points make a place; null where they lie on one line. */
function meanAt(p: Vec, a: Vec, b: Vec, c: Vec): [number, number, number] | null {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, c.x - a.x, c.y - a.y]
  const area = ux * vy - uy * vx
  if (Math.abs(area) < 1e-6 * (ux * ux + uy * uy + vx * vx + vy * vy)) return null
  const [px, py] = [p.x - a.x, p.y - a.y]
  const [s, t] = [(px * vy - py * vx) / area, (ux * py - uy * px) / area]
  return [1 - s - t, s, t]
}

/** Where a spot is in a frame; null where the frame's view shows nothing of it. */
export function placeOfSpot(frame: Frame, spot: Spot): Vec | null {
  if ('bone' in spot) {
    const bone = frame.rig.bones.index.get(spot.bone)
    return bone === undefined ? null : apply(affineAt(frame.bones, 6 * bone), spot.rest)
  }
  const d = drawingOfPart(frame.rig, spot.part)
  const drawing = frame.rig.drawings[d]
  if (drawing?.geometry.points.length !== 2 * spot.of) return null
  const out = { x: 0, y: 0 }
  for (let k = 0; k < 3; k++) {
    const { x, y } = posedPoint(frame, d, spot.points[k]!)
    out.x += spot.weights[k]! * x
    out.y += spot.weights[k]! * y
  }
  return out
}
