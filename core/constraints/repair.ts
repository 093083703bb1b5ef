/** What follows for chains and targets when bones go, or are hung elsewhere. */
import type { Repair } from '../kernel/records'
import type { Puppet } from '../puppet/schema'
import { constraintCycle } from './order'
import { targetsOf, type Constraint } from './records'

/** The constraint with its chain cut off where it breaks; null where nothing is left of it. */
function cutOff(puppet: Puppet, c: Constraint): Constraint | null {
  if (c.kind !== 'reach' && c.kind !== 'path') return c
  const broken = c.bones.findIndex((b, i) => !puppet.bones[b] || (i > 0 && puppet.bones[b].parent !== c.bones[i - 1]))
  if (broken === 0) return null
  const bones = broken < 0 ? c.bones : c.bones.slice(0, broken)
  if (c.kind === 'path') return bones === c.bones ? c : { ...c, bones }
  const level = c.level !== null && puppet.bones[c.level]?.parent === bones.at(-1) ? c.level : null
  return bones === c.bones && level === c.level ? c : { ...c, bones, level }
}

/** Chains are cut off where they break. */
export const cutChains: Repair = (before, after) => {
  if (before.bones === after.bones) return null
  const kept = after.constraints.flatMap((c) => cutOff(after, c) ?? [])
  if (kept.length === after.constraints.length && kept.every((c, i) => c === after.constraints[i])) return null
  return (puppet) => void (puppet.constraints = kept)
}

/** An heir may hang from the very limb that looks for what it inherits. */
export const dropCircles: Repair = (_, after, gone) => {
  if (!gone.has('bone') || constraintCycle(after) === null) return null
  return (puppet) => {
    for (let cycle = constraintCycle(puppet); cycle !== null; cycle = constraintCycle(puppet))
      puppet.constraints = puppet.constraints.filter((c) => c.id !== cycle)
  }
}

/** Targets go with the last constraint that looked for them. */
export const dropTargets: Repair = (before, after, gone) => {
  const lost = gone.get('constraint')
  if (!lost) return null
  const wanted = new Set(after.constraints.flatMap(targetsOf))
  const orphans = before.constraints
    .filter((c) => lost.has(c.id))
    .flatMap(targetsOf)
    .filter((t) => after.targets[t] && !wanted.has(t))
  return orphans.length === 0
    ? null
    : (puppet) => {
        for (const target of orphans) delete puppet.targets[target]
      }
}
