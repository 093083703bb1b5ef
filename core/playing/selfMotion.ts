/** What moves by itself in a rig, gone on in steps of 1/240 s: legs that walk, then springs, which follow whatever walks. */
import type { Simulation } from '../kernel/stage'
import { STEP } from '../maths/solve/oscillator'
import { evaluateBones, makeFrame } from '../puppet/evaluate'
import type { Frame } from '../puppet/frame'
import type { Rig } from '../puppet/rig'
import { stepSprings, type SpringOffsets } from '../springs/motion'
import { SPRING_STATE } from '../springs/table'
import { Walk } from '../strides/walk'

/** Frames in which bones are posed for steps: one for each rig. */
const frames = new WeakMap<Rig, Frame>()

/** The frame in which bones of a rig are posed for steps; whoever asks overwrites it. */
export function motionFrame(rig: Rig): Frame {
  const known = frames.get(rig) ?? makeFrame(rig)
  frames.set(rig, known)
  return known
}

/** Whether anything of a rig moves by itself, once it was moved. */
export const movesItself = ({ springs, strides }: Rig): boolean => springs.bone.length > 0 || strides.list.length > 0

/** All that has to be known to go on from a moment. */
export interface MotionState {
  readonly springs: Float64Array
  readonly offsets: SpringOffsets
  readonly walks: Float64Array
  readonly shown: Float64Array
}

/** What a step is made from besides the pose. */
export interface StepOf {
  /** Seconds since it began; null where nothing plays. */
  readonly time: number | null
  /** The wind, as a share of its mean. */
  readonly wind: number
  /** Whether everything begins. */
  readonly isFirst: boolean
  /** The view that is shown; that of the rig where it is left out. */
  readonly view?: string
  /** [s] 1 for springs that follow a hand. */
  readonly held?: Uint8Array
}

export class SelfMotion {
  readonly state: MotionState
  private readonly walks: readonly Walk[]

  /** @param isOnSpot whether legs walk on the spot, wherever they would go in a clip */
  constructor(
    readonly rig: Rig,
    isOnSpot = false,
  ) {
    const count = rig.springs.bone.length
    const { list, stateSize, shownSize } = rig.strides
    this.state = {
      springs: new Float64Array(SPRING_STATE * count),
      offsets: new Float64Array(2 * count),
      walks: new Float64Array(stateSize),
      shown: new Float64Array(shownSize),
    }
    this.walks = list.map((table) => new Walk(table, this.state.walks, isOnSpot))
  }

  /** Takes a state over, as of another rig with as much that moves. */
  take(state: MotionState): void {
    for (const [name, values] of Object.entries(this.state)) values.set(state[name as keyof MotionState])
  }

  copy(): MotionState {
    const { springs, offsets, walks, shown } = this.state
    return { springs: springs.slice(), offsets: offsets.slice(), walks: walks.slice(), shown: shown.slice() }
  }

  /** Goes on by a step to a pose: values of channels by their slots, before anything answers to them. */
  step(pose: Float64Array, { time, wind, isFirst, view, held }: StepOf): void {
    const { rig, state } = this
    const frame = motionFrame(rig)
    const swings = rig.springs.bone.length > 0
    const { walks } = this
    // Controls and responses may lead the pace; else it is what is keyed.
    const isLed = walks.length > 0 && rig.responses.movesBones
    if (isFirst && isLed) evaluateBones(rig, pose, frame, { time, simulation: null })
    for (let k = 0; k < walks.length; k++) {
      const walk = walks[k]!
      if (view !== undefined) walk.face(view)
      if (!isLed) walk.ask(pose)
      else if (isFirst) walk.ask(frame.values)
      if (isFirst) walk.begin()
      else walk.step(STEP)
      walk.show(state.shown)
    }
    if (!swings && !isLed) return
    evaluateBones(rig, pose, frame, { time, simulation: { speeds: null, springs: null, strides: state.shown } })
    if (isLed) for (let k = 0; k < walks.length; k++) walks[k]!.ask(frame.values)
    if (swings) stepSprings(rig, frame, frame.values, wind, isFirst, state.springs, state.offsets, held)
  }

  /** Whether any legs walk. */
  isWalking(): boolean {
    return this.walks.some((walk) => walk.isWalking())
  }

  /** What of it stages look at; overwritten by the next step. */
  shown(): Simulation {
    return { speeds: null, springs: this.state.offsets, strides: this.state.shown }
  }
}
