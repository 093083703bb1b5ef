/** What a body does while its legs walk: it rises and sinks, goes over the foot that stands, leans, turns and counter-turns, and swings. */
import { boneSlot } from '../bones/channels'
import type { StrideTable, SwingTable } from './table'

const TURN = 2 * Math.PI

/** How far the body is lowered at a phase, px. */
export const loweredBy = ({ crouch, bob, bobs, highest }: StrideTable, phase: number, share: number, grip: number): number =>
  grip * crouch - share * bob * Math.cos(TURN * bobs * phase - highest)

/** Moves all of a puppet, px on the canvas. */
export function moveRoots({ roots }: StrideTable, values: Float64Array, x: number, y: number): void {
  for (let k = 0; k < roots.length; k++) {
    values[boneSlot(roots[k]!) + 1]! += x
    values[boneSlot(roots[k]!) + 2]! += y
  }
}

/** Writes what the body does into the values of channels, but for how high it is. */
export function moveBody(table: StrideTable, phase: number, pace: number, amount: number, values: Float64Array): void {
  const { hips, chest, head, way } = table
  const share = amount * Math.min(1, Math.abs(pace))
  const seen = Math.abs(way)
  // Seen from the front hips tip from foot to foot; from the side they rock as the body rises and sinks.
  const aside = table.sided * Math.cos(TURN * phase - table.onRight) * (1 - seen)
  const rock = Math.cos(TURN * table.bobs * phase - table.highest) * way
  const hipTurn = share * table.hipTurn * (aside + 0.5 * rock)
  const chestTurn = -share * table.chestTurn * (aside + 0.5 * rock)
  // Forwards is clockwise where it walks to the right.
  const lean = -amount * Math.min(1.5, Math.abs(pace)) * Math.sign(pace) * table.lean * way
  moveRoots(table, values, share * table.sway * aside, 0)
  if (hips >= 0) values[boneSlot(hips)]! += hipTurn
  if (chest >= 0) values[boneSlot(chest)]! += chestTurn + lean
  if (head >= 0) {
    const carried = (table.headOnHips ? hipTurn : 0) + (table.headOnChest ? chestTurn + lean : 0)
    values[boneSlot(head)]! -= table.level * carried
  }
  for (let k = 0; k < table.swings.length; k++) swing(table.swings[k]!, phase, share * table.swing, values)
}

function swing({ bones, turn, follow, bend, at, lag, times, sign }: SwingTable, phase: number, share: number, values: Float64Array): void {
  for (let k = 0; k < bones.length; k++) {
    const behind = bones.length > 1 ? (lag * k) / (bones.length - 1) : 0
    const wave = Math.cos(TURN * (times * (phase - at) - behind))
    const own = k === 0 ? turn * wave : turn * follow * wave + bend * (0.5 + 0.5 * wave)
    values[boneSlot(bones[k]!)]! += share * sign * own
  }
}
