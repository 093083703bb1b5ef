/** Templates made from puppets. */
import type { Part, Puppet } from '../puppet/schema'
import { drawnParts, restBounds, restPivot } from '../parts/tree'
import { keyOf, matchRoles } from '../roles/match'
import { namedParts } from '../roles/naming'
import { wordsOf } from '../roles/words'
import type { Template, TemplateBone } from './template'
import type { Bone } from '../bones/records'
import { bonesInOrder } from '../bones/tree'
import { sure } from '../kernel/sure'
import { boneOf } from '../bones/lookup'

/**
 * The skeleton of a puppet as a template: each bone lies in the parts that are bound to it, by their roles, or by their
 * names where they have none.
 *
 * @param id of the template
 */
export function templateOf(puppet: Puppet, id: string, name: string): Template {
  const roles = rolesOfParts(puppet)
  const box = restBounds(puppet, puppet.root) ?? { minX: 0, minY: 0, maxX: puppet.canvas.width, maxY: puppet.canvas.height }
  const place = (x: number, y: number): [number, number] => [
    percent((x - box.minX) / (box.maxX - box.minX || 1)),
    percent((y - box.minY) / (box.maxY - box.minY || 1)),
  ]
  const keys = new Map(bonesInOrder(puppet).map((b, i) => [b.id, `${slugOf(b.name) || 'bone'}-${i + 1}`]))
  const runOf = new Map<string, string[]>()
  const bones = bonesInOrder(puppet).map((bone): TemplateBone => {
    const of = rolesOn(puppet, bone, roles)
    runOf.set(bone.id, of)
    const next = bone.children.map((c) => boneOf(puppet, c)).find((c) => Math.hypot(c.start.x - bone.end.x, c.start.y - bone.end.y) < 2)
    return {
      key: sure(keys.get(bone.id)),
      name: bone.name,
      parent: bone.parent === null ? null : sure(keys.get(bone.parent)),
      of: of.length > 0 ? of : [`bone-${slugOf(bone.name) || 'x'}`.slice(0, 60)],
      from: bone.parent === null ? rolesBelow(puppet, bone, next, roles) : [...new Set(runOf.get(bone.parent) ?? [])],
      on: next ? sure(keys.get(next.id)) : null,
      share: Math.max(1, Math.round(Math.hypot(bone.end.x - bone.start.x, bone.end.y - bone.start.y))),
      lies: 'along',
      limits: bone.limits,
      colour: bone.colour,
      figure: [...place(bone.start.x, bone.start.y), ...place(bone.end.x, bone.end.y)],
      optional: of.length === 0,
    }
  })
  const led = new Set(bones.flatMap((b) => b.of))
  const carried = Object.values(puppet.parts).flatMap((p) => {
    const role = roles.get(p.id)
    const bone = p.bind?.kind === 'whole' ? keys.get(p.bind.bone) : undefined
    return role && bone && !led.has(role) ? [{ role, bone }] : []
  })
  const order = [...new Set(drawnParts(puppet, puppet.root).flatMap((p) => roles.get(p.id) ?? []))]
  return { id, name, note: `From ${puppet.name}`, bones, carried, order }
}

const percent = (share: number): number => Math.round(share * 10000) / 100

/** Role keys of parts: what was noted, else what the name means, else the name itself. */
function rolesOfParts(puppet: Puppet): Map<string, string> {
  const matches = new Map(matchRoles(namedParts(puppet), { naming: puppet.naming }).map((m) => [m.id, keyOf(m)]))
  return new Map(
    Object.values(puppet.parts).flatMap((p) => {
      const key = p.role ?? matches.get(p.id) ?? slugOf(p.name)
      return key === '' ? [] : [[p.id, key] as const]
    }),
  )
}

/** Distance of a part's pivot from a bone's start, px, at which the bone is taken to lie in the part. */
const AT_PIVOT = 3

/**
 * Roles of the parts in which a bone lies: those that turn where it begins, and those that bend with it. What it only
 * carries counts if there is nothing else.
 */
function rolesOn(puppet: Puppet, bone: Bone, roles: ReadonlyMap<string, string>): string[] {
  const by = (test: (p: Part) => boolean): string[] => Object.values(puppet.parts).filter(test).flatMap((p) => roles.get(p.id) ?? []) // prettier-ignore
  const isWhole = (p: Part): boolean => p.bind?.kind === 'whole' && p.bind.bone === bone.id
  const turnsThere = (p: Part): boolean => {
    const pivot = restPivot(puppet, p.id)
    return Math.hypot(pivot.x - bone.start.x, pivot.y - bone.start.y) < AT_PIVOT
  }
  const whole = by((p) => isWhole(p) && turnsThere(p))
  const bent = by((p) => p.bind?.kind === 'blended' && p.bind.bones.includes(bone.id))
  // A neck is in the neck; but a chest is in the coat that bends with it, not in the strap that it carries.
  const own = whole.filter((role) => role === slugOf(bone.name))
  const led = [...own, ...bent, ...whole]
  return [...new Set(led.length > 0 ? led : by(isWhole))].slice(0, 6)
}

/**
 * Roles of what hangs from a root bone, but for the bone that goes on from it: a root begins between them. Between legs
 * it begins in their middle, whatever else hangs on one side.
 */
function rolesBelow(puppet: Puppet, root: Bone, next: Bone | undefined, roles: ReadonlyMap<string, string>): string[] {
  const below = root.children.filter((id) => id !== next?.id).flatMap((id) => rolesOn(puppet, boneOf(puppet, id), roles).slice(0, 1))
  const all = new Set(below)
  const other = (role: string): string => role.replace(/(left|right)$/, (side) => (side === 'left' ? 'right' : 'left'))
  const pairs = [...all].filter((role) => other(role) !== role && all.has(other(role)))
  return pairs.length > 0 ? pairs : [...all]
}

/** A name as it may stand in a role: its words, joined. */
export const slugOf = (name: string): string => {
  const { words, side } = wordsOf(name)
  const slug = words.join('-').replace(/[^a-z0-9-]/g, '').slice(0, 60) // prettier-ignore
  return slug === '' ? '' : side === 'left' || side === 'right' ? `${slug}:${side}` : slug
}
