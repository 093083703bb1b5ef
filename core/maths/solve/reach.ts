/** Angles between directions, and their limits. */
import type { Vec } from '../../kernel/numbers'
import { toDegrees } from '../geometry/affine'
import { nearestTurn } from './chainReach'

export { nearestTurn }

/** From where to where an angle may go. */
export interface AngleRange {
  /** Degrees; infinite where there is no limit. */
  readonly min: number
  readonly max: number
}

/** Direction of a vector in degrees, counter-clockwise on screen (y down). */
const direction = (v: Vec): number => toDegrees(Math.atan2(-v.y, v.x))

/** Angle by which `from` must be turned about the origin to point along `to`; degrees, counter-clockwise. */
export const turnBetween = (from: Vec, to: Vec): number => nearestTurn(direction(to) - direction(from), 0)
