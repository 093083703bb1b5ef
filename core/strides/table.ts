/** Strides of a puppet as numbers. */
import type { BoneTable } from '../bones/table'
import { movedBones, type Constraint } from '../constraints/records'
import { isWithinBone } from '../bones/tree'
import type { Vec } from '../kernel/numbers'
import { turnBetween } from '../maths/solve/reach'
import { toDegrees } from '../maths/geometry/affine'
import { slotOf, type Slots } from '../kernel/slots'
import type { Puppet } from '../puppet/schema'
import { placed, placeFoot, type FootShape } from './foot'
import { loosePlaces } from './loose'
import type { Stride, StrideLeg, StrideNature } from './records'
import { soleOf } from './sole'
import { LEG_SHOWN, LEG_STATE, rollAt, WALK_SHOWN, WALK_STATE } from './course'

/** A leg with bones by their numbers. */
export interface LegTable extends FootShape {
  /** The hip first; those after the second hang stiffly from it. */
  readonly bones: Int32Array
  /** The first two of them. */
  readonly pair: Int32Array
  readonly foot: number
  readonly toe: number
  readonly at: number
  readonly touches: boolean
  readonly strength: number
  readonly toeBend: number
  /** The way in which its second bone bends, and how far it may turn that way, degrees. */
  readonly knee: -1 | 1
  readonly kneeMin: number
  readonly kneeMax: number
  /** How far its ankle can be from its hip, px. */
  readonly reach: number
  /** Slots of the amounts of constraints that move it, too. */
  readonly held: Int32Array
}

export interface SwingTable {
  readonly bones: Int32Array
  readonly turn: number
  readonly follow: number
  readonly bend: number
  readonly at: number
  readonly lag: number
  readonly times: number
  /** 1 where it goes counter-clockwise to the front, -1 where the other way; seen from the front less is seen of it. */
  readonly sign: number
}

export interface StrideTable extends Readonly<StrideNature> {
  readonly legs: readonly LegTable[]
  readonly swings: readonly SwingTable[]
  /** Slots of its pace and its amount. */
  readonly speed: number
  readonly amount: number
  /** Bones without a parent, and slots of the places of targets that hang from nothing: they go where it goes. */
  readonly roots: Int32Array
  readonly targets: Int32Array
  /** Slots of the places of parts that no bone moves, but for scenery: a shadow goes along. */
  readonly loose: Int32Array
  readonly hips: number
  readonly chest: number
  readonly head: number
  /** Whether hips carry the head, and whether the chest does. */
  readonly headOnHips: boolean
  readonly headOnChest: boolean
  /** Bones from which legs hang, and all above them, parents first. */
  readonly carriers: Int32Array
  /** 1 to the right, -1 to the left, 0 towards whoever looks; in the view of the rig, and in each. */
  readonly way: number
  readonly ways: Readonly<Record<string, number>>
  readonly travels: boolean
  /** [2n] x and y, px */
  readonly ground: Float64Array
  /** Times that the body rises and sinks in a stride, and when it is highest, radians. */
  readonly bobs: number
  readonly highest: number
  /** When most of it stands on the right of the picture, radians; and how much of it does. */
  readonly onRight: number
  readonly sided: number
  /** How far the body is lowered so that legs reach, px. */
  readonly crouch: number
  /** Where its numbers stand in the state and in what is shown. */
  readonly stateAt: number
  readonly shownAt: number
}

export interface StridesTable {
  readonly list: readonly StrideTable[]
  readonly stateSize: number
  readonly shownSize: number
}

/** Drawn bent by less than this a leg says nothing of its knee, degrees. */
const STRAIGHT = 4
/** Share of a leg's reach that it uses: a knee that is stretched out snaps. */
const USED = 0.995
/** Share of its reach by which a foot goes ahead of its hip at most. */
const FARTHEST = 0.8

/** Numbers of bones that are there; those of a chain up to the first that does not hang from the one before. */
function chainOf(ids: readonly string[], { index, parent }: BoneTable): number[] {
  const out: number[] = []
  for (const id of ids) {
    const b = index.get(id)
    if (b === undefined || (out.length > 0 && parent[b] !== out[out.length - 1])) break
    out.push(b)
  }
  return out
}

