/** Bones as typed arrays, and their motion: each turns about its start, is drawn out, and goes along with its parent. */
import type { BoneId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { toRadians } from '../maths/geometry/affine'
import { bonesInOrder } from './tree'

/** Bones of a puppet as arrays, parents before children. */
export interface BoneTable {
  readonly ids: readonly BoneId[]
  readonly index: ReadonlyMap<BoneId, number>
  /** [b] index of the parent, -1 for a root; parents come first */
  readonly parent: Int32Array
  /** [2b] rest, canvas px */
  readonly start: Float64Array
  readonly end: Float64Array
  /** [b] degrees; infinite where there is no limit */
  readonly min: Float64Array
  readonly max: Float64Array
  /** [b] greatest length, as a share of that at rest */
  readonly longest: Float64Array
  /** [b] 1 where the bone grows thinner as it grows longer */
  readonly keepsVolume: Uint8Array
  /** [b] 1 where it takes over its parent's turn, or its length */
  readonly takesTurn: Uint8Array
  readonly takesScale: Uint8Array
}

/** Bones of a puppet as arrays; b is their number. */
export function compileBones(puppet: Puppet): BoneTable {
  const list = bonesInOrder(puppet)
  const index = new Map(list.map((b, i) => [b.id, i]))
  return {
    ids: list.map((b) => b.id),
    index,
    parent: Int32Array.from(list, (b) => (b.parent === null ? -1 : index.get(b.parent)!)),
    start: Float64Array.from(list.flatMap((b) => [b.start.x, b.start.y])),
    end: Float64Array.from(list.flatMap((b) => [b.end.x, b.end.y])),
    min: Float64Array.from(list, (b) => b.limits.min ?? -Infinity),
    max: Float64Array.from(list, (b) => b.limits.max ?? Infinity),
    longest: Float64Array.from(list, (b) => b.lengths.max),
    keepsVolume: Uint8Array.from(list, (b) => Number(b.keepsVolume)),
    takesTurn: Uint8Array.from(list, (b) => Number(b.inherits.turn)),
    takesScale: Uint8Array.from(list, (b) => Number(b.inherits.scale)),
  }
}

/** What bones do in a pose. Own values are what the pose gives, changed by constraints. */
export interface BoneFrame {
  /** [b] own turn, degrees within limits; own shift, px in the space of the parent; own length */
  readonly angle: Float64Array
  readonly shift: Float64Array
  readonly length: Float64Array
  /** [b] turn on the canvas, degrees; length with what it takes over */
  readonly turn: Float64Array
  readonly drawn: Float64Array
  /** [6b] rest canvas to posed canvas without the change of length: a turn and a shift */
  readonly rigid: Float64Array
  /** [6b] the change of length alone, on the canvas at rest */
  readonly stretch: Float64Array
  /** [6b] rest canvas to posed canvas */
  readonly motion: Float64Array
}

/** Buffers for the pose of `count` bones, at rest. */
export const makeBoneFrame = (count: number): BoneFrame => ({
  angle: new Float64Array(count),
  shift: new Float64Array(2 * count),
  length: new Float64Array(count),
  turn: new Float64Array(count),
  drawn: new Float64Array(count),
  rigid: new Float64Array(6 * count),
  stretch: new Float64Array(6 * count),
  motion: new Float64Array(6 * count),
})

/** Places one bone from its own values and its parent, which is placed already. */
export function placeBone(table: BoneTable, frame: BoneFrame, b: number): void {
  const { parent, start, end } = table
  const { motion, rigid, stretch, turn, drawn } = frame
  const above = parent[b]!
  const under = above < 0 ? 0 : turn[above]!
  const x = start[2 * b]!
  const y = start[2 * b + 1]!
  turn[b] = frame.angle[b]! + (table.takesTurn[b]! === 1 ? under : 0)
  drawn[b] = frame.length[b]! * (above >= 0 && table.takesScale[b]! === 1 ? drawn[above]! : 1)
  // The start goes with the parent; its shift is turned with the parent, too.
  const k = 6 * above
  const dx = frame.shift[2 * b]!
  const dy = frame.shift[2 * b + 1]!
  const isShifted = dx !== 0 || dy !== 0
  const cu = isShifted ? Math.cos(toRadians(under)) : 1
  const su = isShifted ? Math.sin(toRadians(under)) : 0
  const px = (above < 0 ? x : motion[k]! * x + motion[k + 2]! * y + motion[k + 4]!) + cu * dx + su * dy
  const py = (above < 0 ? y : motion[k + 1]! * x + motion[k + 3]! * y + motion[k + 5]!) - su * dx + cu * dy
  const c = Math.cos(toRadians(turn[b]))
  const s = Math.sin(toRadians(turn[b]))
  const at = 6 * b
  rigid[at] = c
  rigid[at + 1] = -s
  rigid[at + 2] = s
  rigid[at + 3] = c
  rigid[at + 4] = px - c * x - s * y
  rigid[at + 5] = py + s * x - c * y
  const f = drawn[b]
  const g = table.keepsVolume[b]! === 1 ? 1 / f : 1
  const ux = end[2 * b]! - x
  const uy = end[2 * b + 1]! - y
  const size = ux * ux + uy * uy
  // A bone without length has no direction to grow in.
  const xx = size > 1e-18 ? (f * ux * ux + g * uy * uy) / size : 1
  const xy = size > 1e-18 ? ((f - g) * ux * uy) / size : 0
  const yy = size > 1e-18 ? (f * uy * uy + g * ux * ux) / size : 1
  stretch[at] = xx
  stretch[at + 1] = xy
  stretch[at + 2] = xy
  stretch[at + 3] = yy
  stretch[at + 4] = x - xx * x - xy * y
  stretch[at + 5] = y - xy * x - yy * y
  motion[at] = c * xx + s * xy
  motion[at + 1] = c * xy - s * xx
  motion[at + 2] = c * xy + s * yy
  motion[at + 3] = c * yy - s * xy
  motion[at + 4] = px - motion[at]! * x - motion[at + 2]! * y
  motion[at + 5] = py - motion[at + 1]! * x - motion[at + 3]! * y
}
