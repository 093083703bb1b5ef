/** Random numbers and limbs for tests of what reaches. */
import { addConstraint, addTarget } from '../constraints/commands'
import { addBone } from '../bones/commands'
import { run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import type { Constraint, ConstraintOf } from '../constraints/records'
import type { Puppet } from '../puppet/schema'

/** A straight chain of bones to the right from (100, 100), each of a length, with a target at its end. */
export function chainPuppet(count: number, length = 50): Puppet {
  let puppet = newPuppet('chain', 'Chain', { width: 1000, height: 800 })
  for (let i = 0; i < count; i++) {
    const [start, end] = [i, i + 1].map((k) => ({ x: 100 + k * length, y: 100 })) as [{ x: number; y: number }, { x: number; y: number }]
    puppet = run(puppet, addBone, { id: `b${i}`, name: `Bone ${i}`, parent: i === 0 ? null : `b${i - 1}`, start, end })
  }
  return run(puppet, addTarget, { id: 'goal', name: 'Goal', at: { x: 100 + count * length, y: 100 }, parent: null })
}

export const reachWith = (bones: readonly string[], more: Partial<ConstraintOf<'reach'>> = {}): Constraint => ({
  kind: 'reach',
  id: 'reach',
  name: 'Reach',
  amount: 1,
  bones: [...bones],
  target: 'goal',
  side: 0,
  soft: 0,
  stretch: 1,
  level: null,
  pole: null,
  ...more,
})

export const withConstraint = (puppet: Puppet, constraint: Constraint): Puppet => run(puppet, addConstraint, { constraint })