const numberOf = (id: string | null, { index }: BoneTable): number => (id === null ? -1 : (index.get(id) ?? -1))

/** A bone with all above it, parents first. */
function upwards({ parent }: BoneTable, b: number): number[] {
  const out: number[] = []
  for (let k = b; k >= 0; k = parent[k]!) out.unshift(k)
  return out
}

/** How the foot of a leg stands at rest. */
function footShape(puppet: Puppet, bones: BoneTable, last: number, foot: number, toe: number, way: number): FootShape {
  const at = foot >= 0 ? bones.start : bones.end
  const b = foot >= 0 ? foot : last
  const [ankleX, ankleY] = [at[2 * b]!, at[2 * b + 1]!]
  if (foot < 0) return { ankleX, ankleY, heelX: ankleX, ballX: ankleX, soleY: ankleY, points: way < 0 ? -1 : 1 }
  const { back, front, soleY } = soleOf(puppet, bones.ids[foot]!, { x: ankleX, y: ankleY }, way)
  return {
    ...{ ankleX, ankleY, soleY, heelX: ankleX + back, points: back < front ? 1 : -1 },
    ballX: toe >= 0 ? bones.start[2 * toe]! : ankleX + front,
  }
}

/** From the start of a bone to that of another one, or to its own end. */
const wayAlong = ({ start, end }: BoneTable, b: number, to?: number): Vec => ({
  x: (to === undefined ? end[2 * b]! : start[2 * to]!) - start[2 * b]!,
  y: (to === undefined ? end[2 * b + 1]! : start[2 * to + 1]!) - start[2 * b + 1]!,
})

/** The way in which a knee bends: as it is said, as it is drawn, as its limits have room, else as knees do. */
function kneeOf({ knee }: StrideLeg, bones: BoneTable, chain: readonly number[], way: number, middle: number): -1 | 1 {
  if (knee !== 0) return knee
  const [upper, lower] = chain
  if (upper === undefined || lower === undefined) return 1
  const drawn = turnBetween(wayAlong(bones, upper), wayAlong(bones, lower))
  if (Math.abs(drawn) > STRAIGHT) return drawn > 0 ? 1 : -1
  const [down, up] = [-bones.min[lower]!, bones.max[lower]!]
  if (Math.max(down, up) > 2 * Math.min(down, up)) return up > down ? 1 : -1
  if (Math.abs(way) > 0.3) return way > 0 ? -1 : 1
  return bones.start[2 * upper]! > middle ? -1 : 1
}

interface Making {
  readonly puppet: Puppet
  readonly bones: BoneTable
  readonly slots: Slots
  readonly way: number
  readonly middle: number
}

/** Turns that a knee may take to its side, counted from rest. */
function kneeRange(bones: BoneTable, chain: readonly number[], wanted: -1 | 1): Pick<LegTable, 'knee' | 'kneeMin' | 'kneeMax'> {
  const [upper, lower] = chain
  if (upper === undefined || lower === undefined) return { knee: wanted, kneeMin: -180, kneeMax: 180 }
  const bent = turnBetween(wayAlong(bones, upper, lower), wayAlong(bones, lower, chain[2]))
  const range = (side: number): [number, number] => [
    Math.max(bones.min[lower]!, side > 0 ? -bent : -180 - bent),
    Math.min(bones.max[lower]!, side > 0 ? 180 - bent : -bent),
  ]
  const [first, second] = [range(wanted), range(-wanted)]
  // Limits that leave no room on the side that is asked for have it bend to the other.
  const isFree = first[1] - first[0] > 1 || second[1] - second[0] <= 1
  const [kneeMin, kneeMax] = isFree ? first : second
  return { knee: (isFree ? wanted : -wanted) as -1 | 1, kneeMin, kneeMax: Math.max(kneeMin, kneeMax) }
}

