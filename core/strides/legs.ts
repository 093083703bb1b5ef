/** Legs that are set so that feet are where they are wanted, whatever the body does. */
import { boneSlot } from '../bones/channels'
import { poseBone } from '../bones/poseBone'
import type { BonesFrame, BonesRig } from '../bones/stage'
import { limbAngles, loadLimb, startOf, turnAbove } from '../constraints/limb'
import { toDegrees, toRadians } from '../maths/geometry/affine'
import { ChainReach, nearestTurn } from '../maths/solve/chainReach'
import { placed, placeFoot } from './foot'
import type { LegTable, StrideTable } from './table'
import { groundAt } from './course'

/** A leg while it is set: its ankle, canvas px, and the turn of its foot. */
export interface LegInHand {
  x: number
  y: number
  turn: number
  /** Turn of what hangs stiffly from its second bone. */
  stiff: number
  /** What of the foot touches the ground, and how far the ankle is from that at rest. */
  contactX: number
  contactY: number
  armX: number
  armY: number
  /** Degrees by which the foot is rolled, and px by which it is lifted. */
  roll: number
  lift: number
  /** px to the side and up, for what beats the air. */
  beatX: number
  beatY: number
}

export const newLegInHand = (): LegInHand => ({
  ...{ x: 0, y: 0, turn: 0, stiff: 0, contactX: 0, contactY: 0, armX: 0, armY: 0, roll: 0, lift: 0, beatX: 0, beatY: 0 },
})

interface Posing extends BonesFrame {
  readonly values: Float64Array
}

/** Share of the turn of a leg as a whole that what hangs stiffly below its knee takes over. */
const STIFF = 0.6
/** A leg of one bone is pushed together while it is in the air, to this share of its length at most. */
const SHORTEST = 0.6
/** A leg with a knee is stretched to this share of its length at most: near all of it a knee snaps. */
const STRETCHED = 0.999
/** The body is lowered by this share of a leg at most so that others reach. */
const DEEPEST = 0.35
/** Times that an ankle is placed again where a foot cannot turn as far as it is rolled. */
const ROUNDS = 4

/** Places all bones from which legs hang, by the values of a pose. */
export function placeCarriers({ bones }: BonesRig, { skeleton, values }: Posing, { carriers }: StrideTable): void {
  for (let k = 0; k < carriers.length; k++) poseBone(bones, skeleton, values, carriers[k]!)
}

/** Notes where the pose has the ankle of a leg, and how its foot is turned; its carriers are placed. */
export function takeLeg({ bones }: BonesRig, { skeleton, values }: Posing, leg: LegTable, hand: LegInHand, gone: number): void {
  for (let k = 0; k < leg.bones.length; k++) poseBone(bones, skeleton, values, leg.bones[k]!)
  const last = leg.bones[leg.bones.length - 1]!
  const m = skeleton.motion
  const k = 6 * last
  hand.x = m[k]! * leg.ankleX + m[k + 2]! * leg.ankleY + m[k + 4]! + gone
  hand.y = m[k + 1]! * leg.ankleX + m[k + 3]! * leg.ankleY + m[k + 5]!
  hand.stiff = skeleton.turn[last]!
  hand.turn = 0
  if (leg.foot >= 0) {
    poseBone(bones, skeleton, values, leg.foot)
    hand.turn = skeleton.turn[leg.foot]!
  }
  hand.contactX = hand.x
  hand.contactY = hand.y
  hand.armX = 0
  hand.armY = 0
  hand.roll = 0
  hand.lift = 0
  hand.beatX = 0
  hand.beatY = 0
}

/** How the ground slopes under a foot, degrees, counter-clockwise where it rises to the right. */
function slopeUnder({ ground }: StrideTable, leg: LegTable, x: number): number {
  const half = Math.abs(leg.ballX - leg.heelX) / 2
  if (ground.length === 0 || half < 1) return 0
  return toDegrees(Math.atan2(groundAt(ground, x - half) - groundAt(ground, x + half), 2 * half))
}

const step = { ahead: 0, lift: 0, roll: 0, ground: 0, slope: 0 }

/**
 * Says where a foot is wanted: where it walks, and beside that as the pose has it, as long as it is not all taken over.
 *
 * @param o where what shows of the leg stands in `shown`
 * @param gone how far the puppet has gone and was put along the canvas, px
 */
