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
  const far = ({ bone: { start } }: Turner): number => Math.hypot(start.x - joint.at.x, start.y - joint.at.y)
  const apart = [...turnersOf(puppet, over, under, 'over'), ...turnersOf(puppet, under, over, 'under')]
  const found = (apart.length > 0 ? apart : sharedTurners(puppet, over, under).filter((t) => far(t) <= AT_JOINT)).sort(
    (a, b) => far(a) - far(b),
  )[0]
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
}

/** A bone by which one of the two pieces may turn. */
interface Turner {
  readonly bone: Bone
  readonly turning: JointTurn['turning']
}

const hangsFrom = (puppet: Puppet, bone: Bone, others: readonly Bone[]): boolean =>
  others.some((o) => o.id !== bone.id && isWithinBone(puppet, bone.id, o.id))

/** Bones of one piece alone that hang from bones of the other. */
const turnersOf = (puppet: Puppet, own: readonly Bone[], others: readonly Bone[], turning: Turner['turning']): Turner[] =>
  own.filter((bone) => !others.includes(bone) && hangsFrom(puppet, bone, others)).map((bone) => ({ bone, turning }))

/** Pieces that bend with the same bones may turn by any that hangs from another. */
function sharedTurners(puppet: Puppet, over: readonly Bone[], under: readonly Bone[]): Turner[] {
  const all: Turner[] = [
    ...over.map((bone) => ({ bone, turning: 'over' as const })),
    ...under.map((bone) => ({ bone, turning: 'under' as const })),
  ]
  return all.filter(({ bone }) => hangsFrom(puppet, bone, [...over, ...under]))
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
