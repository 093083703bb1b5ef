/** The body of a puppet as motions know it: which bone plays which role, how limbs lie, and which way they bend. */
import { leadsOf, type Lead } from './leads'
import { bonesInOrder } from '../bones/tree'
import type { Bone } from '../bones/records'
import { matchRoles, keyOf } from '../roles/match'
import { toDegrees } from '../maths/geometry/affine'
import type { Puppet } from '../puppet/schema'

/** A pair of bones that bends in between, with what carries it at its end. */
export interface Limb {
  readonly upper: Bone
  readonly lower: Bone | null
  readonly end: Bone | null
  /** 1 where turning counter-clockwise raises it outwards or forwards, -1 where the other way does. */
  readonly outwards: 1 | -1
  /** The way in which it bends, as it turns: 1 counter-clockwise. */
  readonly bends: 1 | -1
}

export interface Body {
  readonly bones: ReadonlyMap<string, Bone>
  readonly limbs: ReadonlyMap<string, Limb>
  readonly leads: ReadonlyMap<string, Lead>
  /** Length of a leg, or of the whole body where it has none, px. */
  readonly leg: number
}

const ROLES = new Set(['hips', 'belly', 'torso', 'chest', 'neck', 'head', 'upper-arm', 'forearm', 'hand', 'thigh', 'shin', 'foot', 'body'])

/** Words that people use for the bones of a spine, and the role that motions give them. */
const SPINE = /^(spine|waist|abdomen)$/i

/** Bones by the roles that their names mean; the first of each. */
export function bonesByRole(puppet: Puppet): Map<string, Bone> {
  const bones = bonesInOrder(puppet)
  const items = bones.map((bone) => ({ id: bone.id, name: bone.name, within: [], x: bone.start.x / puppet.canvas.width }))
  const byId = new Map(bones.map((bone) => [bone.id as string, bone]))
  const out = new Map<string, Bone>()
  const matches = matchRoles(items, { naming: puppet.naming, facing: 'left', known: ROLES })
  for (const match of [...matches].sort((a, b) => b.certainty - a.certainty)) {
    const bone = byId.get(match.id)
    if (bone && !out.has(keyOf(match))) out.set(keyOf(match), bone)
  }
  const spine = bones.find((bone) => SPINE.test(bone.name))
  if (spine) out.set('spine', spine)
  return out
}

/** The direction of a bone at rest on the screen, degrees, counter-clockwise from the right. */
export const directionOf = ({ start, end }: Bone): number => toDegrees(Math.atan2(start.y - end.y, end.x - start.x))

export const lengthOf = ({ start, end }: Bone): number => Math.hypot(end.x - start.x, end.y - start.y)

/** The side to which limits leave more room; the other sign where there is none to tell. */
export function roomier({ limits: { min, max } }: Bone, otherwise: 1 | -1): 1 | -1 {
  if (min === null && max === null) return otherwise
  const [down, up] = [min === null ? Infinity : -min, max === null ? Infinity : max]
  return up === down ? otherwise : up > down ? 1 : -1
}

/** Nearer to the middle of the body than this share of its height a limb is seen from the side. */
const FROM_SIDE = 0.04

function limbOf(
  bones: ReadonlyMap<string, Bone>,
  side: string,
  names: readonly [string, string, string],
  middle: number,
  height: number,
): Limb | null {
  const [upper, lower, end] = names.map((name) => bones.get(`${name}:${side}`))
  if (!upper) return null
  const foot = bones.get(`foot:${side}`)
  const away = upper.start.x - middle
  // From the side forwards is where the feet point; from the front outwards is away from the middle.
  const forwards = foot && foot.end.x !== foot.start.x ? Math.sign(foot.end.x - foot.start.x) : -1
  const outwards = Math.abs(away) > FROM_SIDE * height ? Math.sign(away) : forwards
  const raises: 1 | -1 = outwards >= 0 ? 1 : -1
  const isLeg = names[0] === 'thigh'
  return {
    upper,
    lower: lower ?? null,
    end: end ?? null,
    outwards: raises,
    bends: lower ? roomier(lower, isLeg ? (raises === 1 ? -1 : 1) : raises) : raises,
  }
}

/** Finds the body of a puppet. */
export function bodyOf(puppet: Puppet): Body {
  const bones = bonesByRole(puppet)
  const middle = (bones.get('chest') ?? bones.get('torso') ?? bones.get('hips'))?.start.x ?? puppet.canvas.width / 2
  const limbs = new Map<string, Limb>()
  for (const side of ['left', 'right']) {
    const arm = limbOf(bones, side, ['upper-arm', 'forearm', 'hand'], middle, puppet.canvas.height)
    const leg = limbOf(bones, side, ['thigh', 'shin', 'foot'], middle, puppet.canvas.height)
    if (arm) limbs.set(`arm:${side}`, arm)
    if (leg) limbs.set(`leg:${side}`, leg)
  }
  const legs = [...limbs]
    .filter(([name]) => name.startsWith('leg'))
    .map(([, { upper, lower }]) => lengthOf(upper) + (lower ? lengthOf(lower) : 0))
  return { bones, limbs, leads: leadsOf(puppet), leg: legs.length > 0 ? Math.max(...legs) : puppet.canvas.height / 4 }
}
