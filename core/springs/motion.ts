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
import { toDegrees, toRadians } from '../maths/geometry/affine'
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

/** Of the bone that is led: its start and its end on the posed canvas as its pose has them, and cosine and sine of its turn. */
const here = new Float64Array(6)
const [BASE_X, BASE_Y, TIP_X, TIP_Y, COS, SIN] = [0, 1, 2, 3, 4, 5] as const

/**
 * Writes where a bone starts and ends by its own values and its parent, which is placed already, and its turn: what `placeBone` would make
 * of it, without the maps, as it will be placed anew once it is led.
 */
function locate({ bones }: BonesRig, { skeleton }: BonesFrame, b: number): void {
  const { motion, turn, drawn, shift } = skeleton
  const above = bones.parent[b]!
  const under = above < 0 ? 0 : turn[above]!
  const x = bones.start[2 * b]!
  const y = bones.start[2 * b + 1]!
  const k = 6 * above
  let px = above < 0 ? x : motion[k]! * x + motion[k + 2]! * y + motion[k + 4]!
  let py = above < 0 ? y : motion[k + 1]! * x + motion[k + 3]! * y + motion[k + 5]!
  const dx = shift[2 * b]!
  const dy = shift[2 * b + 1]!
  if (dx !== 0 || dy !== 0) {
    const cu = Math.cos(toRadians(under))
    const su = Math.sin(toRadians(under))
    px += cu * dx + su * dy
    py += cu * dy - su * dx
  }
  const turned = skeleton.angle[b]! + (bones.takesTurn[b] === 1 ? under : 0)
  const length = skeleton.length[b]! * (above >= 0 && bones.takesScale[b] === 1 ? drawn[above]! : 1)
  const c = Math.cos(toRadians(turned))
  const s = Math.sin(toRadians(turned))
  const ux = bones.end[2 * b]! - x
  const uy = bones.end[2 * b + 1]! - y
  here[BASE_X] = px
  here[BASE_Y] = py
  here[TIP_X] = px + length * (c * ux + s * uy)
  here[TIP_Y] = py + length * (c * uy - s * ux)
  here[COS] = c
  here[SIN] = s
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

/** Turns and draws out a bone so that its end comes by an offset from where its pose has it; it was located. */
function lead(rig: Needs, frame: BonesFrame, s: number, dx: number, dy: number): void {
  const { bones, springs } = rig
  const { skeleton } = frame
  const b = springs.bone[s]!
  const ax = here[TIP_X]! - here[BASE_X]!
  const ay = here[TIP_Y]! - here[BASE_Y]!
  const length = Math.sqrt(ax * ax + ay * ay)
  if (length < 1e-6) return placeBone(bones, skeleton, b)
  const px = ax + dx
  const py = ay + dy
  // Counter-clockwise as seen, with y down.
  const by = -toDegrees(Math.atan2(ax * py - ay * px, ax * px + ay * py))
  skeleton.angle[b] = softly(skeleton.angle[b]!, by, bones.min[b]!, bones.max[b]!)
  const stretch = springs.stretch[s]!
  if (stretch > 0) {
    const drawn = 1 + stretch * (Math.sqrt(px * px + py * py) / length - 1)
    const own = skeleton.length[b]!
    skeleton.length[b] = Math.min(Math.max(own, bones.longest[b]!), own * Math.min(LENGTHS.most, Math.max(LENGTHS.least, drawn)))
  }
  placeBone(bones, skeleton, b)
}

/**
 * Makes the next of the moved bones ready: one that swings is located, so that it can be led; one that only hangs from such is placed.
 *
 * @returns the spring of the bone; -1 for none
 */
function reach(rig: Needs, frame: BonesFrame, b: number): number {
  const s = rig.springs.of[b]!
  if (s < 0) placeBone(rig.bones, frame.skeleton, b)
  else locate(rig, frame, b)
  return s
}

/**
 * Lays offsets over posed bones: sprung bones turn, and all that hangs from them goes along. Bones must be posed.
 *
 * @param pose [n] values of channels by their slots, for the amounts of groups
 */
export function applySprings(rig: Needs, frame: BonesFrame, pose: Float64Array, offsets: SpringOffsets): void {
  const { moved, amount } = rig.springs
  for (let k = 0; k < moved.length; k++) {
    const s = reach(rig, frame, moved[k]!)
    if (s < 0) continue
    const share = pose[amount[s]!]!
    lead(rig, frame, s, share * offsets[2 * s]!, share * offsets[2 * s + 1]!)
  }
}

/** The force on a spring besides the air, px a second squared: gravity, as far as its bone is turned from where it was drawn, and wind. */
function writeForce({ springs }: SpringsRig, s: number, gust: number, state: SpringState): void {
  const at = SPRING_STATE * s
  const gravity = springs.gravity[s]!
  const blown = springs.wind[s]! * gust
  state[at + 8] = -gravity * here[SIN]! + blown * springs.blows.x
  state[at + 9] = gravity * (1 - here[COS]!) + blown * springs.blows.y
}

/** How strong the wind is at a time, as a share of its mean. */
export const windAt = ({ springs: { blows } }: SpringsRig, time: number): number =>
  blows.gusts === 0 ? 1 : 1 + blows.gusts * gustAt(blows.seed, time)

/** Lets one spring go on by a step to where its drive is now. */
function advance(rig: Needs, s: number, gust: number, state: SpringState): void {
  const { step, drag, decay } = rig.springs
  const at = SPRING_STATE * s
  const m = STEP_SIZE * s
  const air = 2 * decay[s]! * drag[s]!
  const fx = state[at + 8]!
  const fy = state[at + 9]!
  writeForce(rig, s, gust, state)
  for (let axis = 0; axis < 2; axis++) {
    const k = at + axis
    const place = here[TIP_X + axis]!
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

/** Keeps a spring at its place while nothing of it shows: let loose again, it goes on from where its bone is, as fast as it moves. */
function hold(rig: Needs, s: number, gust: number, state: SpringState): void {
  const at = SPRING_STATE * s
  for (let axis = 0; axis < 2; axis++) {
    const k = at + axis
    state[k] = 0
    state[k + 2] = 0
    state[k + 6] = (here[TIP_X + axis]! - state[k + 4]!) / STEP
    state[k + 4] = here[TIP_X + axis]!
  }
  writeForce(rig, s, gust, state)
}

/** Begins where the forces of the moment hold a spring, at rest. */
function settle(rig: Needs, s: number, gust: number, state: SpringState): void {
  const at = SPRING_STATE * s
  state.fill(0, at, at + SPRING_STATE)
  writeForce(rig, s, gust, state)
  const stiffness = rig.springs.stiffness[s]!
  state[at] = state[at + 8]! / stiffness
  state[at + 1] = state[at + 9]! / stiffness
  state[at + 4] = here[TIP_X]!
  state[at + 5] = here[TIP_Y]!
}

/**
 * Lets all springs go on by one step of 1/240 s, or settles them where `isFirst`. Bones must be posed for the time at the end of the step;
 * afterwards they are where springs lead them.
 *
 * @param pose [n] values of channels by their slots
 * @param gust how strong the wind is, as a share of its mean
 * @param state [10s]; overwritten
 * @param offsets [2s]; overwritten
 * @param held [s] 1 for those that are in the hand: they keep to the pose
 */
export function stepSprings(
  rig: Needs,
  frame: BonesFrame,
  pose: Float64Array,
  gust: number,
  isFirst: boolean,
  state: SpringState,
  offsets: SpringOffsets,
  held: Uint8Array | null = null,
): void {
  const { moved, throws, amount } = rig.springs
  for (let k = 0; k < moved.length; k++) {
    const s = reach(rig, frame, moved[k]!)
    if (s < 0) continue
    const share = pose[amount[s]!]!
    if (isFirst) settle(rig, s, gust, state)
    else if (share === 0 || held?.[s] === 1) hold(rig, s, gust, state)
    else advance(rig, s, gust, state)
    const at = SPRING_STATE * s
    offsets[2 * s] = throws[s]! * state[at]!
    offsets[2 * s + 1] = throws[s]! * state[at + 1]!
    keepOut(rig, frame, s, here, state, offsets)
    lead(rig, frame, s, share * offsets[2 * s]!, share * offsets[2 * s + 1]!)
  }
}
