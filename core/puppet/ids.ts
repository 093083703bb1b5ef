/** Ids: everything is filed under its own, and none is used twice, across all kinds. */
import type { Gone, IdAt } from '../kernel/records'
import type { Problem } from '../kernel/problem'
import { CAPABILITIES } from './capabilities'
import type { Puppet } from './schema'

/** All kinds of things with ids. */
export const KINDS = CAPABILITIES.flatMap((c) => c.kinds ?? [])

/** Whether a puppet has a thing of a kind; `art` stands for drawings and pictures alike. */
export function hasRecord(puppet: Puppet, kind: string, id: string): boolean {
  if (kind === 'art') return hasRecord(puppet, 'drawing', id) || hasRecord(puppet, 'picture', id)
  return KINDS.some((k) => k.kind === kind && k.has(puppet, id))
}

/** Records that are filed under another id than they call themselves by. */
export function keyProblems(puppet: Puppet): Problem[] {
  return KINDS.filter((k) => k.filed).flatMap(({ field }) =>
    Object.entries(puppet[field] as Record<string, { readonly id: string }>)
      .filter(([key, { id }]) => id !== key)
      .map(([key, { id }]) => ({ path: `${field}.${key}`, message: `is filed under "${key}" but calls itself "${id}"` })),
  )
}

/** Every id of a puppet with where it stands, deformers and handles of parts included; those of cages follow from the cage's. */
export const idsIn = (puppet: Puppet): IdAt[] => KINDS.flatMap((kind) => [...kind.ids(puppet)])

/** Ids that were there before an edit and are not any more. */
export function goneIn(before: Puppet, after: Puppet): Gone {
  const out = new Map<string, ReadonlySet<string>>()
  for (const kind of KINDS) {
    if (before[kind.field] === after[kind.field]) continue
    const left = new Set(Array.from(kind.ids(after), ({ id }) => id))
    const lost = Array.from(kind.ids(before), ({ id }) => id).filter((id) => !left.has(id))
    if (lost.length > 0) out.set(kind.kind, new Set(lost))
  }
  return out
}

/** Ids that stand for more than one thing. */
export function doubledIds(puppet: Puppet): Problem[] {
  const seen = new Map<string, string>()
  const out: Problem[] = []
  for (const { path, id } of idsIn(puppet)) {
    const before = seen.get(id)
    if (before === undefined) seen.set(id, path)
    else out.push({ path, message: before === path ? 'is listed twice' : `uses the id of ${before} again` })
  }
  return out
}

/** Whether anything in a puppet has an id. */
export const isTaken = (puppet: Puppet, id: string): boolean => KINDS.some((kind) => kind.has(puppet, id))
