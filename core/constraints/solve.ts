/**
 * Constraints: they change the own values of bones after the pose has given them, in the order in which one needs
 * the result of another, and place the bones anew that hang from those. Nothing here allocates.
 */
import { MOST_CHAINED, targetsOf, type Constraint } from './records'
import type { Puppet } from '../puppet/schema'
import { constraintOrder } from './order'
import { toDegrees, toRadians } from '../maths/geometry/affine'
import { Spline } from '../maths/geometry/spline'
import { ChainReach, nearestTurn, softDistance } from '../maths/solve/chainReach'
import { clampAngle, limbAngles, loadLimb, startOf, turnAbove } from './limb'
import { placeBone, type BoneFrame, type BoneTable } from '../bones/table'
import { slotOf, type Slots } from '../kernel/slots'

/** Targets as arrays. */
export interface TargetTable {
  readonly index: ReadonlyMap<string, number>
  /** [2t] at rest, canvas px */
  readonly at: Float64Array
  /** [t] the bone that it hangs from, or -1 */
  readonly parent: Int32Array
}

/** A constraint, compiled. */
export interface RigConstraint {
  readonly source: Constraint
  /** Its number in the document, by which its channels are filed. */
  readonly number: number
  /** Bones that it sets; for a limb or a path the chain, the root first. */
  readonly bones: Int32Array
  /** Targets by number. */
  readonly targets: Int32Array
  /** The other bone that it looks at or keeps level, or -1. */
  readonly other: number
  /** Bones to be placed anew, parents first. */
  readonly affected: Int32Array
}

/** Targets and constraints of a puppet in the order in which they act. */
export interface ConstraintTable {
  readonly targets: TargetTable
  /** In the order in which they act. */
  readonly list: readonly RigConstraint[]
}

/** Targets and constraints of a puppet, with numbers of bones in place of ids. */
export function compileConstraints(puppet: Puppet, bones: BoneTable): ConstraintTable {
  const targets = Object.values(puppet.targets)
  const index = new Map(targets.map((t, i) => [t.id, i]))
  const table: TargetTable = {
    index,
    at: Float64Array.from(targets.flatMap((t) => [t.at.x, t.at.y])),
    parent: Int32Array.from(targets, (t) => (t.parent === null ? -1 : bones.index.get(t.parent)!)),
  }
  const order = constraintOrder(puppet)
  if (typeof order === 'string') throw new Error(`Constraint ${order} waits for itself.`)
  const list = order.map((source): RigConstraint => {
    const chain = source.kind === 'reach' || source.kind === 'path' ? source.bones : [source.bone]
    const own = Int32Array.from(chain, (b) => bones.index.get(b)!)
    const other = source.kind === 'copy' ? source.from : source.kind === 'reach' ? source.level : null
    return {
      source,
      number: puppet.constraints.indexOf(source),
      bones: own,
      targets: Int32Array.from(targetsOf(source), (t) => index.get(t)!),
      other: other === null ? -1 : bones.index.get(other)!,
      affected: below(bones, own[0]!),
    }
  })
  return { targets: table, list }
}

/** A bone with all that hang from it, parents first. */
function below({ parent }: BoneTable, top: number): Int32Array {
  const within = new Set([top])
  parent.forEach((above, b) => {
    if (within.has(above)) within.add(b)
  })
  return Int32Array.from(within).sort()
}

/** What the solving of constraints looks at. */
export interface Scene {
  readonly bones: BoneTable
  readonly table: ConstraintTable
  readonly slots: Slots
  /** Written anew for each evaluation. */
  pose: Float64Array
  readonly frame: BoneFrame
}

const limb = new ChainReach(MOST_CHAINED)
const before = new Float64Array(MOST_CHAINED)
const solved = new Float64Array(MOST_CHAINED)
const beforeLength = new Float64Array(MOST_CHAINED)
const spot = new Float64Array(3)

/** Lets every constraint act once. */
export function solveConstraints(scene: Scene): void {
  const { table, slots, pose } = scene
  for (let i = 0; i < table.list.length; i++) {
    const c = table.list[i]!
    const amount = Math.min(1, Math.max(0, pose[slotOf(slots, 'constraint', c.number)]!))
    if (amount === 0) continue
    if (c.source.kind === 'reach') reach(scene, c, amount)
    else if (c.source.kind === 'copy') copyTurn(scene, c, c.source.ratio * amount)
    else if (c.source.kind === 'aim') aim(scene, c, amount)
    else if (c.source.kind === 'distance') keepDistance(scene, c, amount)
    else followPath(scene, c, amount)
  }
}