function compileLeg(leg: StrideLeg, { puppet, bones, slots, way, middle }: Making): LegTable | null {
  const chain = chainOf(leg.bones, bones)
  const [first] = chain
  const last = chain[chain.length - 1]
  if (first === undefined || last === undefined) return null
  const foot = numberOf(leg.foot, bones)
  const hasFoot = foot >= 0 && bones.parent[foot] === last
  const toe = hasFoot ? numberOf(leg.toe, bones) : -1
  const shape = footShape(puppet, bones, last, hasFoot ? foot : -1, toe, way)
  const spots = [...chain.map((b) => [bones.start[2 * b]!, bones.start[2 * b + 1]!] as const), [shape.ankleX, shape.ankleY] as const]
  const links = chain.map((_, k) => Math.hypot(spots[k + 1]![0] - spots[k]![0], spots[k + 1]![1] - spots[k]![1]))
  const moved = new Set([...leg.bones, leg.foot])
  const holds = (c: Constraint): boolean => movedBones(c).some((b) => moved.has(b))
  return {
    ...shape,
    bones: Int32Array.from(chain),
    pair: Int32Array.from(chain.slice(0, 2)),
    foot: hasFoot ? foot : -1,
    toe: toe >= 0 && bones.parent[toe] === foot ? toe : -1,
    at: leg.at,
    touches: leg.touches,
    strength: leg.strength,
    toeBend: leg.toeBend,
    ...kneeRange(bones, chain, kneeOf(leg, bones, chain, way, middle)),
    reach: links.reduce((sum, one) => sum + one, 0),
    held: Int32Array.from(puppet.constraints.flatMap((c, k) => (holds(c) ? [slotOf(slots, 'constraint', k)] : []))),
  }
}

/** Less is seen of what swings to and fro when it is looked at from the front. */
const FROM_FRONT = 0.35
/** What hangs down, by so many degrees at most, swings to and fro; all else from side to side. */
const HANGS = 60

function compileSwing(swing: Stride['swings'][number], { bones, way, middle }: Making): SwingTable | null {
  const chain = chainOf(swing.bones, bones)
  const [first] = chain
  if (first === undefined) return null
  const last = chain[chain.length - 1]!
  const down = bones.end[2 * last + 1]! - bones.start[2 * first + 1]!
  const aside = bones.end[2 * last]! - bones.start[2 * first]!
  const hangs = Math.abs(toDegrees(Math.atan2(aside, down))) < HANGS
  const outwards = bones.start[2 * first]! >= middle ? 1 : -1
  const seen = Math.abs(way)
  const sign = hangs ? (seen > 0.05 ? way : 0) + (1 - seen) * FROM_FRONT * outwards : way < 0 ? -1 : 1
  const { turn, follow, bend, at, lag, times } = swing
  return { bones: Int32Array.from(chain), turn, follow, bend, at, lag, times, sign }
}

/** Sum of footfalls as a wave that goes round so many times in a stride: its length (1 where all agree) and its phase in the midst of stances. */
function footfalls(legs: readonly LegTable[], times: number, duty: number, weight: (leg: LegTable) => number = () => 1) {
  const standing = legs.filter(({ touches }) => touches)
  let [x, y] = [0, 0]
  for (const leg of standing) {
    const angle = 2 * Math.PI * times * (leg.at + duty / 2)
    x += weight(leg) * Math.cos(angle)
    y += weight(leg) * Math.sin(angle)
  }
  return { size: standing.length === 0 ? 0 : Math.hypot(x, y) / standing.length, phase: Math.atan2(y, x) }
}

/** Footfalls that agree by this share make the body rise and sink together. */
const TOGETHER = 0.55

/** How often the body rises and sinks in a stride: as often as feet come down, where some come down together. */
function bobsOf(legs: readonly LegTable[], duty: number): number {
  for (let k = 1; k <= 6; k++) if (footfalls(legs, k, duty).size > TOGETHER) return k
  return 2
}

/** Spots of a stance at which legs have to reach. */
const LOOKS = 24

