/** Posing bones by where they should point or reach. */
import type { Vec } from '../document/schema'
import { toDegrees } from '../geometry/affine'
import { limbOf } from './chain'
import { nearestTurn } from './limb'

export { nearestTurn }

export interface AngleRange {
  /** Degrees; infinite where there is no limit. */
  readonly min: number
  readonly max: number
}

/** An angle brought inside its range. */
export const clampAngle = (v: number, range: AngleRange): number => Math.min(range.max, Math.max(range.min, v))

/** Direction of a vector in degrees, counter-clockwise on screen (y down). */
const direction = (v: Vec): number => toDegrees(Math.atan2(-v.y, v.x))

/** Angle by which `from` must be turned about the origin to point along `to`; degrees, counter-clockwise. */
export const turnBetween = (from: Vec, to: Vec): number => nearestTurn(direction(to) - direction(from), 0)

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
export function reachWithTwo({ root, base, upper, lower, angles, limits }: TwoBones, target: Vec): [number, number] {
  const limb = limbOf({ root, base, links: [upper, lower], angles, limits })
  limb.solve(target.x, target.y, 0)
  return [limb.angles[0]!, limb.angles[1]!]
}
