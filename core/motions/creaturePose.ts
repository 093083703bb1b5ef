/** From terms of a creature to values of its puppet's channels. */
import { boneChannel } from '../bones/channels'
import type { Bone } from '../bones/records'
import { channelAddress } from '../kernel/channel'
import type { Vec } from '../kernel/numbers'
import { apply, turnAbout } from '../maths/geometry/affine'
import { nearestTurn } from '../maths/solve/reach'
import { directionOf, lengthOf, roomier } from './body'
import type { Creature, BoneChain, Use } from './creature'
import type { Terms } from './motion'
import { reachWithLeg, withinLimits } from './resolve'

type Values = Record<string, number>

/** Where the trunk goes: a shift in px, and a turn about the start of its bone, degrees counter-clockwise. */
interface TrunkMotion {
  readonly shift: Vec
  readonly turn: number
}

const turned = (spot: Vec, about: Vec, degrees: number): Vec => apply(turnAbout(degrees, about), spot)

const moved = (spot: Vec, root: Bone, { shift, turn }: TrunkMotion): Vec => {
  const at = turned(spot, root.start, turn)
  return { x: at.x + shift.x, y: at.y + shift.y }
}

/** Where a spot of the trunk lies that is moved to a place. */
const movedFrom = (place: Vec, root: Bone, { shift, turn }: TrunkMotion): Vec =>
  turned({ x: place.x - shift.x, y: place.y - shift.y }, root.start, -turn)

const tipOf = (bones: readonly Bone[]): Vec => bones.at(-1)?.end ?? { x: 0, y: 0 }
const startOf = (bones: readonly Bone[]): Vec => bones[0]?.start ?? { x: 0, y: 0 }

/** The sign with which a chain turns so that its tip goes the way that a motion means. */
function senseOf({ facing, root }: Creature, { use, bones }: BoneChain, what: string): 1 | -1 {
  const forwards = facing >= 0 ? -1 : 1
  if (what === 'nod' || what === 'open') return (use === 'bill' ? -forwards : forwards) as 1 | -1
  const [from, to] = [startOf(bones), tipOf(bones)]
  const middle = root ? (root.start.x + root.end.x) / 2 : from.x
  const outwards = Math.abs(to.x - from.x) > 1 ? to.x - from.x : from.x - middle
  return outwards < 0 ? -1 : 1
}

/** Turns a chain of targets about the root of what follows them, the farther along the more. */
function turnTargets(chain: BoneChain, degrees: number, values: Values): void {
  const targets = chain.led?.targets ?? []
  targets.forEach(({ id, at }, k) => {
    const to = turned(at, startOf(chain.bones), (degrees * (k + 1)) / targets.length)
    values[channelAddress('target', id, 'x')] = to.x - at.x
    values[channelAddress('target', id, 'y')] = to.y - at.y
  })
}

/** What terms say of a chain: `lift`, `nod` and `open` turn it, spread over its bones; `bend` turns what follows its first bone. */
function turnChain(creature: Creature, chain: BoneChain, what: string, degrees: number, values: Values): void {
  const sense = senseOf(creature, chain, what)
  if (chain.led) return turnTargets(chain, sense * degrees, values)
  const add = (bone: Bone, by: number): void => {
    const address = boneChannel(bone.id, 'angle')
    values[address] = withinLimits(bone, (values[address] ?? 0) + by)
  }
  const [first, ...rest] = chain.bones
  if (what === 'bend') rest.forEach((bone) => add(bone, (sense * degrees) / rest.length))
  else if (what === 'nod') chain.bones.forEach((bone) => add(bone, (sense * degrees) / chain.bones.length))
  else if (first) add(first, sense * degrees)
}

/** How far a foot is set from where it stands, shares of the length of a leg: forwards, and up. */
interface Step {
  readonly step: number
  readonly up: number
}

