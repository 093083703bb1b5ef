/**
 * The motion of springs. What swings is the end of a bone: it is tied to the place where its pose has it, and follows by an oscillator for
 * each direction of the canvas. Whatever moves that place drives it: turns and shifts of bones above, lengths, controls, and the springs
 * before it in a chain. The drive is taken as linear within a step, so that a step is exact: where the drive changes its speed, the end
 * keeps its own, and swings freely until the next step.
 *
 *     e = end - place of the pose        e'' + 2 s e' + w2 e = gravity + wind - air
 *
 * The bone is turned to its end, softly held by its limits, and drawn out where its group is.
 */
import type { BonesFrame, BonesRig } from '../bones/stage'
import { placeBone } from '../bones/table'
import { STEP, STEP_SIZE } from '../maths/solve/oscillator'
import { keepOut } from './collide'
import { SPRING_STATE, type SpringTable } from './table'
import { gustAt } from './wind'

/** What of a rig springs need. */
export interface SpringsRig {
  readonly springs: SpringTable
}

/** Where springs are, to be gone on from: [10s]. */
export type SpringState = Float64Array

/** Offsets of the ends of sprung bones, canvas px, throw included: [2s]. */
export type SpringOffsets = Float64Array

type Needs = BonesRig & SpringsRig

/** Where the end of a bone is on the posed canvas. */
interface End {
  x: number
  y: number
}

const [tip, base]: readonly [End, End] = [
  { x: 0, y: 0 },
  { x: 0, y: 0 },
]

function bonePlace({ skeleton: { motion } }: BonesFrame, b: number, ends: Float64Array, out: End): void {
  const [x, y] = [ends[2 * b]!, ends[2 * b + 1]!]
  const k = 6 * b
  out.x = motion[k]! * x + motion[k + 2]! * y + motion[k + 4]!
  out.y = motion[k + 1]! * x + motion[k + 3]! * y + motion[k + 5]!
}

/** Share of the room up to a limit that a swing has to itself; the rest of it is ever harder to get into. */
const FREE = 0.6

/** A turn that comes softly to rest at a limit, and never goes beyond it; `own` is where the pose has the bone. */
export function softly(own: number, by: number, min: number, max: number): number {
  const room = by > 0 ? max - own : own - min
  if (room === Infinity) return own + by
  if (room <= 0) return own
  const share = Math.abs(by) / room
  const kept = share <= FREE ? share : FREE + (1 - FREE) * (1 - Math.exp(-(share - FREE) / (1 - FREE)))
  return own + Math.sign(by) * kept * room
}

/** The least and the greatest length that a spring gives a bone. */
const LENGTHS = { least: 0.4, most: 2.5 }

/** Turns and draws out a bone so that its end comes by an offset from where its pose has it; `tip` and `base` are its places. */
function lead(rig: Needs, frame: BonesFrame, s: number, dx: number, dy: number): void {
  const { bones, springs } = rig
  const { skeleton } = frame
  const b = springs.bone[s]!
  const [ax, ay] = [tip.x - base.x, tip.y - base.y]
  const length = Math.hypot(ax, ay)
  if (length < 1e-6) return
  const [px, py] = [ax + dx, ay + dy]
  // Counter-clockwise as seen, with y down.
  const by = (-Math.atan2(ax * py - ay * px, ax * px + ay * py) * 180) / Math.PI
  skeleton.angle[b] = softly(skeleton.angle[b]!, by, bones.min[b]!, bones.max[b]!)
  const stretch = springs.stretch[s]!
  if (stretch > 0) {
    const drawn = 1 + stretch * (Math.hypot(px, py) / length - 1)
    const own = skeleton.length[b]!
    skeleton.length[b] = Math.min(Math.max(own, bones.longest[b]!), own * Math.min(LENGTHS.most, Math.max(LENGTHS.least, drawn)))
  }
  placeBone(bones, skeleton, b)
}

/**
 * Lays offsets over posed bones: sprung bones turn, and all that hangs from them goes along. Bones must be posed.
 *
 * @param pose [n] values of channels by their slots, for the amounts of groups
 */
export function applySprings(rig: Needs, frame: BonesFrame, pose: Float64Array, offsets: SpringOffsets): void {
  const { moved, of, amount } = rig.springs
  for (let k = 0; k < moved.length; k++) {
    const b = moved[k]!
    placeBone(rig.bones, frame.skeleton, b)
    const s = of[b]!
    if (s < 0) continue
    bonePlace(frame, b, rig.bones.start, base)
    bonePlace(frame, b, rig.bones.end, tip)
    const share = pose[amount[s]!]!
    lead(rig, frame, s, share * offsets[2 * s]!, share * offsets[2 * s + 1]!)
  }
}