export function wantLeg(table: StrideTable, k: number, shown: Float64Array, o: number, grip: number, gone: number, hand: LegInHand): void {
  const leg = table.legs[k]!
  step.ahead = shown[o]!
  step.lift = shown[o + 1]!
  step.roll = shown[o + 2]!
  step.ground = shown[o + 3]!
  if (!leg.touches) {
    hand.beatX = grip * table.way * step.ahead
    hand.beatY = -grip * step.lift
    return
  }
  step.slope = grip * slopeUnder(table, leg, (leg.heelX + leg.ballX) / 2 + table.way * step.ahead + gone)
  placeFoot(leg, step, table.way)
  // What the pose has of its own is given up while it walks; a foot that stands as it is drawn stays on its spot meanwhile.
  const own = 1 - grip
  hand.x = placed.ankleX + gone + own * (hand.x - gone - leg.ankleX)
  hand.y = placed.ankleY + own * (hand.y - leg.ankleY)
  hand.turn = placed.turn + own * hand.turn
  hand.contactX = placed.contactX + gone
  hand.contactY = placed.contactY
  hand.armX = placed.armX
  hand.armY = placed.armY
  hand.roll = step.roll
  hand.lift = step.lift
}

/** How much lower the hip of a leg has to be for its ankle to be reached, px; below 0 where there is room. */
function shortOf({ bones }: BonesRig, { skeleton, values }: Posing, leg: LegTable, hand: LegInHand): number {
  const first = leg.bones[0]!
  poseBone(bones, skeleton, values, first)
  const dx = hand.x - startOf(bones, skeleton, first, 0)
  const dy = hand.y - startOf(bones, skeleton, first, 1)
  const reach = leg.bones.length === 1 ? leg.reach : STRETCHED * leg.reach
  const down = dy - Math.sqrt(Math.max(0, reach * reach - dx * dx))
  return Math.min(down, DEEPEST * leg.reach)
}

/** How far the body has to sink so that all feet that stand are reached, px. On legs of one bone it goes up and down as they turn. */
export function shortfall(rig: BonesRig, frame: Posing, { legs }: StrideTable, inHand: readonly LegInHand[]): number {
  let most = 0
  let stiff = Infinity
  for (let k = 0; k < legs.length; k++) {
    const leg = legs[k]!
    if (!leg.touches) continue
    const isStiff = leg.bones.length === 1
    if (isStiff && inHand[k]!.lift > 0) continue
    const short = shortOf(rig, frame, leg, inHand[k]!)
    if (isStiff) stiff = Math.min(stiff, short)
    else most = Math.max(most, short)
  }
  return most === 0 && stiff < Infinity ? stiff : most
}

const limb = new ChainReach(2)
const solved = new Float64Array(2)

/** Sets the values of a leg so that its ankle is where it is wanted; its carriers are placed. */
export function setLeg(rig: BonesRig, frame: Posing, leg: LegTable, hand: LegInHand, grip: number): void {
  const { values } = frame
  if (grip === 0 && leg.held.length > 0) return
  for (let k = 0; k < leg.held.length; k++) values[leg.held[k]!]! *= 1 - grip
  if (!leg.touches) beat(rig, frame, leg, hand)
  setChain(rig, frame, leg, hand, grip)
  if (leg.foot < 0) return
  for (let round = 0; round < ROUNDS; round++) {
    const off = setFoot(rig, frame, leg, hand)
    if (Math.abs(off) < 1e-3 || grip < 1 || !leg.touches) break
    // What the ankle cannot turn the leg makes up for: the foot still stands on the same spot.
    const turn = hand.turn + off
    const c = Math.cos(toRadians(turn))
    const s = Math.sin(toRadians(turn))
    hand.x = hand.contactX + c * hand.armX + s * hand.armY
    hand.y = hand.contactY - s * hand.armX + c * hand.armY
    setChain(rig, frame, leg, hand, grip)
  }
  if (leg.toe >= 0 && hand.roll < 0) values[boneSlot(leg.toe)]! -= grip * leg.toeBend * hand.turn
}

/** What beats the air goes along with the body, and beats about where the pose has it. */
function beat(rig: BonesRig, frame: Posing, leg: LegTable, hand: LegInHand): void {
  const { beatX, beatY } = hand
  takeLeg(rig, frame, leg, hand, 0)
  hand.x += beatX
  hand.y += beatY
}

