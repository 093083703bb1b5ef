/** Which part plays which role of a template. */
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { drawingOf, drawnParts, isWithinPart, partPath } from '../parts/tree'
import { keyOf, matchRoles, meansStill, type RoleMatch } from '../roles/match'
import { namedParts } from '../roles/naming'
import { roleKey, roleOf, splitKey } from '../roles/roles'
import type { Facing } from '../roles/words'
import { slugOf } from './saved'
import { roleIdsOf, rolesOf, type Template } from './template'
import { nth } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** The part that plays a role, and what speaks against it. */
export interface Assigned {
  readonly part: PartId
  /** 1 where the person said so. */
  readonly certainty: number
  readonly doubt: string
  /** Other parts that mean the same role by their names and are not inside this one. */
  readonly rivals: readonly PartId[]
  /** Parts that share the role: they were given it, too, or it is one that is only carried, of which there may be many. */
  readonly also: readonly PartId[]
}

/** Which parts play which roles of a template, and what is missing. */
export interface Assignment {
  readonly roles: ReadonlyMap<string, Assigned>
  /** Roles of bones that the template needs and nothing plays. */
  readonly missing: readonly string[]
  /** Parts that mean a role of the template, but not of which side. */
  readonly sideless: readonly RoleMatch[]
  /** Names that several parts have, with those parts. */
  readonly twice: ReadonlyMap<string, readonly PartId[]>
}

/**
 * Finds the parts for a template's roles: those that a person has set, then by name.
 *
 * A role that a part was given counts for certain. Of several parts with one role the surest wins, and of equals the
 * outermost.
 */
export function assignRoles(puppet: Puppet, template: Template, facing: Facing = 'left'): Assignment {
  const items = namedParts(puppet)
  const known = new Set(rolesOf(template))
  const matches = matchRoles(
    items.filter((i) => partOf(puppet, i.id).role === null),
    { naming: puppet.naming, facing, known: roleIdsOf(template) },
  )
  const wanted = new Map<string, Candidate[]>()
  const add = (key: string, part: PartId, certainty: number, doubt: string): void => {
    const isGiven = partOf(puppet, part).role === key
    if (known.has(key)) wanted.set(key, [...(wanted.get(key) ?? []), { part, certainty, doubt, isGiven }])
  }
  for (const { id } of items) {
    const role = partOf(puppet, id).role
    if (role) add(role, id, 1, '')
  }
  // Roles that a saved template brought along are names: a part plays one that is called so.
  for (const { id, name } of items) if (roleOf(splitKey(slugOf(name)).role) === null) add(slugOf(name), id, 1, '')
  const sideless: RoleMatch[] = []
  for (const match of matches) {
    if (match.side === null && !known.has(match.role) && known.has(roleKey(match.role, 'left'))) sideless.push(match)
    else add(keyOf(match), match.id, match.certainty, match.doubt)
  }
  const carried = new Set(template.carried.map((c) => c.role))
  const roles = new Map([...wanted].map(([key, found]) => [key, pick(puppet, found, carried.has(key))]))
  return { roles, missing: missingRoles(template, roles), sideless, twice: namesTwice(puppet) }
}

/** A part that could play a role. */
interface Candidate {
  readonly part: PartId
  readonly certainty: number
  readonly doubt: string
  /** Whether it was given the role, not only named like it. */
  readonly isGiven: boolean
}

function pick(puppet: Puppet, found: readonly Candidate[], isCarried: boolean): Assigned {
  // Parts come in painting order, parents before children: the first of equals is the outermost.
  const { isGiven, ...best } = found.reduce((a, b) => (b.certainty > a.certainty || (b.isGiven && !a.isGiven) ? b : a))
  const others = found.filter((f) => f.part !== best.part && !isWithinPart(puppet, f.part, best.part))
  const shares = (f: Candidate): boolean => isCarried || (isGiven && f.isGiven)
  return { ...best, rivals: others.filter((f) => !shares(f)).map((f) => f.part), also: others.filter(shares).map((f) => f.part) }
}

/** The first role of each needed bone that no part plays. */
function missingRoles(template: Template, roles: ReadonlyMap<string, Assigned>): string[] {
  const open = template.bones.filter((b) => !b.optional && !b.of.some((key) => roles.has(key))).map((b) => nth(b.of, 0))
  return [...new Set(open)]
}

function namesTwice(puppet: Puppet): Map<string, PartId[]> {
  const byName = new Map<string, PartId[]>()
  for (const { id, name } of Object.values(puppet.parts)) if (id !== puppet.root) byName.set(name, [...(byName.get(name) ?? []), id])
  return new Map([...byName].filter(([, parts]) => parts.length > 1))
}

/**
 * How well a puppet suits a template, 0 to 1: the share of its needed bones that have a part, each counting as it is
 * sure; less where the template leaves much of the puppet unexplained.
 */
export function suits(puppet: Puppet, template: Template): number {
  const { roles } = assignRoles(puppet, template)
  const needed = template.bones.filter((b) => !b.optional)
  const sure = needed.map((b) => Math.max(0, ...b.of.map((key) => roles.get(key)?.certainty ?? 0)))
  const players = new Set([...roles.values()].flatMap((a) => [a.part, ...a.also]))
  const shown = drawnParts(puppet, puppet.root).filter((p) => drawingOf(puppet, p) && !meansStill(p.name))
  const explained = shown.filter((p) => partPath(puppet, p.id).some((q) => players.has(q.id))).length / Math.max(1, shown.length)
  return (sure.reduce((a, b) => a + b, 0) / needed.length) * (0.4 + 0.6 * explained)
}
