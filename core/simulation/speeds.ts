/**
 * How fast bones turn on the canvas, for responses that listen to it: told from one frame to the next while something moves, or held.
 *
 * A speed follows what is measured by a low-pass of the first order, whose exact solution over an interval of even turning is used: the
 * same motion gives the same speeds, however many frames it is shown in.
 */
import type { BonesFrame, BonesRig } from '../bones/stage'
import type { Simulation } from '../kernel/stage'
import { toDegrees } from '../maths/geometry/affine'

/** Speeds by bones, degrees a second. */
export type Speeds = ReadonlyMap<string, number>

/** Time in which a speed follows to 63%, seconds: a hand at the mouse shakes more than what is meant. */
const SMOOTHING = 0.06
/** Times between two frames outside of this say nothing of speed, seconds. */
const SHORTEST = 1 / 250
const LONGEST = 0.12
/** Speeds below this are none, degrees a second. */
const SLOWEST = 0.5

/** Writes speeds over those of some bones. */
function hold({ bones }: BonesRig, held: Speeds, speeds: Float64Array): void {
  for (const [bone, speed] of held) {
    const b = bones.index.get(bone)
    if (b !== undefined) speeds[b] = speed
  }
}

/** Motion in which some bones have a speed, and all others none; null for none at all. */
export function heldMotion(rig: BonesRig, held: Speeds): Simulation | null {
  if (held.size === 0) return null
  const speeds = new Float64Array(rig.bones.ids.length)
  hold(rig, held, speeds)
  return { speeds, springs: null }
}

/** Measures speeds of the bones of one frame, from evaluation to evaluation. */
export class MeasuredMotion implements Simulation {
  speeds = new Float64Array(0)
  readonly springs = null
  private angles = new Float64Array(0)
  /** What was measured; those that are held are not among it. */
  private measured = new Float64Array(0)
  private of: BonesFrame | null = null
  private at = 0

  /**
   * Takes where bones are now; the speeds are those for the next evaluation.
   *
   * @param at seconds
   * @param held speeds in place of what is measured
   * @returns whether anything moves, so that another look is due
   */
  follow(rig: BonesRig, frame: BonesFrame, at: number, held: Speeds): boolean {
    const count = rig.bones.ids.length
    const isNew = this.of !== frame
    if (isNew) [this.speeds, this.angles, this.measured] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)]
    const step = at - this.at
    if (!isNew && step < SHORTEST) return true
    const share = 1 - Math.exp(-Math.min(step, LONGEST) / SMOOTHING)
    let isMoving = false
    for (let b = 0; b < count; b++) {
      const angle = toDegrees(-Math.atan2(frame.bones[6 * b + 1]!, frame.bones[6 * b]!))
      const turned = angle - this.angles[b]! - 360 * Math.round((angle - this.angles[b]!) / 360)
      const now = isNew || step > LONGEST ? 0 : turned / step
      const speed = isNew ? 0 : this.measured[b]! + (now - this.measured[b]!) * share
      this.angles[b] = angle
      this.measured[b] = Math.abs(speed) < SLOWEST ? 0 : speed
      isMoving ||= this.measured[b] !== 0
    }
    this.speeds.set(this.measured)
    hold(rig, held, this.speeds)
    this.of = frame
    this.at = at
    return isMoving
  }
}
