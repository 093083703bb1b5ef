/**
 * What moves by itself of what is posed by hand: it follows from picture to picture, in the same steps as along a clip, without wind and on
 * the spot.
 */
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
/** Seconds in which idle life goes quiet once a hand poses, until it comes back, and in which it does. */
const QUIET = { in: 0.25, for: 0.8, out: 1.2 }

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
  /** Idle life: seconds that it has lived, how much of it shows, and when a hand posed last. */
  private readonly life = { time: 0, share: 0 }
  private heldAt = -Infinity

  /**
   * Goes on to a moment; the pose is taken to have gone there evenly since the last one.
   *
   * @param pose [n] values of channels by their slots, before anything answers to them
   * @param at seconds
   * @param isLiving whether idle life shows
   * @returns whether anything moves, so that another look is due
   */
  follow(rig: Rig, pose: Float64Array, at: number, isLiving = false): boolean {
    const gone = Math.min(LONGEST, Math.max(0, at - this.at))
    const moves = this.followSteps(rig, pose, at)
    return this.live(at, gone, isLiving && rig.idles.length > 0) || moves
  }

  /** Goes on with idle life; it is quiet while a hand poses. */
  private live(at: number, gone: number, isLiving: boolean): boolean {
    const { life } = this
    const isHeld = at - this.heldAt < QUIET.for
    const share = life.share + (isLiving && !isHeld ? gone / QUIET.out : -gone / QUIET.in)
    life.share = Math.min(1, Math.max(0, share))
    life.time = isLiving || life.share > 0 ? life.time + gone : 0
    return isLiving || life.share > 0
  }

  private followSteps(rig: Rig, pose: Float64Array, at: number): boolean {
    if (this.motion?.rig !== rig) return this.begin(rig, pose, at)
    const { motion } = this
    const gone = at - this.at
    this.at = at
    const isMoved = this.from.some((value, k) => value !== pose[k])
    if (isMoved) this.heldAt = at
    rig.springs.bone.forEach((b, s) => (this.held[s] = Number(this.from[boneSlot(b)] !== pose[boneSlot(b)])))
    // Legs that walk go on also where pictures come slowly.
    this.left += gone <= LONGEST ? gone : motion.isWalking() ? LONGEST : USUAL
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
    return this.motion ? { ...this.motion.shown(), life: this.life.share > 0 ? this.life : null } : null
  }

  /** Forgets what moves: the next look begins at rest. */
  stop(): void {
    this.motion = null
    this.life.share = 0
    this.life.time = 0
  }

  /** A rig with as much that moves goes on from where all is: its numbers were changed meanwhile. */
  private begin(rig: Rig, pose: Float64Array, at: number): boolean {
    const before = this.motion?.state
    const motion = new SelfMotion(rig, true)
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
