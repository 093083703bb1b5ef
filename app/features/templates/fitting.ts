/** What the person has said of roles before a template is fitted, and what follows from it. */
import type { PartId } from '@marionette/core/kernel/ids'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { assignRoles, suits, type Assigned, type Assignment } from '@marionette/core/templates/assign'
import { rolesOf, type Template } from '@marionette/core/templates/template'
import { gradeOf, type Grade } from '@marionette/core/roles/match'

/** Roles given by hand: a role key, or null for none. */
export type Given = ReadonlyMap<PartId, string | null>

/** No template knows this role; a part that has it plays none. */
const NONE = 'none'

/** The puppet as if the roles given by hand had been noted on its parts. */
export function withGiven(puppet: Puppet, given: Given): Puppet {
  if (given.size === 0) return puppet
  const parts: Record<PartId, Part> = { ...puppet.parts }
  for (const [id, role] of given) if (parts[id]) parts[id] = { ...parts[id], role: role ?? NONE }
  return { ...puppet, parts }
}

/** A part is given a role, in place of those that were given it before; a role that is only carried may have many. */
export function givenTo(puppet: Puppet, given: Given, { carried }: Pick<Reading, 'carried'>, part: PartId, role: string | null): Given {
  const next = new Map(given).set(part, role)
  if (role === null || carried.has(role)) return next
  for (const other of Object.values(puppet.parts))
    if (other.id !== part && (given.has(other.id) ? given.get(other.id) : other.role) === role) next.set(other.id, null)
  return next
}

/** A part shares the role of those that play it. */
export function sharedWith(given: Given, reading: Reading, part: PartId, role: string): Given {
  const next = new Map(given).set(part, role)
  const assigned = reading.assignment.roles.get(role)
  for (const other of assigned ? [assigned.part, ...assigned.also] : []) next.set(other, role)
  return next
}

/** The role that a part means by its name although another one plays it. */
export const rivalledRole = ({ assignment }: Reading, part: PartId): string | null =>
  [...assignment.roles].find(([, { rivals }]) => rivals.includes(part))?.[0] ?? null

export interface Played {
  readonly role: string
  readonly assigned: Assigned
  readonly grade: Grade
}

export interface Reading {
  readonly assignment: Assignment
  /** What each part plays. */
  readonly byPart: ReadonlyMap<PartId, Played>
  readonly roles: readonly string[]
  /** Roles that are only carried by a bone. */
  readonly carried: ReadonlySet<string>
}

export function readRoles(puppet: Puppet, template: Template, given: Given): Reading {
  const assignment = assignRoles(withGiven(puppet, given), template)
  const byPart = new Map<PartId, Played>()
  for (const [role, assigned] of assignment.roles)
    for (const part of [assigned.part, ...assigned.also]) byPart.set(part, { role, assigned, grade: gradeOf(assigned.certainty) })
  return { assignment, byPart, roles: rolesOf(template), carried: new Set(template.carried.map((c) => c.role)) }
}

/** The template that suits best; the first of equals. */
export function bestTemplate(puppet: Puppet, templates: readonly Template[]): Template {
  return templates.map((t) => ({ t, score: suits(puppet, t) })).reduce((a, b) => (b.score > a.score + 1e-9 ? b : a)).t
}
