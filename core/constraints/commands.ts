/** Commands on targets and constraints. */
import { z } from 'zod'
import { count, Name, Vec } from '../kernel/numbers'
import { BoneId, ConstraintId, TargetId } from '../kernel/ids'
import { Constraint, movedBones, targetsOf, type Target } from './records'
import type { Puppet } from '../puppet/schema'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { boneOf } from '../bones/lookup'

/** A target of a puppet; throws an EditError where there is none with this id. */
export function targetOf(puppet: Puppet, id: string): Target {
  const target = puppet.targets[id]
  if (!target) throw new EditError(`There is no target "${id}" in this puppet.`)
  return target
}

function constraintAt(puppet: Puppet, id: string): number {
  const at = puppet.constraints.findIndex((c) => c.id === id)
  if (at < 0) throw new EditError(`There is no constraint "${id}" in this puppet.`)
  return at
}

/** Adds a target. Refused where its id is taken or its bone is not there. */
export const addTarget = command(
  'target.add',
  'Add target',
  z.object({ id: TargetId, name: Name, at: Vec, parent: BoneId.nullable() }),
  (puppet, { id, name, at, parent }) => {
    if (puppet.targets[id]) throw new EditError(`There is already a target "${id}".`)
    if (parent !== null) boneOf(puppet, parent)
    puppet.targets[id] = { id, name, at, parent, inViews: {} }
  },
)

/** Moves a target at rest, in canvas px. */
export const moveTarget = command(
  'target.move',
  'Move target at rest',
  z.object({ target: TargetId, at: Vec }),
  (puppet, { target, at }) => {
    targetOf(puppet, target).at = at
  },
)

/** Renames a target. */
export const renameTarget = command(
  'target.rename',
  'Rename target',
  z.object({ target: TargetId, name: Name }),
  (puppet, { target, name }) => {
    targetOf(puppet, target).name = name
  },
)

/** Hangs a target from a bone, or from none; it stays where it is at rest. */
export const hangTarget = command(
  'target.hang',
  'Change parent of target',
  z.object({ target: TargetId, parent: BoneId.nullable() }),
  (puppet, { target, parent }) => {
    if (parent !== null) boneOf(puppet, parent)
    targetOf(puppet, target).parent = parent
  },
)

/** Takes a target away, with constraints that have nothing left to look for. */
export const deleteTarget = command('target.delete', 'Delete target', z.object({ target: TargetId }), (puppet, { target }) => {
  targetOf(puppet, target)
  delete puppet.targets[target]
})

function checkConstraint(puppet: Puppet, c: Constraint): void {
  const bones = (c.kind === 'copy' ? [c.bone, c.from] : movedBones(c)).map((b) => boneOf(puppet, b))
  for (const target of targetsOf(c)) targetOf(puppet, target)
  if (new Set(bones).size < bones.length) throw new EditError('A bone is listed twice.')
  if (c.kind !== 'reach' && c.kind !== 'path') return
  const broken = c.bones.find((b, i) => i > 0 && boneOf(puppet, b).parent !== c.bones[i - 1])
  if (broken !== undefined) throw new EditError(`"${boneOf(puppet, broken).name}" does not hang from the bone before it.`)
  if (c.kind === 'reach' && c.level !== null && boneOf(puppet, c.level).parent !== c.bones.at(-1))
    throw new EditError(`"${boneOf(puppet, c.level).name}" does not hang from the end of the limb.`)
}

/** Adds a constraint at the end of the order. Refused where bones or targets of it are not there. */
export const addConstraint = command('constraint.add', 'Add constraint', z.object({ constraint: Constraint }), (puppet, { constraint }) => {
  if (puppet.constraints.some((c) => c.id === constraint.id)) throw new EditError(`There is already a constraint "${constraint.id}".`)
  checkConstraint(puppet, constraint)
  puppet.constraints.push(constraint)
})

/** Replaces a constraint by another form of it. */
export const setConstraint = command(
  'constraint.set',
  'Change constraint',
  z.object({ constraint: Constraint }),
  (puppet, { constraint }) => {
    const at = constraintAt(puppet, constraint.id)
    checkConstraint(puppet, constraint)
    puppet.constraints[at] = constraint
  },
)

/** Takes a constraint away, with targets that nothing else looks for. */
export const deleteConstraint = command(
  'constraint.delete',
  'Delete constraint',
  z.object({ constraint: ConstraintId }),
  (puppet, { constraint }) => {
    puppet.constraints.splice(constraintAt(puppet, constraint), 1)
  },
)

/** Moves a constraint in the order in which they act. */
export const orderConstraint = command(
  'constraint.order',
  'Reorder constraints',
  z.object({ constraint: ConstraintId, index: count }),
  (puppet, { constraint, index }) => {
    const [moved] = puppet.constraints.splice(constraintAt(puppet, constraint), 1)
    puppet.constraints.splice(Math.min(index, puppet.constraints.length), 0, moved!)
  },
)
