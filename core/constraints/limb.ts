/** Bones that hang one from the other as a limb that reaches, and back. */
import type { BoneFrame, BoneTable } from '../bones/table'
import type { ChainReach } from '../maths/solve/chainReach'

/** Posed bones. */
export interface PosedBones {
  readonly bones: BoneTable
  readonly frame: BoneFrame
}

/** An angle within the limits of a bone. */
export const clampAngle = ({ min, max }: BoneTable, b: number, angle: number): number => Math.min(max[b]!, Math.max(min[b]!, angle))

/** Turn of what a bone hangs from, as far as it takes it over. */
export const turnAbove = ({ parent, takesTurn }: BoneTable, { turn }: BoneFrame, b: number): number =>
  parent[b]! < 0 || takesTurn[b]! === 0 ? 0 : turn[parent[b]!]!

/** Posed start of a bone, by its axis. */
export function startOf({ start }: BoneTable, { rigid }: BoneFrame, b: number, axis: number): number {
  const k = 6 * b + axis
  return rigid[k]! * start[2 * b]! + rigid[k + 2]! * start[2 * b + 1]! + rigid[k + 4]!
}

/**
 * Takes a chain into a limb: links as long as the bones are drawn out now, angles counted from the bone before. A bone that does not take
 * over its parent's turn is treated as if it did, and counted back afterwards.
 *
 * @param tipX, tipY what reaches, at rest on the canvas
 */
export function loadLimb(limb: ChainReach, { bones, frame }: PosedBones, chain: Int32Array, tipX: number, tipY: number): void {
  limb.count = chain.length
  const root = chain[0]!
  limb.rootX = startOf(bones, frame, root, 0)
  limb.rootY = startOf(bones, frame, root, 1)
  limb.base = turnAbove(bones, frame, root)
  let cumulative = limb.base
  for (let i = 0; i < chain.length; i++) {
    const b = chain[i]!
    const next = i + 1 < chain.length ? chain[i + 1]! : -1
    const toX = (next < 0 ? tipX : bones.start[2 * next]!) - bones.start[2 * b]!
    const toY = (next < 0 ? tipY : bones.start[2 * next + 1]!) - bones.start[2 * b + 1]!
    const k = 6 * b
    limb.links[2 * i] = frame.stretch[k]! * toX + frame.stretch[k + 2]! * toY
    limb.links[2 * i + 1] = frame.stretch[k + 1]! * toX + frame.stretch[k + 3]! * toY
    const free = bones.takesTurn[b]! === 0 && i > 0 ? cumulative : 0
    limb.angles[i] = frame.angle[b]! - free
    limb.min[i] = bones.min[b]! - free
    limb.max[i] = bones.max[b]! - free
    cumulative += limb.angles[i]!
  }
}

/** Own angles of the bones of a limb as it was solved, not yet within their limits: [n]. */
export function limbAngles(limb: ChainReach, bones: BoneTable, chain: Int32Array, out: Float64Array): void {
  let cumulative = limb.base
  for (let i = 0; i < chain.length; i++) {
    out[i] = limb.angles[i]! + (bones.takesTurn[chain[i]!]! === 0 && i > 0 ? cumulative : 0)
    cumulative += limb.angles[i]!
  }
}
