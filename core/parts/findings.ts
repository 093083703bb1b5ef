/** Parts that cannot be seen by their placement. */
import type { Inspect } from '../kernel/finding'

/** Parts that are scaled to nothing at rest. */
export const flattened: Inspect = (puppet) =>
  Object.values(puppet.parts)
    .filter(({ home }) => home.scaleX === 0 || home.scaleY === 0)
    .map(({ id, name }) => ({
      gravity: 2,
      code: 'part-flattened',
      bench: 'parts',
      target: { kind: 'part', id, name },
      message: 'is scaled to nothing',
    }))
