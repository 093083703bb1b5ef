/** What moves by itself of what is posed by hand: it follows from picture to picture, in the same steps as along a clip, without wind. */
import { boneSlot } from '../bones/channels'
import type { Simulation } from '../kernel/stage'
import { STEP } from '../maths/solve/oscillator'
import type { Rig } from '../puppet/rig'
import { SelfMotion } from './selfMotion'

/** Times between two pictures above this say that nothing moved for a while, seconds. */
const LONGEST = 0.12
/** How long the last change is taken to have lasted then. */
const USUAL = 1 / 60
/** A spring that moves less than this from picture to picture is still, px; all are at rest when all were still for so many pictures. */
const STILL = 0.01
const PICTURES = 12
/** Times of the decay of the slowest spring after which nothing is looked at any more, whatever still trembles. */
const OVER = 12

export class LiveMotion {
  private motion: SelfMotion | null = null
  private from = new Float64Array(0)
  private pose = new Float64Array(0)
  /** [s] 1 for bones that are posed themselves just now: they follow the hand that turns them, not their spring. */
  private held = new Uint8Array(0)
  private at = 0
  /** Where springs were in the last picture, and for how many they have been still. */
  private last = new Float64Array(0)
  private quiet = PICTURES
  /** When the pose changed last, or legs walked, seconds. */
  private movedAt = 0
  /** Time that was too short for a step, seconds. */
  private left = 0

  /**
   * Goes on to a moment; the pose is taken to have gone there evenly since the last one.
   *
   * @param pose [n] values of channels by their slots, before anything answers to them
   * @param at seconds
   * @returns whether anything moves, so that another look is due
   */
  follow(rig: Rig, pose: Float64Array, at: number): boolean {
    if (this.motion?.rig !== rig) return this.begin(rig, pose, at)
    const { motion } = this
    const gone = at - this.at
    this.at = at
    const isMoved = this.from.some((value, k) => value !== pose[k])
    rig.springs.bone.forEach((b, s) => (this.held[s] = Number(this.from[boneSlot(b)] !== pose[boneSlot(b)])))
    this.left += gone > LONGEST ? USUAL : gone
    const steps = Math.floor(this.left / STEP)
    this.left -= steps * STEP
    for (let k = 1; k <= steps; k++) this.step(motion, pose, k / steps)
    if (steps > 0) this.from.set(pose)
    if (isMoved || motion.isWalking()) {
      this.quiet = 0
      this.movedAt = at
    } else if (at - this.movedAt > OVER / rig.springs.decay.reduce((least, decay) => Math.min(least, decay), Infinity)) return false
    return steps === 0 ? this.quiet < PICTURES : !this.isAtRest()
  }

  /** What moves by itself; null before the first look. */
  get shown(): Simulation | null {
    return this.motion?.shown() ?? null
  }

  /** Whether legs walk, or have walked somewhere. */
  get hasGone(): boolean {
    return this.motion?.state.shown.some((value) => value !== 0) ?? false
  }

  /** Forgets what moves: the next look begins at rest. */
  stop(): void {
    this.motion = null
  }

  /** A rig with as much that moves goes on from where all is: its numbers were changed meanwhile. */
  private begin(rig: Rig, pose: Float64Array, at: number): boolean {
    const before = this.motion?.state
    const motion = new SelfMotion(rig)
    const { offsets, walks } = motion.state
    const goesOn = before?.offsets.length === offsets.length && before.walks.length === walks.length && this.from.length === pose.length
    this.motion = motion
    this.at = at
    this.quiet = 0
    this.movedAt = at
    if (goesOn) {
      motion.take(before)
      return true
    }
    this.quiet = PICTURES
    this.last = new Float64Array(offsets.length)
    this.held = new Uint8Array(rig.springs.bone.length)
    this.from = pose.slice()
    this.pose = pose.slice()
    this.left = 0
    motion.step(this.pose, { time: null, wind: 0, isFirst: true, held: this.held })
    this.last.set(offsets)
    return motion.isWalking()
  }

  private step(motion: SelfMotion, to: Float64Array, share: number): void {
    for (let k = 0; k < to.length; k++) this.pose[k] = this.from[k]! + share * (to[k]! - this.from[k]!)
    motion.step(this.pose, { time: null, wind: 0, isFirst: false, held: this.held })
  }

  /** Whether all have been still for a while, wherever they hang: by themselves, or against a body. */
  private isAtRest(): boolean {
    const offsets = this.motion?.state.offsets ?? this.last
    let most = 0
    for (let k = 0; k < offsets.length; k++) most = Math.max(most, Math.abs(offsets[k]! - this.last[k]!))
    this.last.set(offsets)
    this.quiet = most < STILL ? this.quiet + 1 : 0
    return this.quiet >= PICTURES
  }
}
