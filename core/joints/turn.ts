/** Which channel turns a joint, and how far. */
import { boneChannel } from '../bones/channels'
import { partChannel } from '../parts/channels'
import type { PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import type { Bone } from '../bones/records'
import type { Joint } from './records'
import { isWithinBone } from '../bones/tree'
import { bindHolder, bonesOfBind } from '../binds/tree'
import { nth } from '../kernel/sure'
import { apply } from '../maths/geometry/affine'
import { restMatrix } from '../parts/tree'
import { boneOf } from '../bones/lookup'
import { partOf } from '../parts/lookup'

/** What turns at a joint, and how far. */
export interface JointTurn {
  /** The channel that turns one of the two pieces against the other. */
  readonly address: string
  readonly name: string
  /** Limits of the angle, degrees; where there is none, as far as is looked. */
  readonly min: number
  readonly max: number
  /** The piece that turns with the channel. */
  readonly turning: 'under' | 'over'
}

/** How far a joint without limits is turned, degrees. */
const UNLIMITED = 120

/** How near to a joint a bone starts that turns there, px. */
const AT_JOINT = 12

/** Bones that move a part, itself or by what it is in. */
function bonesOf(puppet: Puppet, part: PartId): Bone[] {
  const bind = bindHolder(puppet, part)?.bind
  if (!bind) return []
  return bonesOfBind(bind).map((id) => boneOf(puppet, id))
}

/**
 * The turn of a joint: the bone of one piece that hangs from a bone of the other and starts nearest to the pivot, else the piece
 * that turns about its own pivot there, whichever lies on top.
 */
export function jointTurn(puppet: Puppet, joint: Pick<Joint, 'under' | 'over' | 'at'>): JointTurn {
  const under = bonesOf(puppet, joint.under)
  const over = bonesOf(puppet, joint.over)
  const far = ({ bone: { start } }: { bone: Bone }): number => Math.hypot(start.x - joint.at.x, start.y - joint.at.y)
  const apart = [...turners(over, under, 'over'), ...turners(under, over, 'under')]
  // Pieces that bend with the same bones turn by the one that starts at the joint.
  const shared = [...turners(over, [], 'over'), ...turners(under, [], 'under')].filter((t) => far(t) <= AT_JOINT)
  const found = (apart.length > 0 ? apart : shared).sort((a, b) => far(a) - far(b))[0]
  if (!found) {
    const turning = turningByItself(puppet, joint)
    const { id, name } = partOf(puppet, joint[turning])
    return { address: partChannel(id, 'angle'), name, min: -UNLIMITED, max: UNLIMITED, turning }
  }
  const { bone, turning } = found
  return {
    address: boneChannel(bone.id, 'angle'),
    name: bone.name,
    min: bone.limits.min ?? -UNLIMITED,
    max: bone.limits.max ?? UNLIMITED,
    turning,
  }

  function turners(own: readonly Bone[], others: readonly Bone[], turning: 'under' | 'over'): { bone: Bone; turning: 'under' | 'over' }[] {
    const above = others.length > 0 ? others : [...over, ...under]
    const isBelow = (bone: Bone): boolean => above.some((o) => o.id !== bone.id && isWithinBone(puppet, bone.id, o.id))
    return own.filter((bone) => isBelow(bone) && !others.includes(bone)).map((bone) => ({ bone, turning }))
  }
}

/** The lower piece where it pivots at the joint and the upper one does not. */
function turningByItself(puppet: Puppet, { under, over, at }: Pick<Joint, 'under' | 'over' | 'at'>): 'under' | 'over' {
  const far = (part: PartId): number => {
    const pivot = apply(restMatrix(puppet, part), partOf(puppet, part).pivot)
    return Math.hypot(pivot.x - at.x, pivot.y - at.y)
  }
  return far(under) <= AT_JOINT && far(under) < far(over) - 0.5 ? 'under' : 'over'
}

/** Angles from one limit to the other in equal steps, with rest in place of the one nearest to it. */
export function anglesBetween(min: number, max: number, count: number): number[] {
  if (count < 2 || max - min < 1e-9) return [0]
  const out = Array.from({ length: count }, (_, i) => min + ((max - min) * i) / (count - 1))
  const nearest = out.reduce((best, v, i) => (Math.abs(v) < Math.abs(nth(out, best)) ? i : best), 0)
  out[nearest] = 0
  return out
}
