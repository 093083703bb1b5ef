/** Where parts came from. */
import type { PartId } from '@marionette/core/kernel/ids'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { partsBelow, restMatrix } from '@marionette/core/parts/tree'

/** The puppet with every part below its root marked with the file and the names that lead to it; keys that are set stay. */
export function withSources(puppet: Puppet, file: string): Puppet {
  const paths = new Map<PartId, readonly string[]>([[puppet.root, []]])
  const parts: Record<PartId, Part> = {}
  for (const part of partsBelow(puppet, puppet.root)) {
    const path = part.parent === null ? [] : [...paths.get(part.parent)!, part.name].slice(0, 256)
    paths.set(part.id, path)
    parts[part.id] =
      part.parent === null
        ? part
        : { ...part, source: { file, key: part.source?.key ?? null, path: [...path], place: restMatrix(puppet, part.id) } }
  }
  return { ...puppet, parts }
}
