/** Parts that could play a role in a face. */
import type { Part, Puppet } from '@marionette/core/document/schema'

/** Parts that show something themselves, by name. */
export const drawnParts = (puppet: Puppet): Part[] =>
  Object.values(puppet.parts)
    .filter((p) => puppet.view in p.art)
    .sort((a, b) => a.name.localeCompare(b.name))

/** The first drawn part whose name fits. */
export const foundByName = (puppet: Puppet, pattern: RegExp): string | null =>
  drawnParts(puppet).find((p) => pattern.test(p.name))?.id ?? null
