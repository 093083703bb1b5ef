/**
 * What moves by itself along a stretch of time: simulated in steps of 1/240 s from its beginning, whatever frames are asked for. States are
 * kept at intervals, so that any moment is simulated from the one before it, and comes out the same to the last bit in whatever order
 * moments are asked for.
 */
import type { Clip } from '../clips/records'
import { writeClip } from '../clips/layers'
import type { Simulation } from '../kernel/stage'
import { STEP } from '../maths/solve/oscillator'
import { writeValues } from '../puppet/evaluate'
import type { Rig } from '../puppet/rig'
import { windAt } from '../springs/motion'
import { viewChannel } from '../views/channels'
import { shownView } from '../views/views'
import { sameUntil } from './clipChange'
import { clipForRig, valuesInClip } from './clips'
import { movesItself, SelfMotion, type MotionState } from './selfMotion'

/** Writes the pose of a time, seconds, over one that is at rest. */
export type PoseAt = (time: number, pose: Float64Array) => void

/** The view that is shown at a time. */
export type ViewAt = (time: number) => string

/** Steps between two states that are kept: half a second. */
const KEPT_EVERY = 120
/** Moments this near to a step are on it, in steps. */
const ON_STEP = 1e-6

export class MotionRun {
  private readonly motion: SelfMotion
  private readonly pose: Float64Array
  private readonly kept = new Map<number, MotionState>()
  private readonly shown: { readonly speeds: null; readonly springs: Float64Array; readonly strides: Float64Array }
  private step = -1
  private shownAt = Number.NaN

  constructor(
    private readonly rig: Rig,
    private readonly poseAt: PoseAt,
    private readonly viewAt?: ViewAt,
  ) {
    this.motion = new SelfMotion(rig)
    const { offsets, shown } = this.motion.state
    this.shown = { speeds: null, springs: offsets.slice(), strides: shown.slice() }
    this.pose = new Float64Array(rig.restPose.length)
  }

  /**
   * What moves by itself at a time, seconds from the beginning; before it all is as at the beginning. Overwritten by the next call.
   */
  at(time: number): Simulation & { readonly springs: Float64Array; readonly strides: Float64Array } {
    if (time === this.shownAt) return this.shown
    this.shownAt = time
    const { springs, strides } = this.shown
    const steps = Math.max(0, time / STEP)
    const whole = Math.floor(steps + ON_STEP)
    const share = steps - whole
    this.goTo(whole)
    const { offsets, shown } = this.motion.state
    springs.set(offsets)
    strides.set(shown)
    if (share <= ON_STEP) return this.shown
    // Between two steps it goes straight.
    this.goTo(whole + 1)
    for (let k = 0; k < springs.length; k++) springs[k] = springs[k]! + share * (offsets[k]! - springs[k]!)
    for (let k = 0; k < strides.length; k++) strides[k] = strides[k]! + share * (shown[k]! - strides[k]!)
    return this.shown
  }

  /** Takes over what another run knows up to a time, seconds, until when both pose the same. */
  inherit({ kept }: MotionRun, until: number): void {
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
    if (kept) this.motion.take(kept)
    this.step = step
  }

  private next(): void {
    const { rig, pose } = this
    this.step++
    const time = this.step * STEP
    pose.set(rig.restPose)
    this.poseAt(time, pose)
    const view = this.viewAt?.(time)
    this.motion.step(pose, { time, wind: windAt(rig, time), isFirst: this.step === 0, ...(view === undefined ? {} : { view }) })
    if (this.step % KEPT_EVERY === 0 && !this.kept.has(this.step)) this.kept.set(this.step, this.motion.copy())
  }
}

interface ClipRuns {
  readonly of: WeakMap<Clip, MotionRun>
  /** The last clip that was asked for: one that is being changed goes on from where it is still the same. */
  last: { readonly clip: Clip; readonly run: MotionRun } | null
}

const ofClips = new WeakMap<Rig, ClipRuns>()

/** The view that a clip shows at a time; undefined where it never changes and nothing asks. */
function viewsOf({ puppet, strides }: Rig, clip: Clip): ViewAt | undefined {
  if (strides.list.length === 0 || puppet.views.length < 2) return undefined
  const channel = viewChannel(puppet)
  const isKeyed = clip.layers.some(({ tracks }) => tracks[channel] !== undefined)
  if (!isKeyed) {
    const view = shownView(puppet, { ...puppet.pose, ...clip.loose })
    return () => view
  }
  const layers = clip.layers.map((layer) => {
    const track = layer.tracks[channel]
    return { ...layer, tracks: track ? { [channel]: track } : {} }
  })
  const ofView = { ...clip, layers }
  return (time) => shownView(puppet, { ...puppet.pose, ...valuesInClip(puppet, ofView, time), ...clip.loose })
}

/** What moves by itself in a rig while a clip plays, simulated from the clip's beginning; made once for both. */
function runOf(rig: Rig, clip: Clip): MotionRun {
  const own: ClipRuns = ofClips.get(rig) ?? { of: new WeakMap(), last: null }
  ofClips.set(rig, own)
  const known = own.of.get(clip)
  if (known) return known
  const ready = clipForRig(rig, clip)
  const made = new MotionRun(
    rig,
    (time, pose) => {
      writeClip(ready, time, pose)
      writeValues(rig, clip.loose, pose)
    },
    viewsOf(rig, clip),
  )
  if (own.last) made.inherit(own.last.run, sameUntil(own.last.clip, clip))
  own.of.set(clip, made)
  own.last = { clip, run: made }
  return made
}

/** What moves by itself at a moment of a clip; null where nothing does. */
export function clipSimulation(rig: Rig, clip: Clip, time: number): Simulation | null {
  const lives = rig.idles.length > 0
  if (!movesItself(rig)) return lives ? { speeds: null, springs: null, life: { time, share: 1 } } : null
  const moved = runOf(rig, clip).at(time)
  return lives ? { ...moved, life: { time, share: 1 } } : moved
}
