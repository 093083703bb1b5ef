/** Defaults: a bone before anything was done to it. */
import type { BoneId } from '../kernel/ids'
import type { Vec } from '../kernel/numbers'
import type { Bone } from './records'

/** How a bone answers to its parent and to being drawn out, before anything was set. */
export const freeBone = (): Pick<Bone, 'lengths' | 'keepsVolume' | 'inherits' | 'influence' | 'locked'> => ({
  lengths: { min: 0.1, max: 10 },
  keepsVolume: true,
  inherits: { turn: true, scale: false },
  influence: { radius: null, strength: 1 },
  locked: false,
})

/** A bone with defaults, from start to end in canvas px. */
export function newBone(id: BoneId, name: string, start: Vec, end: Vec): Bone {
  return {
    id,
    name,
    label: '',
    parent: null,
    children: [],
    start,
    end,
    colour: 1,
    limits: { min: null, max: null },
    ...freeBone(),
    inViews: {},
  }
}
