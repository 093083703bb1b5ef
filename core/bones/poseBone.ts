/** One bone from the values of its channels. */
import { boneSlot } from './channels'
import { placeBone, type BoneFrame, type BoneTable } from './table'

/** Takes the own values of a bone from a pose, and places it; its parent is placed already. */
export function poseBone(bones: BoneTable, skeleton: BoneFrame, pose: Float64Array, b: number): void {
  const slot = boneSlot(b)
  skeleton.angle[b] = Math.min(bones.max[b]!, Math.max(bones.min[b]!, pose[slot]!))
  skeleton.shift[2 * b] = pose[slot + 1]!
  skeleton.shift[2 * b + 1] = pose[slot + 2]!
  skeleton.length[b] = pose[slot + 3]!
  placeBone(bones, skeleton, b)
}
