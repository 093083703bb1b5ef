/** Parts that could play a role in a face. */
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { drawnParts } from '@marionette/core/parts/tree'

/** Parts that show something themselves, by name. */
export const partsByName = (puppet: Puppet): Part[] =>
  drawnParts(puppet, puppet.root)
    .filter((p) => puppet.view in p.art)
    .sort((a, b) => a.name.localeCompare(b.name))

/** The first drawn part whose name fits. */
export const foundByName = (puppet: Puppet, pattern: RegExp): string | null =>
  partsByName(puppet).find((p) => pattern.test(p.name))?.id ?? null
