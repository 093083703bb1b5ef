/** What a foot stands on, told from what is drawn of it. */
import { partsOfBone } from '../binds/tree'
import { boneOf } from '../bones/lookup'
import type { Vec } from '../kernel/numbers'
import { restBounds } from '../parts/tree'
import type { Puppet } from '../puppet/schema'

export interface Sole {
  /** From the ankle to the heel and to the ball, px along x. */
  readonly back: number
  readonly front: number
  /** Height of the ground, canvas px down. */
  readonly soleY: number
  /** How far it points aside, as a share of its breadth: above 0 to the right of the picture. */
  readonly points: number
}

/** A drawing that reaches above the ankle by more than this share of its height is no foot alone. */
const ABOVE = 0.6
/** Share of the way from the ankle to the tip of its toes on which it stands, and to its back where it stands on its heel. */
const TIP = 0.95
const HEEL = 0.8
/** A foot that points less aside than this says nothing of its direction. */
const ASIDE = 0.12

/**
 * The sole of a foot: from what is drawn of it, else from its bone.
 *
 * @param way which way it walks, where the drawing does not say where it points
 */
export function soleOf(puppet: Puppet, foot: string, ankle: Vec, way: number): Sole {
  const { start, end } = boneOf(puppet, foot)
  const boxes = partsOfBone(puppet, foot)
    .flatMap(({ id }) => restBounds(puppet, id) ?? [])
    .filter((box) => ankle.y - box.minY < ABOVE * (box.maxY - box.minY))
  if (boxes.length === 0) {
    const points = Math.abs(end.x - start.x) > 1e-6 ? Math.sign(end.x - start.x) : way < 0 ? -1 : 1
    const length = Math.abs(end.x - start.x)
    return {
      back: -0.3 * points * length,
      front: points * length,
      soleY: Math.max(start.y, end.y),
      points: (end.x - start.x) / Math.max(Math.hypot(end.x - start.x, end.y - start.y), 1e-9),
    }
  }
  const left = Math.min(...boxes.map((box) => box.minX)) - ankle.x
  const right = Math.max(...boxes.map((box) => box.maxX)) - ankle.x
  const soleY = Math.max(...boxes.map((box) => box.maxY))
  const points = (left + right) / Math.max(right - left, 1e-9)
  const isRight = Math.abs(points) > ASIDE ? points > 0 : way >= 0
  return isRight ? { back: HEEL * left, front: TIP * right, soleY, points } : { back: HEEL * right, front: TIP * left, soleY, points }
}
