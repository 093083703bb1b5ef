/** Questions about the tree of bones. Nothing here changes a document. */
import type { BoneId } from '../kernel/ids'
import { filedKind, type RecordKind } from '../kernel/records'
import type { Puppet } from '../puppet/schema'
import type { Bone } from './records'
import { boneOf } from './lookup'
import { sure } from '../kernel/sure'

/** Bones as a kind of records: what hung on one that is gone hangs on the bone above it. */
export const BONE_KIND: RecordKind = { ...filedKind('bone', 'bone', 'bones'), heir: ({ bones }, id) => bones[id]?.parent ?? null }

/** Bones with each parent before its children, in the order of the bone tree. */
export function bonesInOrder(puppet: Puppet, from: readonly BoneId[] = puppet.skeleton): Bone[] {
  const out: Bone[] = []
  const stack = [...from].reverse()
  while (stack.length > 0) {
    const bone = boneOf(puppet, sure(stack.pop()))
    out.push(bone)
    for (const child of bone.children.toReversed()) stack.push(child)
  }
  return out
}

/** Whether a bone is another one or lies below it. */
export function isWithinBone(puppet: Puppet, bone: BoneId, ancestor: BoneId): boolean {
  for (let id: BoneId | null = bone; id !== null; id = boneOf(puppet, id).parent) if (id === ancestor) return true
  return false
}

/** Those of some bones that hang from none of the others. */
export const topmostBones = (puppet: Puppet, bones: readonly BoneId[]): BoneId[] =>
  bones.filter((id) => !bones.some((other) => other !== id && isWithinBone(puppet, id, other)))

/** How far (canvas px) and how strongly a bone acts on what is weighed by reach. */
export const influenceOf = ({ influence, start, end }: Bone): { radius: number; strength: number } => ({
  radius: influence.radius ?? Math.max(4, Math.hypot(end.x - start.x, end.y - start.y) / 2),
  strength: influence.strength,
})

/** Height of a skeleton at rest, px; 1 where it has none. */
export function skeletonHeight({ bones }: Pick<Puppet, 'bones'>): number {
  let [low, high] = [Infinity, -Infinity]
  for (const { start, end } of Object.values(bones)) {
    low = Math.min(low, start.y, end.y)
    high = Math.max(high, start.y, end.y)
  }
  return high > low ? high - low : 1
}

/** Distance, px, up to which a bone's start stands on its parent's end. */
const JOINED = 2

/**
 * Bones that follow each other end to start, down to a bone, itself last. A limb begins where it branches: the bone that
 * carries more than one limb belongs to none of them.
 */
export function limbUpTo(puppet: Puppet, bone: BoneId): BoneId[] {
  const out = [bone]
  for (let b = boneOf(puppet, bone); b.parent !== null; b = boneOf(puppet, b.parent)) {
    const parent = boneOf(puppet, b.parent)
    if (parent.children.length > 1 || Math.hypot(parent.end.x - b.start.x, parent.end.y - b.start.y) > JOINED) break
    out.unshift(parent.id)
  }
  return out
}