/** How far the body has to be lowered so that no leg is stretched out while its foot stands, px. */
function crouchFor(table: Omit<StrideTable, 'crouch'>, bones: BoneTable): number {
  let most = 0
  for (const leg of table.legs) {
    if (!leg.touches || leg.bones.length < 2) continue
    const hip = leg.bones[0]!
    for (let k = 0; k <= LOOKS; k++) {
      const p = (table.duty * k) / LOOKS
      const roll = table.roll * leg.strength * rollAt(p, table.duty, true)
      placeFoot(leg, { ahead: table.length * (table.duty / 2 - p), lift: 0, roll, ground: 0, slope: 0 }, table.way)
      const dx = placed.ankleX - bones.start[2 * hip]!
      const dy = placed.ankleY - bones.start[2 * hip + 1]!
      const height = table.bob * Math.cos(2 * Math.PI * table.bobs * (p + leg.at) - table.highest)
      most = Math.max(most, dy + height - Math.sqrt(Math.max(0, (USED * leg.reach) ** 2 - dx * dx)))
    }
  }
  return most
}

function compileStride(stride: Stride, number: number, at: { state: number; shown: number }, making: Making): StrideTable {
  const { puppet, bones, slots, way } = making
  const legs = stride.legs.flatMap((leg) => compileLeg(leg, making) ?? [])
  const [hips, chest, head] = [stride.hips, stride.chest, stride.head].map((id) => numberOf(id, bones)) as [number, number, number]
  const carriers = [...new Set(legs.flatMap((leg) => upwards(bones, bones.parent[leg.bones[0]!]!)))].sort((a, b) => a - b)
  const { duty, tempo, bob, sway, hipTurn, chestTurn, lean, swing, roll, level, lift, travels } = stride
  const bobs = bobsOf(legs, duty)
  const carriesHead = (id: string | null): boolean =>
    id !== null && stride.head !== null && numberOf(id, bones) >= 0 && head >= 0 && isWithinBone(puppet, stride.head, id)
  const right = footfalls(legs, 1, duty, (leg) => (leg.heelX >= making.middle ? 1 : -1))
  const steps = legs.filter((leg) => leg.touches).map((leg) => (2 * FARTHEST * leg.reach) / Math.max(duty * Math.abs(way), 1e-6))
  const table = {
    ...{ legs, hips, chest, head, way, lift, duty, tempo, bob, sway, hipTurn, chestTurn, lean, swing, roll, level, travels, bobs },
    swings: stride.swings.flatMap((one) => compileSwing(one, making) ?? []),
    speed: slotOf(slots, 'stride', number),
    amount: slotOf(slots, 'stride', number) + 1,
    roots: Int32Array.from(bones.ids.flatMap((_, b) => (bones.parent[b]! < 0 ? [b] : []))),
    targets: Int32Array.from(
      Object.values(puppet.targets).flatMap(({ parent }, t) => (parent === null ? [slotOf(slots, 'target', t)] : [])),
    ),
    loose: loosePlaces(puppet, bones, slots),
    headOnHips: carriesHead(stride.hips),
    headOnChest: carriesHead(stride.chest),
    carriers: Int32Array.from(carriers),
    ways: stride.ways,
    length: Math.min(stride.length, ...steps),
    ground: Float64Array.from(stride.ground.flatMap(({ x, y }) => [x, y])),
    highest: footfalls(legs, bobs, duty).phase,
    onRight: right.phase,
    sided: right.size,
    stateAt: at.state,
    shownAt: at.shown,
  }
  return { ...table, crouch: crouchFor(table, bones) }
}

/** Strides of a puppet as numbers. */
export function compileStrides(puppet: Puppet, bones: BoneTable, slots: Slots): StridesTable {
  const at = { state: 0, shown: 0 }
  const list = puppet.strides.map((stride, number) => {
    const hips = numberOf(stride.hips, bones)
    const way = stride.ways[puppet.view] ?? 0
    const middle = hips >= 0 ? bones.start[2 * hips]! : puppet.canvas.width / 2
    const made = compileStride(stride, number, at, { puppet, bones, slots, way, middle })
    at.state += WALK_STATE + LEG_STATE * made.legs.length
    at.shown += WALK_SHOWN + LEG_SHOWN * made.legs.length
    return made
  })
  return { list, stateSize: at.state, shownSize: at.shown }
}
