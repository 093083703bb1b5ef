/** Twins: copies that share artwork with their originals. */
import type { Capability } from '../kernel/capability'
import type { Problem } from '../kernel/problem'
import type { Puppet } from '../puppet/schema'
import * as commands from './commands'

/** Twins whose originals are not there, or that are twins of each other in a circle. */
function twinProblems({ parts }: Puppet): Problem[] {
  const out: Problem[] = []
  const ends = new Set<string>()
  for (const { id, twin } of Object.values(parts)) {
    if (!twin) continue
    const path = `parts.${id}.twin`
    if (!Object.hasOwn(parts, twin.of)) {
      out.push({ path, message: `is the twin of "${twin.of}", which cannot be` })
      continue
    }
    const way: string[] = []
    for (let at: string | undefined = id; at !== undefined && !ends.has(at); at = parts[at]?.twin?.of) {
      if (way.includes(at)) return [...out, { path, message: `is the twin of "${twin.of}", which cannot be` }]
      way.push(at)
    }
    for (const at of way) ends.add(at)
  }
  return out
}

/** What twins add to a puppet. */
export const twins: Capability = {
  name: 'twins',
  references: [{ at: 'parts/*/twin/of', to: 'part', says: 'is the twin of', gone: { clear: 'parts/*/twin' } }],
  checks: [{ stage: 'trees', needs: ['parts'], find: twinProblems }],
  commands: [commands],
}
