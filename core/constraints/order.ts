/** In which order things that need each other are done: constraints, and parts that hang on parts. */
import type { BoneId, ConstraintId } from '../kernel/ids'
import { movedBones, targetsOf, type Constraint } from './records'
import type { Puppet } from '../puppet/schema'

type Skeleton = Pick<Puppet, 'bones' | 'targets' | 'constraints'>

/** A bone with all above it. */
function withAbove({ bones }: Skeleton, bone: BoneId, into: Set<BoneId>): void {
  for (let id: BoneId | null = bone; id !== null && !into.has(id); id = bones[id]?.parent ?? null) into.add(id)
}

/** Bones whose place or turn a constraint has to know: what its targets hang from, what it copies, what its limb hangs from. */
function neededBones(skeleton: Skeleton, c: Constraint): Set<BoneId> {
  const out = new Set<BoneId>()
  for (const target of targetsOf(c)) {
    const parent = skeleton.targets[target]?.parent
    if (parent) withAbove(skeleton, parent, out)
  }
  if (c.kind === 'copy') withAbove(skeleton, c.from, out)
  const above = skeleton.bones[movedBones(c)[0]!]?.parent
  if (above) withAbove(skeleton, above, out)
  return out
}

/**
 * Constraints in the order in which they act: what one moves comes before what needs it, else as they are listed.
 *
 * @returns the constraint that waits for itself in place of an order, where there is one
 */
export function constraintOrder(skeleton: Skeleton): Constraint[] | ConstraintId {
  const open = skeleton.constraints.map((c) => ({ c, needs: neededBones(skeleton, c), moves: movedBones(c) }))
  const self = open.find(({ needs, moves }) => moves.some((b) => needs.has(b)))
  if (self) return self.c.id
  const out: Constraint[] = []
  while (open.length > 0) {
    const at = open.findIndex((one) => !open.some((other) => other !== one && other.moves.some((b) => one.needs.has(b))))
    if (at < 0) return open[0]!.c.id
    out.push(open.splice(at, 1)[0]!.c)
  }
  return out
}

/** A constraint that waits for what it moves itself, or null. */
export function constraintCycle(skeleton: Skeleton): ConstraintId | null {
  const order = constraintOrder(skeleton)
  return typeof order === 'string' ? order : null
}