/** Turns a foot as it is wanted; returns by how many degrees its limits keep it from that. */
function setFoot({ bones }: BonesRig, { skeleton, values }: Posing, leg: LegTable, hand: LegInHand): number {
  const { foot } = leg
  const angle = nearestTurn(hand.turn - turnAbove(bones, skeleton, foot), 0)
  values[boneSlot(foot)] = angle
  poseBone(bones, skeleton, values, foot)
  return nearestTurn(skeleton.turn[foot]! - hand.turn, 0)
}

function setChain(rig: BonesRig, frame: Posing, leg: LegTable, hand: LegInHand, grip: number): void {
  const { bones } = rig
  const { skeleton, values } = frame
  const first = leg.bones[0]!
  poseBone(bones, skeleton, values, first)
  const rootX = startOf(bones, skeleton, first, 0)
  const rootY = startOf(bones, skeleton, first, 1)
  if (leg.bones.length === 1) return setSingle(rig, frame, leg, hand.x - rootX, hand.y - rootY, grip)
  const third = leg.bones.length > 2 ? leg.bones[2]! : -1
  const stiff = third < 0 ? 0 : stiffTurn(rig, leg, hand, rootX, rootY, grip)
  // What hangs stiffly from the second bone is taken off the way to the ankle.
  const tipX = third < 0 ? leg.ankleX : bones.start[2 * third]!
  const tipY = third < 0 ? leg.ankleY : bones.start[2 * third + 1]!
  const c = Math.cos(toRadians(stiff))
  const s = Math.sin(toRadians(stiff))
  const armX = leg.ankleX - tipX
  const armY = leg.ankleY - tipY
  poseBone(bones, skeleton, values, leg.bones[1]!)
  loadLimb(limb, { bones, frame: skeleton }, leg.pair, tipX, tipY)
  limb.min[1] = leg.kneeMin
  limb.max[1] = leg.kneeMax
  limb.angles[1] = Math.min(leg.kneeMax, Math.max(leg.kneeMin, 0))
  limb.angles[0] = 0
  limb.solve(hand.x - c * armX - s * armY, hand.y + s * armX - c * armY, leg.knee)
  limbAngles(limb, bones, leg.pair, solved)
  for (let k = 0; k < 2; k++) {
    values[boneSlot(leg.pair[k]!)] = solved[k]!
    poseBone(bones, skeleton, values, leg.pair[k]!)
  }
  for (let k = 2; k < leg.bones.length; k++) {
    const b = leg.bones[k]!
    values[boneSlot(b)] = nearestTurn(stiff - turnAbove(bones, skeleton, b), 0)
    poseBone(bones, skeleton, values, b)
  }
}

/** Turn of what hangs stiffly: as the pose has it, and along with the leg as a whole while it walks. */
function stiffTurn({ bones }: BonesRig, leg: LegTable, hand: LegInHand, rootX: number, rootY: number, grip: number): number {
  const first = leg.bones[0]!
  const rest = Math.atan2(bones.start[2 * first + 1]! - leg.ankleY, leg.ankleX - bones.start[2 * first]!)
  const now = Math.atan2(rootY - hand.y, hand.x - rootX)
  return hand.stiff + grip * (STIFF * nearestTurn(toDegrees(now - rest), 0) - hand.stiff)
}

/** A leg of one bone points at its foot; on the ground the foot keeps its place along it, in the air the leg is pushed together. */
function setSingle({ bones }: BonesRig, frame: Posing, leg: LegTable, dx: number, dy: number, grip: number): void {
  const { skeleton, values } = frame
  const b = leg.bones[0]!
  const vx = leg.ankleX - bones.start[2 * b]!
  const vy = leg.ankleY - bones.start[2 * b + 1]!
  const far = Math.sqrt(dx * dx + dy * dy)
  const slot = boneSlot(b)
  const reach = leg.reach * values[slot + 3]!
  const isShort = far <= reach
  const towards = isShort ? Math.atan2(-dy, dx) : -Math.acos(Math.min(1, Math.max(-1, dx / reach)))
  const turn = toDegrees(towards - Math.atan2(-vy, vx))
  values[slot] = nearestTurn(turn - turnAbove(bones, skeleton, b), 0)
  if (isShort) values[slot + 3]! *= 1 + grip * (Math.max(SHORTEST, far / Math.max(reach, 1e-9)) - 1)
  poseBone(bones, skeleton, values, b)
}