/** The middle of where legs begin; null without any. */
function hipsOf({ legs }: Pick<Creature, 'legs'>): Vec | null {
  const roots = (legs.get('legs') ?? []).map(({ bones }) => startOf(bones))
  const mean = (axis: 'x' | 'y'): number => roots.reduce((sum, at) => sum + at[axis], 0) / roots.length
  return roots.length > 0 ? { x: mean('x'), y: mean('y') } : null
}

/** Bent by less at rest a leg is taken for straight, degrees. */
const STRAIGHT = 6

/** The way in which the second bone of a leg turns when it bends: as it was drawn, else as limits leave room, else as such legs do. */
function bendOf({ facing, legs }: Creature, leg: BoneChain, upper: Bone, lower: Bone): 1 | -1 {
  const drawn = nearestTurn(directionOf(lower) - directionOf(upper), 0)
  if (Math.abs(drawn) > STRAIGHT) return drawn > 0 ? 1 : -1
  // Elbows and the heels of birds point backwards, the knees of hind legs forwards; seen from the front knees point outwards.
  const isLeft = lower.end.x < (hipsOf({ legs })?.x ?? 0)
  const usual = facing === 0 ? (isLeft ? 1 : -1) : legs.get('hind')?.includes(leg) ? (-facing as 1 | -1) : facing
  return roomier(lower, usual)
}

/** Bones of a leg that bring its foot to where it belongs, whatever the trunk does; the last of three keeps lying as it was drawn. */
function placeFoot(creature: Creature, leg: BoneChain, { step, up }: Step, trunk: TrunkMotion, values: Values): void {
  const { root, facing } = creature
  const shift = { x: step * creature.leg * (facing || 1), y: -up * creature.leg }
  if (leg.led?.constraint.kind === 'reach') {
    for (const target of leg.led.targets) {
      const place = { x: target.at.x + shift.x, y: target.at.y + shift.y }
      // A target that hangs on the trunk goes along with it, and is brought back.
      const spot = target.parent !== null && root ? movedFrom(place, root, trunk) : place
      values[channelAddress('target', target.id, 'x')] = spot.x - target.at.x
      values[channelAddress('target', target.id, 'y')] = spot.y - target.at.y
    }
    return
  }
  const [upper, lower, foot] = leg.bones
  if (!root || !upper) return
  const run = lower ? [upper, lower] : [upper]
  const ankle = tipOf(run)
  const bends = lower ? bendOf(creature, leg, upper, lower) : 1
  const hip = { root: moved(upper.start, root, trunk), base: trunk.turn }
  const angles = reachWithLeg(run, bends, hip, { x: ankle.x + shift.x, y: ankle.y + shift.y })
  run.forEach((bone, k) => (values[boneChannel(bone.id, 'angle')] = angles[k] ?? 0))
  if (foot) values[boneChannel(foot.id, 'angle')] = withinLimits(foot, -trunk.turn - angles.reduce((sum, a) => sum + a, 0))
}

/** Rounds in which a trunk is lowered until all of its legs reach; the angle changes a little with each. */
const ROUNDS = 4

/** The trunk lowered by as much as straight legs need that stand farther away than they are long. */
function lowered(creature: Creature, trunk: TrunkMotion, standing: readonly BoneChain[]): TrunkMotion {
  const { root } = creature
  if (!root) return trunk
  let { y } = trunk.shift
  for (let round = 0; round < ROUNDS; round++) {
    const short = standing.map(({ bones }) => {
      const run = bones.slice(0, 2)
      const foot = tipOf(run)
      const from = moved(startOf(run), root, { ...trunk, shift: { x: trunk.shift.x, y } })
      return Math.hypot(foot.x - from.x, foot.y - from.y) - run.reduce((sum, bone) => sum + lengthOf(bone), 0)
    })
    y += Math.max(0, ...short)
  }
  return { ...trunk, shift: { x: trunk.shift.x, y } }
}