/** Writes where a target is into `spot`, with its turn, degrees. */
export function placeTarget({ table, slots, pose, frame }: Scene, t: number): void {
  const { at, parent } = table.targets
  const slot = slotOf(slots, 'target', t)
  const x = at[2 * t]! + pose[slot]!
  const y = at[2 * t + 1]! + pose[slot + 1]!
  const bone = parent[t]!
  const m = frame.motion
  const k = 6 * bone
  spot[0] = bone < 0 ? x : m[k]! * x + m[k + 2]! * y + m[k + 4]!
  spot[1] = bone < 0 ? y : m[k + 1]! * x + m[k + 3]! * y + m[k + 5]!
  spot[2] = pose[slot + 2]! + (bone < 0 ? 0 : frame.turn[bone]!)
}

/** Where targets are in a pose; [3t] x, y and turn. */
export function targetPlaces(scene: Scene, out: Float64Array): void {
  for (let t = 0; t < scene.table.targets.parent.length; t++) {
    placeTarget(scene, t)
    for (let k = 0; k < 3; k++) out[3 * t + k] = spot[k]!
  }
}

function placeAffected({ bones, frame }: Scene, { affected }: RigConstraint): void {
  for (let i = 0; i < affected.length; i++) placeBone(bones, frame, affected[i]!)
}

/** Takes a chain into the limb, up to the end of its last bone. */
function loadChain({ bones, frame }: Scene, chain: Int32Array): void {
  const last = chain[chain.length - 1]!
  loadLimb(limb, { bones, frame }, chain, bones.end[2 * last]!, bones.end[2 * last + 1]!)
  for (let i = 0; i < chain.length; i++) before[i] = frame.angle[chain[i]!]!
}

/** Gives the limb's angles to the bones, as far as `amount` says. */
function takeAngles({ bones, frame }: Scene, chain: Int32Array, amount: number): void {
  limbAngles(limb, bones, chain, solved)
  for (let i = 0; i < chain.length; i++)
    frame.angle[chain[i]!] = clampAngle(bones, chain[i]!, before[i]! + amount * (solved[i]! - before[i]!))
}

function reach(scene: Scene, c: RigConstraint, amount: number): void {
  const { bones, frame, pose, slots } = scene
  const { source } = c
  if (source.kind !== 'reach') return
  loadChain(scene, c.bones)
  placeTarget(scene, c.targets[0]!)
  const level = spot[2]!
  const dx = spot[0]! - limb.rootX
  const dy = spot[1]! - limb.rootY
  const wanted = Math.sqrt(dx * dx + dy * dy)
  let side = pose[slotOf(slots, 'constraint', c.number) + 1]!
  if (source.pole !== null) {
    placeTarget(scene, c.targets[1]!)
    side = dx * (spot[1]! - limb.rootY) - dy * (spot[0]! - limb.rootX) >= 0 ? 1 : -1
  }
  const length = limb.reach()
  let goal = Math.min(length, softDistance(wanted, length, source.soft))
  for (let i = 0; i < c.bones.length; i++) beforeLength[i] = frame.length[c.bones[i]!]!
  const drawn = source.stretch > 1 && wanted > goal ? stretchOf(scene, c, source.stretch, wanted / goal) : 1
  if (drawn > 1) {
    for (let i = 0; i < c.bones.length; i++) frame.length[c.bones[i]!] = beforeLength[i]! * drawn
    placeAffected(scene, c)
    loadChain(scene, c.bones)
    goal *= drawn
  }
  const share = wanted > 1e-9 ? Math.min(wanted, goal) / wanted : 0
  limb.solve(limb.rootX + dx * share, limb.rootY + dy * share, side)
  takeAngles(scene, c.bones, amount)
  if (drawn > 1) for (let i = 0; i < c.bones.length; i++) frame.length[c.bones[i]!] = beforeLength[i]! * (1 + amount * (drawn - 1))
  placeAffected(scene, c)
  if (c.other >= 0) {
    const own = frame.angle[c.other]!
    const flat = nearestTurn(level - turnAbove(bones, frame, c.other), own)
    frame.angle[c.other] = clampAngle(bones, c.other, own + amount * (flat - own))
    placeAffected(scene, c)
  }
}

/** How far a limb is drawn out to come nearer: as far as is asked, allowed, and as its bones may be. */
function stretchOf({ bones, frame }: Scene, { bones: chain }: RigConstraint, most: number, asked: number): number {
  let drawn = Math.min(most, asked)
  for (let i = 0; i < chain.length; i++) drawn = Math.min(drawn, bones.longest[chain[i]!]! / Math.max(frame.length[chain[i]!]!, 1e-9))
  return Math.max(1, drawn)
}

function copyTurn(scene: Scene, c: RigConstraint, ratio: number): void {
  const { bones, frame } = scene
  const b = c.bones[0]!
  frame.angle[b] = clampAngle(bones, b, frame.angle[b]! + ratio * frame.angle[c.other]!)
  placeAffected(scene, c)
}

