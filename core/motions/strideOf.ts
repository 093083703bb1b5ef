/** A stride for a puppet as it was rigged: its legs, arms and tail found by what their bones are called and where they are. */
import type { Bone } from '../bones/records'
import { bonesInOrder } from '../bones/tree'
import { nth } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import { gaitsFor, natureOf, phasesOf, type Gait } from '../strides/gaits'
import type { Stride, StrideLeg, StrideSwing } from '../strides/records'
import { soleOf } from '../strides/sole'
import { inView } from '../views/views'
import { bodyOf, bonesByRole, directionOf, lengthOf } from './body'
import { creatureOf, rootX, sidesOf, type BoneChain, type Creature } from './creature'

const FOOT = /\b(foot|feet|boot|shoe|paw|hoof|ski|fin|flipper)\b/i
const TOE = /\btoes?\b/i
/** A bone that lies flatter than this is a foot, where a leg has three or more, degrees. */
const FLAT = 50

const isFlat = (bone: Bone): boolean => Math.abs(Math.sin((directionOf(bone) * Math.PI) / 180)) < Math.sin((FLAT * Math.PI) / 180)

/** A leg of a run of bones: what of it stands on the ground is its foot. */
function legOf(name: string, run: readonly Bone[]): StrideLeg {
  const bones = [...run]
  const last = (): Bone => nth(bones, -1)
  const toe = bones.length > 2 && TOE.test(last().name) ? bones.pop() : undefined
  const isFoot = bones.length > 1 && (FOOT.test(last().name) || (bones.length > 2 && isFlat(last())))
  const foot = isFoot ? bones.pop() : undefined
  return {
    ...{ name, bones: bones.slice(0, 8).map(({ id }) => id), foot: foot?.id ?? null, toe: foot && toe ? toe.id : null },
    ...{ knee: 0, at: 0, touches: true, strength: 1, toeBend: 1 },
  }
}

/** Bones that are meant by a selection: themselves from the root on, or one with what hangs from it, one from the other. */
function chainMeant(puppet: Puppet, ids: readonly string[]): Bone[] {
  const chosen = bonesInOrder(puppet).filter(({ id }) => ids.includes(id))
  const [first] = chosen
  if (!first || chosen.length > 1) return chosen
  const down = (bone: Bone): Bone[] => {
    const next = bone.children.map((id) => puppet.bones[id]).find((child) => child !== undefined)
    return next ? [bone, ...down(next)] : [bone]
  }
  return down(first)
}

/** A leg of selected bones, or of one and what hangs from it. */
export function legFrom(puppet: Puppet, ids: readonly string[]): StrideLeg {
  const run = chainMeant(puppet, ids)
  return legOf(nth(run, 0).name, run)
}

/** Something that swings in time, of selected bones, or of one and what hangs from it. */
export function swingFrom(puppet: Puppet, ids: readonly string[]): StrideSwing {
  const run = chainMeant(puppet, ids)
  return swing(nth(run, 0).name, run, {})
}

/** Legs in rows from the front to the back, left and right of each row in turn. */
function inRows(legs: readonly BoneChain[], { facing, root }: Creature): BoneChain[] {
  const middle = root ? (root.start.x + root.end.x) / 2 : 0
  const ahead = (leg: BoneChain): number => (facing === 0 ? nth(leg.bones, -1).end.y : facing * rootX(leg))
  const [left, right] = sidesOf(legs, middle).map((row) => row.sort((a, b) => ahead(b) - ahead(a))) as [BoneChain[], BoneChain[]]
  return Array.from({ length: Math.max(left.length, right.length) }, (_, k) => [left[k], right[k]].flatMap((leg) => leg ?? [])).flat()
}

const swing = (name: string, bones: readonly Bone[], given: Partial<StrideSwing>): StrideSwing => ({
  ...{ name, bones: bones.slice(0, 64).map(({ id }) => id), turn: 20, follow: 0.5, bend: 0, at: 0, lag: 0, times: 1 },
  ...given,
})

/** Arms swing against the leg on their side; they are in front when the other foot comes down. */
function armSwings(puppet: Puppet): StrideSwing[] {
  const { limbs } = bodyOf(puppet)
  return ['left', 'right'].flatMap((side, k) => {
    const arm = limbs.get(`arm:${side}`)
    const bones = arm ? [arm.upper, ...[arm.lower, arm.end].flatMap((bone) => bone ?? [])] : []
    return bones.length === 0 ? [] : [swing(nth(bones, 0).name, bones, { turn: 24, follow: 0.35, bend: 14, at: k === 0 ? 0.5 : 0 })]
  })
}

function tailSwings({ chains }: Creature, legs: number): StrideSwing[] {
  const tails = chains.filter(({ use }) => use === 'tail')
  const necks = legs >= 4 ? chains.filter(({ use }) => use === 'neck') : []
  return [
    ...tails.map(({ bones }) => swing(nth(bones, 0).name, bones, { turn: 5, follow: 1.2, lag: 0.4, at: 0.25 })),
    ...necks.map(({ bones }) => swing(nth(bones, 0).name, bones, { turn: 3, follow: 0.6, times: 2, at: 0.1 })),
  ]
}

