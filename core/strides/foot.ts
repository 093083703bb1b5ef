/** A foot on the ground: it rolls over its heel and its ball, which are what does not slide. */
import { toRadians } from '../maths/geometry/affine'

/** What of a leg says how its foot stands, at rest on the canvas. */
export interface FootShape {
  readonly ankleX: number
  readonly ankleY: number
  readonly heelX: number
  readonly ballX: number
  /** Height of the ground under it, canvas px down. */
  readonly soleY: number
  /** 1 where toes point to the right of the picture, -1 to the left. */
  readonly points: 1 | -1
}

/** Share by which what is nearer to whoever looks stands lower. */
const DEPTH = 0.16

/** What a foot does. */
export interface Step {
  /** How far it is ahead of where it stands at rest, along the way that is walked, px. */
  readonly ahead: number
  readonly lift: number
  /** Degrees; above 0 toes are up and it stands on its heel, below 0 on its ball. */
  readonly roll: number
  /** How much lower the ground is than at rest, px, and how it slopes, degrees counter-clockwise. */
  readonly ground: number
  readonly slope: number
}

/** Ankle, contact and turn of the foot that was placed last, and how far the ankle is from the contact at rest. */
export const placed = { ankleX: 0, ankleY: 0, contactX: 0, contactY: 0, armX: 0, armY: 0, turn: 0 }

/**
 * Writes where an ankle is into `placed`, canvas px and degrees. The contact is the heel while toes are up, else the ball.
 *
 * @param way 1 to the right of the picture, -1 to the left, 0 towards whoever looks
 */
export function placeFoot(foot: FootShape, { ahead, lift, roll, ground, slope }: Step, way: number): void {
  const seen = Math.abs(way)
  const turn = foot.points * roll * seen + slope
  const pivotX = roll >= 0 ? foot.heelX : foot.ballX
  // The whole sole lies along the slope, about its middle; it rolls about its end.
  const middleX = (foot.heelX + foot.ballX) / 2
  const along = pivotX - middleX
  placed.contactX = middleX + Math.cos(toRadians(slope)) * along + way * ahead
  placed.contactY = foot.soleY - Math.sin(toRadians(slope)) * along + ground - lift + (1 - seen) * DEPTH * ahead
  const c = Math.cos(toRadians(turn))
  const s = Math.sin(toRadians(turn))
  placed.armX = foot.ankleX - pivotX
  placed.armY = foot.ankleY - foot.soleY
  placed.ankleX = placed.contactX + c * placed.armX + s * placed.armY
  placed.ankleY = placed.contactY - s * placed.armX + c * placed.armY
  placed.turn = turn
}
