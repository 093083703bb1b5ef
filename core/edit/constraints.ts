/** Commands on targets and constraints. */
import { z } from 'zod'
import { count } from '../document/basics'
import { addressesOf } from '../document/channels'
import { constraintCycle } from '../document/order'
import { BoneId, ConstraintId, TargetId } from '../document/ids'
import { Constraint, MOST_CHAINED, movedBones, Name, targetsOf, Vec, type Puppet, type Target } from '../document/schema'
import { command, EditError } from './command'
import { boneOf } from './lookup'

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

/** Refuses constraints that wait for themselves: a limb cannot reach for what hangs from it. */
function refuseCycle(puppet: Puppet): void {
  const cycle = constraintCycle(puppet)
  if (cycle === null) return
  const { name } = puppet.constraints[constraintAt(puppet, cycle)]!
  throw new EditError(`"${name}" would wait for itself: what it looks for hangs from what it moves.`)
}

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

export const moveTarget = command(
  'target.move',
  'Move target at rest',
  z.object({ target: TargetId, at: Vec }),
  (puppet, { target, at }) => {
    targetOf(puppet, target).at = at
  },
)

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
    refuseCycle(puppet)
  },
)

/** Takes a target away, with constraints that have nothing left to look for. */
export const deleteTarget = command('target.delete', 'Delete target', z.object({ target: TargetId }), (puppet, { target }) => {
  targetOf(puppet, target)
  for (const c of puppet.constraints) {
    if (c.kind === 'reach' && c.pole === target) c.pole = null
    if (c.kind === 'path' && c.targets.length > 1) c.targets = c.targets.filter((t) => t !== target)
  }
  for (const c of puppet.constraints.filter((k) => targetsOf(k).includes(target))) dropConstraint(puppet, c.id)
  dropTarget(puppet, target)
})

function dropTarget(puppet: Puppet, target: string): void {
  delete puppet.targets[target]
  for (const address of addressesOf('target', target)) delete puppet.pose[address]
}

function dropConstraint(puppet: Puppet, id: string): void {
  puppet.constraints.splice(constraintAt(puppet, id), 1)
  for (const address of addressesOf('constraint', id)) delete puppet.pose[address]
}

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

export const addConstraint = command('constraint.add', 'Add constraint', z.object({ constraint: Constraint }), (puppet, { constraint }) => {
  if (puppet.constraints.some((c) => c.id === constraint.id)) throw new EditError(`There is already a constraint "${constraint.id}".`)
  checkConstraint(puppet, constraint)
  puppet.constraints.push(constraint)
  refuseCycle(puppet)
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
    refuseCycle(puppet)
  },
)

/** Takes a constraint away, with targets that nothing else looks for. */
export const deleteConstraint = command(
  'constraint.delete',
  'Delete constraint',
  z.object({ constraint: ConstraintId }),
  (puppet, { constraint }) => {
    const targets = targetsOf(puppet.constraints[constraintAt(puppet, constraint)]!)
    dropConstraint(puppet, constraint)
    for (const target of targets) if (!puppet.constraints.some((c) => targetsOf(c).includes(target))) dropTarget(puppet, target)
  },
)

export const orderConstraint = command(
  'constraint.order',
  'Reorder constraints',
  z.object({ constraint: ConstraintId, index: count }),
  (puppet, { constraint, index }) => {
    const [moved] = puppet.constraints.splice(constraintAt(puppet, constraint), 1)
    puppet.constraints.splice(Math.min(index, puppet.constraints.length), 0, moved!)
  },
)

/** Takes bones that are gone out of constraints and targets: chains are cut off where they break. */
export function forgetBonesInConstraints(puppet: Puppet, gone: ReadonlySet<string>, heir: string | null): void {
  const before = new Set(puppet.constraints.flatMap(targetsOf))
  for (const target of Object.values(puppet.targets)) if (target.parent !== null && gone.has(target.parent)) target.parent = heir
  for (const c of [...puppet.constraints]) {
    if (c.kind === 'reach' && c.level !== null && gone.has(c.level)) c.level = null
    if (c.kind === 'reach' || c.kind === 'path') {
      const from = c.bones.findIndex((b) => gone.has(b))
      if (from < 0) continue
      const kept = c.bones.slice(0, from)
      c.bones = kept
      if (c.kind === 'reach') c.level = null
      if (kept.length > 0) continue
    } else if (!gone.has(c.bone) && !(c.kind === 'copy' && gone.has(c.from))) continue
    dropConstraint(puppet, c.id)
  }
  // An heir may hang from the very limb that looks for what it inherits.
  for (let cycle = constraintCycle(puppet); cycle !== null; cycle = constraintCycle(puppet)) dropConstraint(puppet, cycle)
  const after = new Set(puppet.constraints.flatMap(targetsOf))
  for (const id of before) if (!after.has(id)) dropTarget(puppet, id)
}

/**
 * Bones were put in right below another one: limbs and paths that went on below it, or ended with it, go through them.
 *
 * @param ended whether a chain that ended with the bone ends with the last of them now
 */
export function threadChains(puppet: Puppet, below: string, ids: readonly string[], ended: boolean): void {
  for (const c of puppet.constraints) {
    if (c.kind !== 'reach' && c.kind !== 'path') continue
    const at = c.bones.indexOf(below)
    const isLast = at === c.bones.length - 1
    if (at < 0 || (isLast && !ended && !(c.kind === 'reach' && c.level !== null))) continue
    const next = isLast ? (c.kind === 'reach' ? c.level : null) : c.bones[at + 1]!
    // Another branch was drawn out: this chain does not go through it.
    if (next !== null && boneOf(puppet, next).parent !== ids.at(-1)) continue
    if (c.bones.length + ids.length > MOST_CHAINED) throw new EditError(`"${c.name}" would have more than ${MOST_CHAINED} bones.`)
    c.bones.splice(at + 1, 0, ...ids)
  }
  mendChains(puppet)
}

/** Constraints whose chain is no chain any more once bones were hung elsewhere. */
export function mendChains(puppet: Puppet): void {
  for (const c of [...puppet.constraints]) {
    if (c.kind !== 'reach' && c.kind !== 'path') continue
    const at = c.bones.findIndex((b, i) => i > 0 && boneOf(puppet, b).parent !== c.bones[i - 1])
    if (at > 0) c.bones = c.bones.slice(0, at)
    if (c.kind === 'reach' && c.level !== null && boneOf(puppet, c.level).parent !== c.bones.at(-1)) c.level = null
  }
  refuseCycle(puppet)
}
