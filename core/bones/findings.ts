/** Bones that have lost their form. */
import type { Inspect } from '../kernel/finding'

/** Distance, px, below which two spots count as one. */
const ONE = 0.5

/** Bones that have become too short to turn anything. */
export const shapelessBones: Inspect = ({ bones }) =>
  Object.values(bones)
    .filter(({ start, end }) => Math.hypot(start.x - end.x, start.y - end.y) < ONE)
    .map(({ id, name }) => ({
      ...{ gravity: 3, code: 'bone-without-length', bench: 'bones', target: { kind: 'bone', id, name } },
      message: 'has no length, and so no direction',
    }))
