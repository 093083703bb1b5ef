/**
 * How fast bones turn on the stage, for responses that listen to it: told from one picture to the next while something moves,
 * or held at the speed of a stop that is looked at or recorded.
 */
import { create } from 'zustand'
import type { Puppet, Response } from '@marionette/core/document/schema'
import { toDegrees } from '@marionette/core/geometry/affine'
import type { Frame } from '@marionette/core/rig/evaluate'

export type Speeds = ReadonlyMap<string, number>

const NONE: Speeds = new Map()

/** Speeds that are held, degrees a second by bones. */
export const useHeldSpeeds = create<{ held: Speeds }>(() => ({ held: NONE }))

/** Holds what a stop of a response listens to; nothing where it listens to no speed. */
export function holdSpeedsOf({ inputs }: Pick<Response, 'inputs'>, at: readonly number[]): void {
  const held = new Map(inputs.flatMap((input, k) => (input.kind === 'speed' ? [[input.bone, at[k]!] as const] : [])))
  if (held.size > 0 || useHeldSpeeds.getState().held.size > 0) useHeldSpeeds.setState({ held })
}

export const releaseSpeeds = (): void => {
  if (useHeldSpeeds.getState().held.size > 0) useHeldSpeeds.setState({ held: NONE })
}

/** Writes speeds into a frame that is about to be evaluated. */
export function writeSpeeds(frame: Frame, speeds: Speeds = useHeldSpeeds.getState().held): void {
  for (const [bone, speed] of speeds) {
    const b = frame.rig.bones.index.get(bone)
    if (b !== undefined) frame.speeds[b] = speed
  }
}

export const hearsSpeed = ({ responses }: Puppet): boolean => responses.some((r) => r.inputs.some((i) => i.kind === 'speed'))

/** Time in which a speed follows to 63%, seconds: a hand at the mouse shakes more than what is meant. */
const SMOOTHING = 0.06
/** Times between two pictures outside of this say nothing of speed, seconds. */
const SHORTEST = 1 / 250
const LONGEST = 0.12
/** Speeds below this are none, degrees a second. */
const STILL = 0.5

/** Follows one frame from evaluation to evaluation. */
export class SpeedMeter {
  private angles = new Float64Array(0)
  /** What was measured; those that are held are not among it. */
  private measured = new Float64Array(0)
  private of: Frame | null = null
  private at = 0

  /**
   * Takes where bones are now and sets the speeds of the frame for its next evaluation.
   *
   * @param at seconds
   * @returns whether anything moves, so that another look is due
   */
  follow(frame: Frame, at: number): boolean {
    const { speeds, skeleton } = frame
    const isNew = this.of !== frame
    if (isNew) {
      this.angles = new Float64Array(speeds.length)
      this.measured = new Float64Array(speeds.length)
    }
    const step = at - this.at
    if (!isNew && step < SHORTEST) return true
    const share = 1 - Math.exp(-Math.min(step, LONGEST) / SMOOTHING)
    let isMoving = false
    for (let b = 0; b < speeds.length; b++) {
      const angle = toDegrees(-Math.atan2(skeleton.motion[6 * b + 1]!, skeleton.motion[6 * b]!))
      const turned = angle - this.angles[b]! - 360 * Math.round((angle - this.angles[b]!) / 360)
      const now = isNew || step > LONGEST ? 0 : turned / step
      const speed = isNew ? 0 : this.measured[b]! + (now - this.measured[b]!) * share
      this.angles[b] = angle
      this.measured[b] = Math.abs(speed) < STILL ? 0 : speed
      isMoving ||= this.measured[b] !== 0
    }
    speeds.set(this.measured)
    this.of = frame
    this.at = at
    writeSpeeds(frame)
    return isMoving
  }
}
