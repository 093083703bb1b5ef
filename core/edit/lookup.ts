/** Finding things in a draft, with a sentence when they are not there. */
import type { Bone, Part, Puppet } from '../document/schema'
import { EditError } from './command'

export function partOf(puppet: Puppet, id: string): Part {
  const part = puppet.parts[id]
  if (!part) throw new EditError(`There is no part "${id}" in this puppet.`)
  return part
}

export function boneOf(puppet: Puppet, id: string): Bone {
  const bone = puppet.bones[id]
  if (!bone) throw new EditError(`There is no bone "${id}" in this puppet.`)
  return bone
}

/** Ids of parts that are all there, each once. Throws EditError at the first that is not. */
export const knownParts = (puppet: Puppet, ids: readonly string[]): string[] => [...new Set(ids)].map((id) => partOf(puppet, id).id)

/** Ids of bones that are all there, each once. Throws EditError at the first that is not. */
export const knownBones = (puppet: Puppet, ids: readonly string[]): string[] => [...new Set(ids)].map((id) => boneOf(puppet, id).id)

/** Puts an id into an ordered list of children; an index past the end appends. */
export function insertAt(list: string[], id: string, index: number): void {
  list.splice(Math.max(0, Math.min(index, list.length)), 0, id)
}

export function removeFrom(list: string[], id: string): void {
  const at = list.indexOf(id)
  if (at >= 0) list.splice(at, 1)
}