/** The force on a spring besides the air, px a second squared: gravity, as far as its bone is turned from where it was drawn, and wind. */
function writeForce({ springs }: SpringsRig, { skeleton }: BonesFrame, s: number, gust: number, state: SpringState): void {
  const at = SPRING_STATE * s
  const turn = (skeleton.turn[springs.bone[s]!]! * Math.PI) / 180
  const gravity = springs.gravity[s]!
  const blown = springs.wind[s]! * gust
  state[at + 8] = -gravity * Math.sin(turn) + blown * springs.blows.x
  state[at + 9] = gravity * (1 - Math.cos(turn)) + blown * springs.blows.y
}

/** How strong the wind is at a time, as a share of its mean. */
export const windAt = ({ springs: { blows } }: SpringsRig, time: number): number =>
  blows.gusts === 0 ? 1 : 1 + blows.gusts * gustAt(blows.seed, time)

/** Lets one spring go on by a step to where its drive is now. */
function advance(rig: Needs, frame: BonesFrame, s: number, gust: number, state: SpringState): void {
  const { step, drag, decay } = rig.springs
  const at = SPRING_STATE * s
  const m = STEP_SIZE * s
  const air = 2 * decay[s]! * drag[s]!
  const [fx, fy] = [state[at + 8]!, state[at + 9]!]
  writeForce(rig, frame, s, gust, state)
  for (let axis = 0; axis < 2; axis++) {
    const k = at + axis
    const place = axis === 0 ? tip.x : tip.y
    const speed = (place - state[k + 4]!) / STEP
    const x = state[k]!
    const v = state[k + 2]! - (speed - state[k + 6]!)
    const f0 = (axis === 0 ? fx : fy) - air * speed
    const f1 = state[k + 8]! - air * speed
    state[k] = step[m]! * x + step[m + 1]! * v + step[m + 2]! * f0 + step[m + 3]! * f1
    state[k + 2] = step[m + 4]! * x + step[m + 5]! * v + step[m + 6]! * f0 + step[m + 7]! * f1
    state[k + 4] = place
    state[k + 6] = speed
  }
}

/** Begins where the forces of the moment hold a spring, at rest. */
function settle(rig: Needs, frame: BonesFrame, s: number, gust: number, state: SpringState): void {
  const at = SPRING_STATE * s
  state.fill(0, at, at + SPRING_STATE)
  writeForce(rig, frame, s, gust, state)
  const stiffness = rig.springs.stiffness[s]!
  state[at] = state[at + 8]! / stiffness
  state[at + 1] = state[at + 9]! / stiffness
  state[at + 4] = tip.x
  state[at + 5] = tip.y
}

/**
 * Lets all springs go on by one step of 1/240 s, or settles them where `isFirst`. Bones must be posed for the time at the end of the step;
 * afterwards they are where springs lead them.
 *
 * @param pose [n] values of channels by their slots
 * @param gust how strong the wind is, as a share of its mean
 * @param state [10s]; overwritten
 * @param offsets [2s]; overwritten
 */
export function stepSprings(
  rig: Needs,
  frame: BonesFrame,
  pose: Float64Array,
  gust: number,
  isFirst: boolean,
  state: SpringState,
  offsets: SpringOffsets,
): void {
  const { moved, of, throws, amount } = rig.springs
  for (let k = 0; k < moved.length; k++) {
    const b = moved[k]!
    placeBone(rig.bones, frame.skeleton, b)
    const s = of[b]!
    if (s < 0) continue
    bonePlace(frame, b, rig.bones.start, base)
    bonePlace(frame, b, rig.bones.end, tip)
    if (isFirst) settle(rig, frame, s, gust, state)
    else advance(rig, frame, s, gust, state)
    const at = SPRING_STATE * s
    offsets[2 * s] = throws[s]! * state[at]!
    offsets[2 * s + 1] = throws[s]! * state[at + 1]!
    keepOut(rig, frame, s, base, tip, state, offsets)
    const share = pose[amount[s]!]!
    lead(rig, frame, s, share * offsets[2 * s]!, share * offsets[2 * s + 1]!)
  }
}