function aim(scene: Scene, c: RigConstraint, amount: number): void {
  loadChain(scene, c.bones)
  placeTarget(scene, c.targets[0]!)
  limb.solve(spot[0]!, spot[1]!, 0)
  takeAngles(scene, c.bones, amount)
  placeAffected(scene, c)
}

/** Shifts a bone on the canvas; its own shift is counted in the space of its parent. */
function shiftBone({ bones, frame }: Scene, b: number, dx: number, dy: number): void {
  const under = bones.parent[b]! < 0 ? 0 : frame.turn[bones.parent[b]!]!
  const c = Math.cos(toRadians(under))
  const s = Math.sin(toRadians(under))
  frame.shift[2 * b]! += c * dx - s * dy
  frame.shift[2 * b + 1]! += s * dx + c * dy
}

function keepDistance(scene: Scene, c: RigConstraint, amount: number): void {
  const { source } = c
  if (source.kind !== 'distance') return
  const b = c.bones[0]!
  placeTarget(scene, c.targets[0]!)
  const dx = startOf(scene.bones, scene.frame, b, 0) - spot[0]!
  const dy = startOf(scene.bones, scene.frame, b, 1) - spot[1]!
  const far = Math.sqrt(dx * dx + dy * dy)
  const kept = Math.min(source.most, Math.max(source.least, far))
  if (kept === far) return
  // On the spot itself no direction is better than another: it goes to the right.
  const by = (amount * (kept - far)) / Math.max(far, 1e-9)
  shiftBone(scene, b, far < 1e-9 ? amount * kept : dx * by, far < 1e-9 ? 0 : dy * by)
  placeAffected(scene, c)
}

const curve = new Spline(MOST_CHAINED)
/** Steps in which a curve is walked, a stretch between two points. */
const STEPS = 32

function followPath(scene: Scene, c: RigConstraint, amount: number): void {
  const { pose, slots } = scene
  loadChain(scene, c.bones)
  curve.count = c.targets.length + 1
  curve.points[0] = limb.rootX
  curve.points[1] = limb.rootY
  for (let i = 0; i < c.targets.length; i++) {
    placeTarget(scene, c.targets[i]!)
    curve.points[2 * i + 2] = spot[0]!
    curve.points[2 * i + 3] = spot[1]!
  }
  curve.space()
  curve.fit()
  let t = walkAlong(0, limb.rootX, limb.rootY, pose[slotOf(slots, 'constraint', c.number) + 2]!)
  curve.at(t)
  const dx = amount * (curve.out[0]! - limb.rootX)
  const dy = amount * (curve.out[1]! - limb.rootY)
  let turn = limb.base
  for (let i = 0; i < limb.count; i++) {
    curve.at(t)
    const x = curve.out[0]!
    const y = curve.out[1]!
    const lx = limb.links[2 * i]!
    const ly = limb.links[2 * i + 1]!
    t = chordFrom(t, x, y, Math.sqrt(lx * lx + ly * ly))
    curve.at(t)
    const to = toDegrees(Math.atan2(y - curve.out[1]!, curve.out[0]! - x) - Math.atan2(-ly, lx))
    limb.angles[i] = nearestTurn(to - turn, limb.angles[i]!)
    turn += limb.angles[i]!
  }
  takeAngles(scene, c.bones, amount)
  if (dx !== 0 || dy !== 0) shiftBone(scene, c.bones[0]!, dx, dy)
  placeAffected(scene, c)
}

/** The parameter at a length along the curve from another. */
function walkAlong(t: number, fromX: number, fromY: number, length: number): number {
  if (length <= 0) return t
  const step = curve.end / ((curve.count - 1) * STEPS)
  let left = length
  let x = fromX
  let y = fromY
  for (let at = t; ; at += step) {
    curve.at(at + step)
    const far = Math.hypot(curve.out[0]! - x, curve.out[1]! - y)
    if (far >= left || at > curve.end + length) return at + (step * left) / Math.max(far, 1e-9)
    left -= far
    x = curve.out[0]!
    y = curve.out[1]!
  }
}

/** The next parameter at which the curve is a chord's length away from a spot on it; beyond its end it goes on straight. */
function chordFrom(t: number, x: number, y: number, length: number): number {
  const step = Math.min(curve.end / ((curve.count - 1) * STEPS), Math.max(length, 1e-6))
  let low = t
  let high = t
  const most = t + curve.end + 4 * length + step
  for (;;) {
    high = low + step
    curve.at(high)
    if (Math.hypot(curve.out[0]! - x, curve.out[1]! - y) >= length || high > most) break
    low = high
  }
  for (let round = 0; round < 40; round++) {
    const middle = (low + high) / 2
    curve.at(middle)
    if (Math.hypot(curve.out[0]! - x, curve.out[1]! - y) >= length) high = middle
    else low = middle
  }
  return high
}
