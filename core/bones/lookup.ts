/** Finding bones in a draft, with a sentence when they are not there. */
import type { Puppet } from '../puppet/schema'
import { EditError } from '../kernel/errors'
import type { Bone } from './records'

/** A bone of a puppet; throws an EditError where there is none with this id. */
export function boneOf(puppet: Puppet, id: string): Bone {
  const bone = puppet.bones[id]
  if (!bone) throw new EditError(`There is no bone "${id}" in this puppet.`)
  return bone
}

/** Ids of bones that are all there, each once. Throws EditError at the first that is not. */
export const knownBones = (puppet: Puppet, ids: readonly string[]): string[] => [...new Set(ids)].map((id) => boneOf(puppet, id).id)