/** Share of their breadth by which feet point aside where all are seen from the side, and on the mean where they are seen aslant. */
const POINTS = 0.15
const ASLANT = 0.08

/** Which way a puppet walks in a view: where its feet point, where they agree; else where it looks. */
export function wayIn(puppet: Puppet, legs: readonly StrideLeg[]): number {
  const feet = legs.flatMap(({ foot }) => (foot === null ? [] : (puppet.bones[foot] ?? [])))
  const shares = feet.map((bone) => soleOf(puppet, bone.id, bone.start, 0).points)
  const mean = shares.reduce((sum, one) => sum + one, 0) / shares.length
  if (shares.length > 1 && Math.min(...shares.map((one) => one * Math.sign(mean))) > POINTS) return Math.sign(mean)
  if (shares.length > 1 && Math.abs(mean) > ASLANT) return 0.5 * Math.sign(mean)
  if (shares.length === 1) return Math.abs(nth(shares, 0)) > POINTS ? Math.sign(nth(shares, 0)) : 0
  const { facing, legs: groups } = creatureOf(puppet)
  // What stands on more than two legs and is seen from the front goes aside, as crabs do.
  return facing !== 0 ? facing : (groups.get('legs') ?? []).length > 4 ? 1 : 0
}

/** Chains of a body without legs that may slither: the longest run of what is no limb. */
function spineOf({ chains, root }: Creature, puppet: Puppet): Bone[] {
  const runs = chains.filter(({ use }) => use === 'tail' || use === 'neck' || use === 'trunk').map(({ bones }) => bones)
  return [...runs.map((run) => [...run]), ...(root ? [chainMeant(puppet, [root.id])] : [])].sort((a, b) => b.length - a.length)[0] ?? []
}

/** The bone from which all legs hang; of several that carry some the one that carries the others. Null where legs hang from nothing. */
function carrierOf(puppet: Puppet, legs: readonly StrideLeg[]): string | null {
  const above = (id: string | null): string[] => (id === null ? [] : [id, ...above(puppet.bones[id]?.parent ?? null)])
  const ways = legs.map(({ bones }) => above(puppet.bones[bones[0] ?? '']?.parent ?? null))
  return ways[0]?.find((id) => ways.every((way) => way.includes(id))) ?? null
}

/** A stride for a puppet, with a gait; the first for as many legs as it has where it is left out. Without legs it slithers. */
export function strideFor(puppet: Puppet, id: string, name: string, given?: Gait): Stride {
  const creature = creatureOf(puppet)
  const found = inRows(creature.legs.get('legs') ?? [], creature)
    .slice(0, 12)
    .map(({ bones }) => legOf(nth(bones, 0).name, bones))
  const gait = given ?? nth(gaitsFor(found.length), 0)
  const legs = inGait(found, gait)
  const roles = bonesByRole(puppet)
  const hips = carrierOf(puppet, legs)
  const chest = (roles.get('chest') ?? roles.get('torso') ?? roles.get('spine'))?.id ?? null
  const isLeg = ({ bones }: StrideSwing): boolean => legs.some((leg) => leg.bones.some((b) => bones.includes(b)))
  const swings =
    legs.length === 0
      ? [swing('Body', spineOf(creature, puppet), { turn: 16, follow: 1, lag: 1 })]
      : [...armSwings(puppet), ...tailSwings(creature, legs.length)].filter((one) => !isLeg(one))
  return {
    ...{ id, name, legs, swings, hips, chest: chest === hips ? null : chest, head: roles.get('head')?.id ?? null },
    ...natureOf(gait, legLength(puppet, { legs, swings })),
    ways: Object.fromEntries(puppet.views.map((view) => [view.id, wayIn(inView(puppet, view.id), legs)])),
    ...{ travels: false, ground: [], speed: 0, amount: 1 },
  }
}

const inGait = (legs: readonly StrideLeg[], gait: Gait): StrideLeg[] => {
  const at = phasesOf(gait, legs.length)
  return legs.map((leg, k) => ({ ...leg, at: at[k] ?? 0 }))
}

/** A stride with another gait; its legs, what swings, and where it goes stay. */
export const withGait = (puppet: Puppet, stride: Stride, gait: Gait): Stride => ({
  ...stride,
  ...natureOf(gait, legLength(puppet, stride)),
  legs: inGait(stride.legs, gait),
})

/** Length of the longest leg of a stride, px; of what slithers the length of its body by four. */
function legLength(puppet: Puppet, { legs, swings }: Pick<Stride, 'legs' | 'swings'>): number {
  const sum = (ids: readonly string[]): number => ids.reduce((all, id) => all + (puppet.bones[id] ? lengthOf(puppet.bones[id]) : 0), 0)
  if (legs.length === 0) return Math.max(20, ...swings.map(({ bones }) => sum(bones) / 2))
  return Math.max(...legs.map(({ bones }) => sum(bones)))
}
