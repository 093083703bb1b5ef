/**
 * The body of a creature that is no person, as motions know it: its skeleton taken apart into chains, each with what it is for (a leg, a
 * wing, a tail), by the words in the names of bones; what says nothing and reaches the ground is a leg.
 */
import { bonesInOrder } from '../bones/tree'
import type { Bone } from '../bones/records'
import type { Constraint, Target } from '../constraints/records'
import type { Puppet } from '../puppet/schema'
import { wordsOf } from '../roles/words'
import { lengthOf } from './body'
import { leadsOf, type Lead } from './leads'

/** What a chain of bones is for. */
const USES = ['jaw', 'bill', 'leg', 'arm', 'wing', 'tail', 'neck', 'head', 'feeler', 'ear', 'eye', 'trunk'] as const
export type Use = (typeof USES)[number]

/** Words in names of bones, tried in this order: a lower beak is a jaw, and what is called hind leg is no trunk. */
const WORDS: Readonly<Record<Use, RegExp>> = {
  jaw: /jaw|mandible|lower[ _-]*(beak|bill)/i,
  bill: /beak|bill\b|snout/i,
  leg: /\b(legs?|thigh|shin|foot|paw|hoof|hock|knee|toes?)\b/i,
  arm: /\b(arm|claw|pincer|hand)\b/i,
  wing: /wing/i,
  tail: /tail|rump/i,
  neck: /neck/i,
  head: /head|skull/i,
  feeler: /feeler|antenna/i,
  ear: /\bears?\b/i,
  eye: /\beyes?\b/i,
  trunk: /\b(body|shell|hips?|pelvis|spine|chest|torso|belly|trunk|thorax|abdomen|back)\b/i,
}

/** A run of bones, the first at its root. */
export interface BoneChain {
  readonly use: Use
  readonly bones: readonly Bone[]
  /** `left` for what lies on the left or near side, `right` for the other; null in the middle. */
  readonly side: 'left' | 'right' | null
  /** What moves it as it is now: a target that it reaches for, or a path of them; null where its bones are turned. */
  readonly led: { readonly constraint: Constraint; readonly targets: readonly Target[] } | null
}

export interface Creature {
  /** What carries all else. */
  readonly root: Bone | null
  readonly chains: readonly BoneChain[]
  /** Legs by the names that motions have for groups of them. */
  readonly legs: ReadonlyMap<string, readonly BoneChain[]>
  readonly leads: ReadonlyMap<string, Lead>
  /** 1 where it looks to the right of the picture, -1 to the left; 0 seen from the front. */
  readonly facing: -1 | 0 | 1
  /** Length of a leg, or a quarter of the canvas where it has none, px. */
  readonly leg: number
}

const said = (bone: Bone): Use | null => USES.find((use) => WORDS[use].test(bone.name.replace(/_/g, ' '))) ?? null

function sideOf({ name }: Bone): BoneChain['side'] {
  const { side } = wordsOf(name)
  return side === null ? null : side === 'left' || side === 'near' ? 'left' : 'right'
}

/** Share of the height of a skeleton, from below, in which an unnamed chain ends that is a leg. */
const GROUND = 0.15

/** What each bone is for: what its name says, else what the bone above it is for, else a leg where its tip is at the ground. */
function usesOf(puppet: Puppet, bones: readonly Bone[]): Map<string, Use> {
  const ys = bones.flatMap(({ start, end }) => [start.y, end.y])
  const [top, bottom] = [Math.min(...ys), Math.max(...ys)]
  const uses = new Map<string, Use>()
  for (const bone of bones) {
    const above = bone.parent === null ? 'trunk' : uses.get(bone.parent)
    const lowest = (b: Bone): number => Math.max(b.end.y, ...b.children.map((id) => lowest(puppet.bones[id] as Bone)))
    const reachesGround = bone.parent !== null && lowest(bone) > bottom - GROUND * (bottom - top)
    uses.set(bone.id, said(bone) ?? (above === 'trunk' && reachesGround ? 'leg' : (above ?? 'trunk')))
  }
  return uses
}

/** From a bone on, through those that serve the same use. */
function chainFrom(puppet: Puppet, first: Bone, uses: ReadonlyMap<string, Use>): Bone[] {
  const next = first.children.find((id) => uses.get(id) === uses.get(first.id))
  return [first, ...(next === undefined ? [] : chainFrom(puppet, puppet.bones[next] as Bone, uses))]
}

function ledBy({ constraints, targets }: Puppet, bones: readonly Bone[]): BoneChain['led'] {
  for (const constraint of constraints) {
    if (constraint.amount <= 0 || (constraint.kind !== 'reach' && constraint.kind !== 'path')) continue
    if (!bones.some(({ id }) => constraint.bones.includes(id))) continue
    const ids = constraint.kind === 'reach' ? [constraint.target] : constraint.targets
    return { constraint, targets: ids.flatMap((id) => targets[id] ?? []) }
  }
  return null
}

