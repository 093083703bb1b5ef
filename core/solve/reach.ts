/** Posing bones by where they should point or reach: closed formulas for one and two bones. */
import type { Vec } from '../document/schema'
import { toDegrees, toRadians } from '../geometry/affine'

export interface AngleRange {
  /** Degrees; infinite where there is no limit. */
  readonly min: number
  readonly max: number
}

/** An angle in degrees brought to within half a turn of another, so that a drag never jumps by a full turn. */
export const nearestTurn = (degrees: number, to: number): number => degrees - 360 * Math.round((degrees - to) / 360)

/** An angle brought inside its range. */
export const clampAngle = (v: number, range: AngleRange): number => Math.min(range.max, Math.max(range.min, v))

/** Direction of a vector in degrees, counter-clockwise on screen (y down). */
const direction = (v: Vec): number => toDegrees(Math.atan2(-v.y, v.x))

/** Angle by which `from` must be turned about the origin to point along `to`; degrees, counter-clockwise. */
export const turnBetween = (from: Vec, to: Vec): number => nearestTurn(direction(to) - direction(from), 0)

function turned(v: Vec, degrees: number): Vec {
  const c = Math.cos(toRadians(degrees))
  const s = Math.sin(toRadians(degrees))
  return { x: c * v.x + s * v.y, y: -s * v.x + c * v.y }
}

export interface TwoBones {
  /** Start of the upper bone in the pose. */
  readonly root: Vec
  /** Turn of everything above the upper bone, degrees. */
  readonly base: number
  /** Rest vectors: from the upper bone's start to the lower bone's start, and from there to the grabbed spot. */
  readonly upper: Vec
  readonly lower: Vec
  /** Present angles, degrees from rest; they decide the side to which the limb bends. */
  readonly angles: readonly [number, number]
  readonly limits: readonly [AngleRange, AngleRange]
}

/**
 * Angles that bring the grabbed spot of two bones to a target, by the law of cosines.
 *
 * A target that is too far or too near is reached for as far as the lengths allow. The bend side of the present pose
 * is kept; where that side is forbidden by the lower bone's limits the other one is taken. Where limits stop the
 * lower bone, the upper one is turned so that the spot still lies in the direction of the target.
 *
 * @returns angles of both bones, degrees from rest, inside the limits
 */
export function reachWithTwo(limb: TwoBones, target: Vec): [number, number] {
  const a = Math.hypot(limb.upper.x, limb.upper.y)
  const b = Math.hypot(limb.lower.x, limb.lower.y)
  const wanted = Math.hypot(target.x - limb.root.x, target.y - limb.root.y)
  const distance = Math.min(a + b, Math.max(Math.abs(a - b), wanted))
  // Interior angle between the bones, and the bend it means: 0 is straight.
  const cosine = (a * a + b * b - distance * distance) / Math.max(2 * a * b, 1e-12)
  const bend = 180 - toDegrees(Math.acos(Math.min(1, Math.max(-1, cosine))))
  const restBend = turnBetween(limb.upper, limb.lower)
  const lower = chooseSide(limb, bend, restBend)
  // With the lower bone settled, the whole limb turns about its root until the spot points at the target.
  const tip = turned(limb.lower, lower)
  const spot = turned({ x: limb.upper.x + tip.x, y: limb.upper.y + tip.y }, limb.base)
  const towards = { x: target.x - limb.root.x, y: target.y - limb.root.y }
  const upper = wanted < 1e-9 ? limb.angles[0] : turnBetween(spot, towards)
  return [clampAngle(nearestTurn(upper, limb.angles[0]), limb.limits[0]), lower]
}

/** The lower bone's angle for a bend to either side: the present side if limits allow it, else the other, else the nearer. */
function chooseSide(limb: TwoBones, bend: number, restBend: number): number {
  const present = nearestTurn(restBend + limb.angles[1], 0)
  const side = Math.abs(present) > 0.5 ? Math.sign(present) : sideOfLimits(limb.limits[1], restBend)
  const options = [side * bend, -side * bend].map((b) => nearestTurn(b - restBend, limb.angles[1]))
  const misses = options.map((o) => Math.abs(clampAngle(o, limb.limits[1]) - o))
  const pick = misses[1]! < misses[0]! - 1e-6 ? 1 : 0
  return clampAngle(options[pick]!, limb.limits[1])
}

/** The side with more room within the limits. */
function sideOfLimits(limits: AngleRange, restBend: number): number {
  const up = Math.min(limits.max, 180) + restBend
  const down = -Math.max(limits.min, -180) - restBend
  return up >= down ? 1 : -1
}
