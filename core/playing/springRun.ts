/**
 * Springs along a stretch of time: simulated in steps of 1/240 s from its beginning, whatever frames are asked for. States are kept at
 * intervals, so that any moment is simulated from the one before it, and comes out the same to the last bit in whatever order moments are
 * asked for.
 */
import type { Clip } from '../clips/records'
import { writeClip } from '../clips/layers'
import type { Simulation } from '../kernel/stage'
import { STEP } from '../maths/solve/oscillator'
import { evaluateBones, makeFrame, writeValues } from '../puppet/evaluate'
import type { Frame } from '../puppet/frame'
import type { Rig } from '../puppet/rig'
import { stepSprings, windAt, type SpringOffsets, type SpringState } from '../springs/motion'
import { SPRING_STATE } from '../springs/table'
import { sameUntil } from './clipChange'
import { clipForRig } from './clips'

/** Writes the pose of a time, seconds, over one that is at rest. */
export type PoseAt = (time: number, pose: Float64Array) => void

/** Steps between two states that are kept: half a second. */
const KEPT_EVERY = 120
/** Moments this near to a step are on it, in steps. */
const ON_STEP = 1e-6

interface Kept {
  readonly state: SpringState
  readonly offsets: SpringOffsets
}

/** Frames in which bones are posed for steps: one for each rig. */
const frames = new WeakMap<Rig, Frame>()

/** The frame in which bones of a rig are posed for steps; whoever asks overwrites it. */
export function springFrame(rig: Rig): Frame {
  const known = frames.get(rig) ?? makeFrame(rig)
  frames.set(rig, known)
  return known
}

/** Whether anything of a rig swings. */
export const swings = ({ springs }: Rig): boolean => springs.bone.length > 0

export class SpringRun {
  private readonly state: SpringState
  private readonly offsets: SpringOffsets
  private readonly shown: SpringOffsets
  private readonly pose: Float64Array
  private readonly kept = new Map<number, Kept>()
  private step = -1
  private shownAt = Number.NaN

  constructor(
    private readonly rig: Rig,
    private readonly poseAt: PoseAt,
  ) {
    const count = rig.springs.bone.length
    this.state = new Float64Array(SPRING_STATE * count)
    this.offsets = new Float64Array(2 * count)
    this.shown = new Float64Array(2 * count)
    this.pose = new Float64Array(rig.restPose.length)
  }

  /**
   * Where springs are at a time, seconds from the beginning; before it they are as at the beginning.
   *
   * @returns offsets, [2s]; overwritten by the next call
   */
  at(time: number): SpringOffsets {
    if (time === this.shownAt) return this.shown
    this.shownAt = time
    const steps = Math.max(0, time / STEP)
    const whole = Math.floor(steps + ON_STEP)
    const share = steps - whole
    this.goTo(whole)
    this.shown.set(this.offsets)
    if (share <= ON_STEP) return this.shown
    // Between two steps it goes straight.
    this.goTo(whole + 1)
    for (let k = 0; k < this.shown.length; k++) this.shown[k] = this.shown[k]! + share * (this.offsets[k]! - this.shown[k]!)
    return this.shown
  }

  /** Takes over what another run knows up to a time, seconds, until when both pose the same. */
  inherit({ kept }: SpringRun, until: number): void {
    for (const [step, state] of kept) if (step * STEP <= until) this.kept.set(step, state)
  }

  private goTo(step: number): void {
    if (step === this.step) return
    const from = this.nearest(step)
    if (from > this.step || step < this.step) this.restore(from)
    while (this.step < step) this.next()
  }

  /** The last step up to one whose state is kept; -1 where none is. */
  private nearest(step: number): number {
    for (let k = KEPT_EVERY * Math.floor(step / KEPT_EVERY); k >= 0; k -= KEPT_EVERY) if (this.kept.has(k)) return k
    return -1
  }

  private restore(step: number): void {
    const kept = this.kept.get(step)
    if (kept) {
      this.state.set(kept.state)
      this.offsets.set(kept.offsets)
    }
    this.step = step
  }

  private next(): void {
    const { rig, pose } = this
    const frame = springFrame(rig)
    this.step++
    const time = this.step * STEP
    pose.set(rig.restPose)
    this.poseAt(time, pose)
    evaluateBones(rig, pose, frame, { time, simulation: null })
    stepSprings(rig, frame, frame.values, windAt(rig, time), this.step === 0, this.state, this.offsets)
    if (this.step % KEPT_EVERY === 0 && !this.kept.has(this.step))
      this.kept.set(this.step, { state: this.state.slice(), offsets: this.offsets.slice() })
  }
}

interface ClipRuns {
  readonly of: WeakMap<Clip, SpringRun>
  /** The last clip that was asked for: one that is being changed goes on from where it is still the same. */
  last: { readonly clip: Clip; readonly run: SpringRun } | null
}

const ofClips = new WeakMap<Rig, ClipRuns>()

/** Springs of a rig while a clip plays, simulated from the clip's beginning; made once for both. */
function runOf(rig: Rig, clip: Clip): SpringRun {
  const own: ClipRuns = ofClips.get(rig) ?? { of: new WeakMap(), last: null }
  ofClips.set(rig, own)
  const known = own.of.get(clip)
  if (known) return known
  const ready = clipForRig(rig, clip)
  const made = new SpringRun(rig, (time, pose) => {
    writeClip(ready, time, pose)
    writeValues(rig, clip.loose, pose)
  })
  if (own.last) made.inherit(own.last.run, sameUntil(own.last.clip, clip))
  own.of.set(clip, made)
  own.last = { clip, run: made }
  return made
}

/** What moves by itself at a moment of a clip; null where nothing does. */
export const clipSimulation = (rig: Rig, clip: Clip, time: number): Simulation | null =>
  swings(rig) ? { speeds: null, springs: runOf(rig, clip).at(time) } : null
