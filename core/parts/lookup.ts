/** Finding things in a draft, with a sentence when they are not there. */
import type { Part, Puppet } from '../puppet/schema'
import { EditError } from '../kernel/errors'

/** A part of a puppet; throws an EditError where there is none with this id. */
export function partOf(puppet: Puppet, id: string): Part {
  const part = puppet.parts[id]
  if (!part) throw new EditError(`There is no part "${id}" in this puppet.`)
  return part
}

/** Ids of parts that are all there, each once. Throws EditError at the first that is not. */
export const knownParts = (puppet: Puppet, ids: readonly string[]): string[] => [...new Set(ids)].map((id) => partOf(puppet, id).id)

/** Puts an id into an ordered list of children; an index past the end appends. */
export function insertAt(list: string[], id: string, index: number): void {
  list.splice(Math.max(0, Math.min(index, list.length)), 0, id)
}

/** Takes an id out of a list, in place; nothing happens where it is not in it. */
export function removeFrom(list: string[], id: string): void {
  const at = list.indexOf(id)
  if (at >= 0) list.splice(at, 1)
}