/** How the trunk goes, as terms say it: shares of a leg's length down and forwards, degrees by which the front sinks. */
function trunkOf(creature: Creature, strength: number, terms: Terms): TrunkMotion {
  const { root, facing, leg } = creature
  const say = (term: string): number => strength * (terms[term] ?? 0)
  const turn = -(facing || 1) * say('body.lean')
  // It turns about the middle of its legs, wherever its bone begins.
  const middle = hipsOf(creature) ?? root?.start
  const kept = middle && root ? turned(middle, root.start, turn) : null
  const [dx, dy] = middle && kept && turn !== 0 ? [middle.x - kept.x, middle.y - kept.y] : [0, 0]
  return { shift: { x: dx + say('body.forward') * leg * (facing || 1), y: dy + say('body.down') * leg }, turn }
}

const CHAINS: ReadonlySet<string> = new Set<Use>(['jaw', 'bill', 'arm', 'wing', 'tail', 'neck', 'head', 'feeler', 'ear', 'eye'])

const LEGS: ReadonlySet<string> = new Set(['legs', 'leg', 'front', 'hind'])

/** What is being made of the terms of a beat. */
interface Posing {
  readonly values: Values
  readonly missing: Set<string>
  readonly steps: Map<BoneChain, Step>
}

/** Takes one term into what is being made. */
function takeTerm(creature: Creature, term: string, amount: number, { values, missing, steps }: Posing): void {
  const [role = '', what = ''] = term.split('.')
  const [use = '', side] = role.split(':')
  const lead = creature.leads.get(term)
  if (use === 'body') {
    if (!creature.root) missing.add('body')
  } else if (LEGS.has(use)) {
    const legs = creature.legs.get(role) ?? []
    if (legs.length === 0) missing.add('leg')
    for (const leg of legs) steps.set(leg, { ...(steps.get(leg) ?? { step: 0, up: 0 }), [what]: amount })
  } else if (CHAINS.has(use)) {
    const chains = creature.chains.filter((chain) => chain.use === use && (side === undefined || (chain.side ?? 'left') === side))
    if (chains.length === 0) missing.add(use)
    for (const chain of chains) turnChain(creature, chain, what, amount, values)
  } else if (lead) values[lead.channel] = lead.valueAt(Math.min(1, Math.max(-1, amount)))
  else missing.add(role)
}

const isStep = ({ step, up }: Step): boolean => step !== 0 || up !== 0

/** Values of channels for what a beat says, and roles that it needs and the puppet has not. */
export function creatureResolved(creature: Creature, strength: number, terms: Terms): { values: Values; missing: string[] } {
  const steps = new Map<BoneChain, Step>(creature.legs.get('legs')?.map((leg) => [leg, { step: 0, up: 0 }]))
  const posing: Posing = { values: {}, missing: new Set(), steps }
  for (const [term, value] of Object.entries(terms)) takeTerm(creature, term, strength * value, posing)
  const { values, missing } = posing
  const standing = [...steps].flatMap(([leg, step]) => (isStep(step) || leg.led ? [] : [leg]))
  const trunk = lowered(creature, trunkOf(creature, strength, terms), standing)
  if (creature.root) moveTrunk(creature.root, trunk, values)
  const stands = trunk.turn === 0 && trunk.shift.x === 0 && trunk.shift.y === 0
  for (const [leg, step] of steps) if (isStep(step) || !stands) placeFoot(creature, leg, step, trunk, values)
  // What opens by a jaw needs no mouth that opens, and the other way round.
  if (creature.leads.has('mouth.open')) missing.delete('jaw')
  if (creature.chains.some(({ use }) => use === 'jaw')) missing.delete('mouth')
  return { values, missing: [...missing] }
}

function moveTrunk(root: Bone, { shift, turn }: TrunkMotion, values: Values): void {
  if (shift.x !== 0) values[boneChannel(root.id, 'x')] = shift.x
  if (shift.y !== 0) values[boneChannel(root.id, 'y')] = shift.y
  if (turn !== 0) values[boneChannel(root.id, 'angle')] = turn
}