/** Lies the head farther to one side of the trunk than this share of the width of all bones, the creature is seen from that side. */
const FROM_SIDE = 0.12

function facingOf(bones: readonly Bone[], uses: ReadonlyMap<string, Use>, root: Bone): Creature['facing'] {
  const head = bones.find((b) => uses.get(b.id) === 'head') ?? bones.find((b) => uses.get(b.id) === 'neck')
  if (!head) return 0
  const xs = bones.flatMap(({ start, end }) => [start.x, end.x])
  const off = (head.start.x + head.end.x) / 2 - (root.start.x + root.end.x) / 2
  return Math.abs(off) > FROM_SIDE * (Math.max(...xs) - Math.min(...xs)) ? (Math.sign(off) as -1 | 1) : 0
}

/** Where a chain begins along x. */
export const rootX = ({ bones }: BoneChain): number => bones[0]?.start.x ?? 0

/** Legs on the left or near side, and on the other: as they are called, else as they lie. */
export function sidesOf(legs: readonly BoneChain[], middle: number): [BoneChain[], BoneChain[]] {
  const isRight = (leg: BoneChain): boolean => (leg.side === null ? rootX(leg) < middle : leg.side === 'right')
  return [legs.filter((leg) => !isRight(leg)), legs.filter(isRight)]
}

/** Legs in the groups by which motions step: all, `a` and `b` in turn, and front and hind where they are four. */
function legGroups(legs: readonly BoneChain[], facing: Creature['facing'], middle: number): Map<string, BoneChain[]> {
  const rows = sidesOf(legs, middle).map((row) =>
    row.sort((p, q) => (facing === 0 ? Math.abs(rootX(q) - middle) - Math.abs(rootX(p) - middle) : facing * (rootX(q) - rootX(p)))),
  )
  // Neighbours on one side and legs that face each other step in turn.
  const inTurn = (odd: number): BoneChain[] => rows.flatMap((row, side) => row.filter((_, k) => (k + side) % 2 === odd))
  const groups = new Map([
    ['legs', [...legs]],
    ['legs:a', inTurn(0)],
    ['legs:b', inTurn(1)],
  ])
  const [near = [], far = []] = rows
  if (facing !== 0 && legs.length === 4 && near.length === 2 && far.length === 2) {
    const [nearFront, nearHind, farFront, farHind] = [...near, ...far]
    groups
      .set(
        'front',
        [nearFront, farFront].flatMap((leg) => leg ?? []),
      )
      .set(
        'hind',
        [nearHind, farHind].flatMap((leg) => leg ?? []),
      )
  } else groups.set('leg:left', near.slice(0, 1)).set('leg:right', far.slice(0, 1))
  return groups
}

/** Finds the body of a creature. */
export function creatureOf(puppet: Puppet): Creature {
  const bones = bonesInOrder(puppet)
  const uses = usesOf(puppet, bones)
  const root = bones[0] ?? null
  const isFirst = (bone: Bone): boolean => bone.parent === null || uses.get(bone.parent) !== uses.get(bone.id)
  const chains = bones
    .filter((bone) => uses.get(bone.id) !== 'trunk' && isFirst(bone))
    .map((first): BoneChain => {
      const run = chainFrom(puppet, first, uses)
      return { use: uses.get(first.id) ?? 'trunk', bones: run, side: sideOf(first), led: ledBy(puppet, run) }
    })
  const legs = chains.filter(({ use }) => use === 'leg')
  const facing = root ? facingOf(bones, uses, root) : 0
  const middle = root ? (root.start.x + root.end.x) / 2 : puppet.canvas.width / 2
  const lengths = legs.map((leg) => leg.bones.slice(0, 2).reduce((sum, bone) => sum + lengthOf(bone), 0))
  return {
    ...{ root, chains, facing, legs: legGroups(legs, facing, middle), leads: leadsOf(puppet) },
    leg: lengths.length > 0 ? Math.max(...lengths) : puppet.canvas.height / 4,
  }
}

/** What kind of body a puppet has, as far as its bones tell. */
export type BodyKind = 'person' | 'four-legged' | 'bird' | 'many-legged'

export function bodyKindOf(puppet: Puppet): BodyKind {
  const { chains, facing } = creatureOf(puppet)
  const count = (use: Use): number => chains.filter((chain) => chain.use === use).length
  if (count('wing') > 0) return 'bird'
  if (count('leg') > 4) return 'many-legged'
  return count('leg') === 4 || (count('leg') > 2 && facing !== 0) ? 'four-legged' : 'person'
}
