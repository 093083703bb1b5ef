/** Springs of what is posed by hand: they follow from picture to picture, in the same steps as along a clip, without wind. */
import { boneSlot } from '../bones/channels'
import { STEP } from '../maths/solve/oscillator'
import { evaluateBones } from '../puppet/evaluate'
import type { Rig } from '../puppet/rig'
import { stepSprings, type SpringOffsets, type SpringState } from '../springs/motion'
import { SPRING_STATE } from '../springs/table'
import { springFrame } from './springRun'

/** Times between two pictures above this say that nothing moved for a while, seconds. */
const LONGEST = 0.12
/** How long the last change is taken to have lasted then. */
const USUAL = 1 / 60
/** Slower than this, px a second, and nearer than this to where it hangs, px, a spring is at rest. */
const AT_REST = { speed: 1, away: 0.05 }

export class LiveSprings {
  /** How far the ends of sprung bones are from where the pose has them, [2s]. */
  offsets: SpringOffsets = new Float64Array(0)
  private state: SpringState = new Float64Array(0)
  private rig: Rig | null = null
  private from = new Float64Array(0)
  private pose = new Float64Array(0)
  /** [s] 1 for bones that are posed themselves just now: they follow the hand that turns them, not their spring. */
  private held = new Uint8Array(0)
  private at = 0
  /** Time that was too short for a step, seconds. */
  private left = 0

  /**
   * Goes on to a moment; the pose is taken to have gone there evenly since the last one.
   *
   * @param pose [n] values of channels by their slots, before anything answers to them
   * @param at seconds
   * @returns whether anything swings, so that another look is due
   */
  follow(rig: Rig, pose: Float64Array, at: number): boolean {
    if (this.rig !== rig) return this.begin(rig, pose, at)
    const gone = at - this.at
    this.at = at
    const isMoved = this.from.some((value, k) => value !== pose[k])
    rig.springs.bone.forEach((b, s) => (this.held[s] = Number(this.from[boneSlot(b)] !== pose[boneSlot(b)])))
    this.left += gone > LONGEST ? USUAL : gone
    const steps = Math.floor(this.left / STEP)
    this.left -= steps * STEP
    for (let k = 1; k <= steps; k++) this.step(rig, pose, k / steps)
    if (steps > 0) this.from.set(pose)
    return isMoved || steps === 0 || !this.isAtRest(rig)
  }

  /** Forgets what swings: the next look begins at rest. */
  stop(): void {
    this.rig = null
  }

  /** A rig that swings as many bones goes on from where they are: its numbers were changed meanwhile. */
  private begin(rig: Rig, pose: Float64Array, at: number): boolean {
    const count = rig.springs.bone.length
    const goesOn = this.rig !== null && this.offsets.length === 2 * count && this.from.length === pose.length
    this.rig = rig
    this.at = at
    if (goesOn) return true
    this.state = new Float64Array(SPRING_STATE * count)
    this.offsets = new Float64Array(2 * count)
    this.held = new Uint8Array(count)
    this.from = pose.slice()
    this.pose = new Float64Array(pose.length)
    this.left = 0
    this.pose.set(pose)
    this.pass(rig, true)
    return false
  }

  private step(rig: Rig, to: Float64Array, share: number): void {
    for (let k = 0; k < to.length; k++) this.pose[k] = this.from[k]! + share * (to[k]! - this.from[k]!)
    this.pass(rig, false)
  }

  private pass(rig: Rig, isFirst: boolean): void {
    const frame = springFrame(rig)
    evaluateBones(rig, this.pose, frame, { time: null, simulation: null })
    stepSprings(rig, frame, frame.values, 0, isFirst, this.state, this.offsets, this.held)
  }

  private isAtRest({ springs: { stiffness } }: Rig): boolean {
    for (let s = 0; s < stiffness.length; s++) {
      const at = SPRING_STATE * s
      for (let axis = 0; axis < 2; axis++) {
        const hangs = this.state[at + 8 + axis]! / stiffness[s]!
        if (Math.abs(this.state[at + 2 + axis]!) > AT_REST.speed || Math.abs(this.state[at + axis]! - hangs) > AT_REST.away) return false
      }
    }
    return true
  }
}
