/** Ids: everything is filed under its own, and none is used twice, across all kinds. */
import { deformersInViews } from '../channels'
import { handlesOf, type Puppet } from '../schema'
import type { Problem } from './problem'

const FILED = ['parts', 'bones', 'drawings', 'pictures', 'joints', 'targets'] as const
const LISTED = ['views', 'palette', 'constraints', 'controls', 'responses', 'poses', 'flipbooks', 'cues'] as const

/** Records that are filed under another id than they call themselves by. */
export function keyProblems(puppet: Puppet): Problem[] {
  const out: Problem[] = []
  for (const family of FILED) {
    for (const [key, value] of Object.entries<{ id: string }>(puppet[family]))
      if (value.id !== key) out.push({ path: `${family}.${key}`, message: `is filed under "${key}" but calls itself "${value.id}"` })
  }
  return out
}

/** Every id of a puppet with where it stands, deformers and handles of parts included; those of cages follow from the cage's. */
export function* idsIn(puppet: Puppet): Generator<{ readonly path: string; readonly id: string }> {
  for (const family of FILED) for (const id of Object.keys(puppet[family])) yield { path: `${family}.${id}`, id }
  for (const family of LISTED) for (const { id } of puppet[family]) yield { path: `${family}.${id}`, id }
  for (const part of Object.values(puppet.parts)) {
    // A deformer that a part has in several views is one and the same.
    const inOthers = new Set<string>()
    for (const list of [part.deformers, ...Object.values(part.inViews).map((own) => own.deformers ?? [])]) {
      const own = list.flatMap((d) => [d.id, ...(d.kind === 'cage' ? [] : handlesOf(d))])
      for (const id of own) if (!inOthers.has(id)) yield { path: `parts.${part.id}.deformers`, id }
      for (const id of own) inOthers.add(id)
    }
  }
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

/** Whether anything in a puppet has an id. Looks at records first, which is where most ids are. */
export function isTaken(puppet: Puppet, id: string): boolean {
  if (FILED.some((family) => Object.hasOwn(puppet[family], id))) return true
  if (LISTED.some((family) => (puppet[family] as readonly { id: string }[]).some((r) => r.id === id))) return true
  return Object.values(puppet.parts).some((part) =>
    deformersInViews(part).some((d) => d.id === id || (d.kind !== 'cage' && handlesOf(d).includes(id))),
  )
}
