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
/** A spring that moves less than this from picture to picture is still, px; all are at rest when all were still for so many pictures. */
const STILL = 0.01
const PICTURES = 12
/** Times of the decay of the slowest spring after which nothing is looked at any more, whatever still trembles. */
const OVER = 12

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
  /** Where they were in the last picture, and for how many they have been still. */
  private last: SpringOffsets = new Float64Array(0)
  private quiet = PICTURES
  /** When the pose changed last, seconds. */
  private movedAt = 0
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
    if (isMoved) {
      this.quiet = 0
      this.movedAt = at
    } else if (at - this.movedAt > OVER / rig.springs.decay.reduce((least, decay) => Math.min(least, decay), Infinity)) return false
    return steps === 0 ? this.quiet < PICTURES : !this.isAtRest()
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
    this.quiet = 0
    this.movedAt = at
    if (goesOn) return true
    this.quiet = PICTURES
    this.state = new Float64Array(SPRING_STATE * count)
    this.offsets = new Float64Array(2 * count)
    this.last = new Float64Array(2 * count)
    this.held = new Uint8Array(count)
    this.from = pose.slice()
    this.pose = new Float64Array(pose.length)
    this.left = 0
    this.pose.set(pose)
    this.pass(rig, true)
    this.last.set(this.offsets)
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

  /** Whether all have been still for a while, wherever they hang: by themselves, or against a body. */
  private isAtRest(): boolean {
    let most = 0
    for (let k = 0; k < this.offsets.length; k++) most = Math.max(most, Math.abs(this.offsets[k]! - this.last[k]!))
    this.last.set(this.offsets)
    this.quiet = most < STILL ? this.quiet + 1 : 0
    return this.quiet >= PICTURES
  }
}
