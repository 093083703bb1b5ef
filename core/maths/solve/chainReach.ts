/**
 * Limbs that reach: bones that hang one from the other, their last end brought to a target within limits.
 *
 * Two bones are solved by the law of cosines. Longer ones by forward and backward reaching (FABRIK, Aristidou and
 * Lasenby 2011): joints are drawn after the target from the tip inwards, then back to the root outwards, where each
 * bone takes the direction that it was drawn to, brought inside its limits. What limits keep from settling is finished
 * by turning single bones (cyclic coordinate descent, Wang and Chen 1991), and what is nearly stretched out by damped
 * least squares on all angles (Wampler 1986, damping after Marquardt 1963).
 *
 * Buffers are made once; solving allocates nothing. Angles are degrees from rest, counter-clockwise on screen (y down).
 */
import { toDegrees, toRadians } from '../geometry/affine'

/** Distance at which a target counts as reached, px. */
const CLOSE_ENOUGH = 0.01
const ROUNDS = 48
/** Bends from which a search starts where the present pose leads nowhere, degrees a bone. */
const STARTS = [40, 100] as const

/** An angle in degrees brought to within half a turn of another, so that a drag never jumps by a full turn. */
export const nearestTurn = (degrees: number, to: number): number => degrees - 360 * Math.round((degrees - to) / 360)

/** Direction of a vector in degrees, counter-clockwise on screen. */
const direction = (x: number, y: number): number => toDegrees(Math.atan2(-y, x))

/** Lets a chain reach for a spot; keeps its scratch memory between calls. */
export class ChainReach {
  /** Bones in use; the first `count` entries of all arrays. */
  count = 0
  /** Start of the first bone, and the turn of everything above it. */
  rootX = 0
  rootY = 0
  base = 0
  /** [2n] rest vectors from each bone's start to the next one's, the last to the tip. */
  readonly links: Float64Array
  /** [n] present angles; solving overwrites them. */
  readonly angles: Float64Array
  /** [n] */
  readonly min: Float64Array
  readonly max: Float64Array
  /** [2(n+1)] joints of the angles last looked at, the root first. */
  readonly joints: Float64Array
  private readonly lengths: Float64Array
  private readonly trial: Float64Array
  private readonly best: Float64Array
  private readonly start: Float64Array
  /** [n] 1 for joints that their limits hold during a step. */
  private readonly held: Uint8Array
  private bestMiss = Infinity
  private tipX = 0
  private tipY = 0
  private missX = 0
  private missY = 0
  private pullX = 0
  private pullY = 0

  constructor(most: number) {
    this.links = new Float64Array(2 * most)
    this.angles = new Float64Array(most)
    this.min = new Float64Array(most)
    this.max = new Float64Array(most)
    this.joints = new Float64Array(2 * most + 2)
    this.lengths = new Float64Array(most)
    this.trial = new Float64Array(most)
    this.best = new Float64Array(most)
    this.start = new Float64Array(most)
    this.held = new Uint8Array(most)
  }

  /** Sum of the bones' lengths. */
  reach(): number {
    let sum = 0
    for (let i = 0; i < this.count; i++) sum += Math.hypot(this.links[2 * i]!, this.links[2 * i + 1]!)
    return sum
  }

  /**
   * Turns the bones so that the tip comes to a target, or as near as lengths and limits allow.
   *
   * @param side to which the limb bends: 1 counter-clockwise, -1 clockwise, 0 as it does now
   * @returns the distance that is left
   */
  solve(x: number, y: number, side: number): number {
    if (this.count === 1) this.aim(x, y)
    else if (this.count === 2) this.solveTwo(x, y, side)
    else this.solveMany(x, y, side)
    return this.missOf(this.angles, x, y)
  }

  private clamp(i: number, angle: number): number {
    return Math.min(this.max[i]!, Math.max(this.min[i]!, angle))
  }

  /** Places the joints at given angles; returns the distance of the tip from a spot. */
  missOf(angles: Float64Array, x: number, y: number): number {
    this.place(angles)
    return Math.hypot(this.joints[2 * this.count]! - x, this.joints[2 * this.count + 1]! - y)
  }

  /** Places the joints at given angles. */
  place(angles: Float64Array): void {
    const { joints, links } = this
    let turn = this.base
    joints[0] = this.rootX
    joints[1] = this.rootY
    for (let i = 0; i < this.count; i++) {
      turn += angles[i]!
      const c = Math.cos(toRadians(turn))
      const s = Math.sin(toRadians(turn))
      joints[2 * i + 2] = joints[2 * i]! + c * links[2 * i]! + s * links[2 * i + 1]!
      joints[2 * i + 3] = joints[2 * i + 1]! - s * links[2 * i]! + c * links[2 * i + 1]!
    }
  }

  private aim(x: number, y: number): void {
    const { links, angles } = this
    const dx = x - this.rootX
    const dy = y - this.rootY
    if (dx * dx + dy * dy < 1e-18 || this.reach() < 1e-9) return
    const wanted = direction(dx, dy) - direction(links[0]!, links[1]!) - this.base
    angles[0] = this.clamp(0, nearestTurn(wanted, angles[0]!))
  }

  /** Two bones by the law of cosines; with the lower one settled, the whole limb turns until the tip points at the target. */
  private solveTwo(x: number, y: number, side: number): void {
    const { links, angles } = this
    const a = Math.hypot(links[0]!, links[1]!)
    const b = Math.hypot(links[2]!, links[3]!)
    const dx = x - this.rootX
    const dy = y - this.rootY
    const wanted = Math.hypot(dx, dy)
    const distance = Math.min(a + b, Math.max(Math.abs(a - b), wanted))
    const cosine = (a * a + b * b - distance * distance) / Math.max(2 * a * b, 1e-12)
    const bend = 180 - toDegrees(Math.acos(Math.min(1, Math.max(-1, cosine))))
    const restBend = nearestTurn(direction(links[2]!, links[3]!) - direction(links[0]!, links[1]!), 0)
    angles[1] = this.lowerAngle(bend, restBend, side)
    if (wanted < 1e-9) return
    const c = Math.cos(toRadians(angles[1]))
    const s = Math.sin(toRadians(angles[1]))
    const tipX = links[0]! + c * links[2]! + s * links[3]!
    const tipY = links[1]! - s * links[2]! + c * links[3]!
    if (tipX * tipX + tipY * tipY < 1e-18) return
    const upper = direction(dx, dy) - direction(tipX, tipY) - this.base
    angles[0] = this.clamp(0, nearestTurn(upper, angles[0]!))
  }

  /** The lower bone's angle for a bend: to the wanted or present side if limits allow it, else the other, else the nearer. */
  private lowerAngle(bend: number, restBend: number, side: number): number {
    const present = nearestTurn(restBend + this.angles[1]!, 0)
    const to = side !== 0 ? side : Math.abs(present) > 0.5 ? Math.sign(present) : this.roomySide(restBend)
    const first = nearestTurn(to * bend - restBend, this.angles[1]!)
    const second = nearestTurn(-to * bend - restBend, this.angles[1]!)
    const pick = Math.abs(this.clamp(1, second) - second) < Math.abs(this.clamp(1, first) - first) - 1e-6 ? second : first
    return this.clamp(1, pick)
  }

  /** The side with more room within the limits of the lower bone. */
  private roomySide(restBend: number): number {
    const up = Math.min(this.max[1]!, 180) + restBend
    const down = -Math.max(this.min[1]!, -180) - restBend
    return up >= down ? 1 : -1
  }

  private solveMany(x: number, y: number, side: number): void {
    const { angles, start, best } = this
    for (let i = 0; i < this.count; i++) this.lengths[i] = Math.hypot(this.links[2 * i]!, this.links[2 * i + 1]!)
    this.bestMiss = Infinity
    start.set(angles)
    const isFar = this.isOutOfReach(x, y)
    const order = side < 0 ? -1 : 1
    // A side that is asked for is searched first from chains bent that way, and evenly; else the present pose comes first.
    const isAsked = side !== 0 && this.bendOf() * side <= 0
    if (!isAsked) this.searchFrom(-1, 0, x, y)
    for (let k = 0; k < 4 && this.bestMiss >= CLOSE_ENOUGH && !(isFar && this.bestMiss < Infinity); k++)
      this.searchFrom(k, (k % 2 === 0 ? order : -order) * STARTS[k >> 1]!, x, y)
    angles.set(best)
  }

  /** Which way the present pose bends as a whole, degrees. */
  private bendOf(): number {
    let sum = 0
    for (let i = 1; i < this.count; i++) sum += this.start[i]!
    return sum
  }

  private isOutOfReach(x: number, y: number): boolean {
    let sum = 0
    let longest = 0
    for (let i = 0; i < this.count; i++) {
      sum += this.lengths[i]!
      longest = Math.max(longest, this.lengths[i]!)
    }
    const wanted = Math.hypot(x - this.rootX, y - this.rootY)
    return wanted > sum || wanted < 2 * longest - sum
  }

  /** Searches from the present pose (k < 0) or from a chain evenly bent; keeps what comes clearly nearer than what is known. */
  private searchFrom(k: number, bend: number, x: number, y: number): void {
    const { angles, best, trial } = this
    if (k < 0) this.unlock(x, y)
    else this.bendEvenly(bend, x, y)
    trial.set(angles)
    let miss = this.missOf(angles, x, y)
    miss = this.improve(0, miss, x, y)
    miss = this.improve(1, miss, x, y)
    if (miss >= CLOSE_ENOUGH) miss = this.finish(miss, x, y)
    if (miss >= this.bestMiss - CLOSE_ENOUGH) return
    this.bestMiss = miss
    best.set(trial)
  }

  /** Bends all joints alike, then turns the whole so that the tip lies in the direction of the target. */
  private bendEvenly(bend: number, x: number, y: number): void {
    const { angles, joints, count } = this
    for (let i = 0; i < count; i++) angles[i] = this.clamp(i, bend)
    this.place(angles)
    const to = direction(x - this.rootX, y - this.rootY)
    const tip = direction(joints[2 * count]! - this.rootX, joints[2 * count + 1]! - this.rootY)
    angles[0] = this.clamp(0, nearestTurn(angles[0]! + to - tip, this.start[0]!))
  }

  /** Runs rounds of drawing (0) or turning (1) while they bring the tip nearer; the best angles are left in `trial`. */
  private improve(how: number, miss: number, x: number, y: number): number {
    const { angles, trial } = this
    let least = miss
    for (let round = 0; round < ROUNDS && least >= CLOSE_ENOUGH; round++) {
      if (how === 0) this.draw(x, y)
      else for (let i = this.count - 1; i >= 0; i--) this.turnOne(i, x, y)
      const now = this.missOf(angles, x, y)
      const gained = least - now
      if (gained > 0) {
        trial.set(angles)
        least = now
      }
      if (gained < 1e-6) break
    }
    angles.set(trial)
    return least
  }

  /** One round of drawing inwards and turning outwards. */
  private draw(x: number, y: number): void {
    const { joints, links, lengths, angles, count } = this
    this.place(angles)
    joints[2 * count] = x
    joints[2 * count + 1] = y
    for (let i = count - 1; i >= 0; i--) {
      const dx = joints[2 * i]! - joints[2 * i + 2]!
      const dy = joints[2 * i + 1]! - joints[2 * i + 3]!
      const size = Math.sqrt(dx * dx + dy * dy)
      const far = size < 1e-12
      joints[2 * i] = joints[2 * i + 2]! + (far ? lengths[i]! : (dx * lengths[i]!) / size)
      joints[2 * i + 1] = joints[2 * i + 3]! + (far ? 0 : (dy * lengths[i]!) / size)
    }
    let fromX = this.rootX
    let fromY = this.rootY
    let turn = this.base
    for (let i = 0; i < count; i++) {
      const dx = joints[2 * i + 2]! - fromX
      const dy = joints[2 * i + 3]! - fromY
      if (dx * dx + dy * dy >= 1e-18 && lengths[i]! > 1e-9) {
        const wanted = direction(dx, dy) - direction(links[2 * i]!, links[2 * i + 1]!) - turn
        angles[i] = this.clamp(i, nearestTurn(wanted, angles[i]!))
      }
      turn += angles[i]!
      const c = Math.cos(toRadians(turn))
      const s = Math.sin(toRadians(turn))
      fromX += c * links[2 * i]! + s * links[2 * i + 1]!
      fromY += -s * links[2 * i]! + c * links[2 * i + 1]!
    }
  }

  private turnOne(i: number, x: number, y: number): void {
    const { joints, angles, count } = this
    this.place(angles)
    const nowX = joints[2 * count]! - joints[2 * i]!
    const nowY = joints[2 * count + 1]! - joints[2 * i + 1]!
    const goalX = x - joints[2 * i]!
    const goalY = y - joints[2 * i + 1]!
    if (nowX * nowX + nowY * nowY < 1e-18 || goalX * goalX + goalY * goalY < 1e-18) return
    angles[i] = this.clamp(i, angles[i]! + nearestTurn(direction(goalX, goalY) - direction(nowX, nowY), 0))
  }

  /** Damped least squares on all angles at once: converges where the other steps creep, on chains nearly stretched out. */
  private finish(miss: number, x: number, y: number): number {
    const { angles, trial } = this
    let least = miss
    let damping = 1e-3
    for (let round = 0; round < 4 * ROUNDS && least >= CLOSE_ENOUGH && damping < 1e6; round++) {
      this.turnAll(x, y, damping)
      const now = this.missOf(angles, x, y)
      if (now < least) {
        least = now
        trial.set(angles)
        damping *= 0.3
      } else {
        angles.set(trial)
        damping *= 5
      }
    }
    angles.set(trial)
    return least
  }

  /**
   * One step on all angles: a joint that its limit stops goes as far as it may and is held there, and the others make
   * up for what it falls short (clamping of redundant joints, Baerlocher and Boulic 2004).
   */
  private turnAll(x: number, y: number, damping: number): void {
    const { joints, angles, held, count } = this
    this.place(angles)
    this.tipX = joints[2 * count]!
    this.tipY = joints[2 * count + 1]!
    this.missX = x - this.tipX
    this.missY = y - this.tipY
    held.fill(0)
    while (this.solveFree(damping) && this.holdStopped());
    for (let i = 0; i < count; i++) if (held[i] === 0) angles[i] = this.clamp(i, angles[i]! + this.stepOf(i))
  }

  // The way of the tip for a small turn of joint i is (wayX, wayY).
  private wayX(i: number): number {
    return this.tipY - this.joints[2 * i + 1]!
  }

  private wayY(i: number): number {
    return this.joints[2 * i]! - this.tipX
  }

  /** Turn of a free joint by the last solution, degrees. */
  private stepOf(i: number): number {
    return toDegrees(this.wayX(i) * this.pullX + this.wayY(i) * this.pullY)
  }

  /** Solves for what is missed with the joints that are not held; false where nothing is left that could turn. */
  private solveFree(damping: number): boolean {
    let xx = 0
    let xy = 0
    let yy = 0
    for (let i = 0; i < this.count; i++) {
      if (this.held[i] !== 0) continue
      const wx = this.wayX(i)
      const wy = this.wayY(i)
      xx += wx * wx
      xy += wx * wy
      yy += wy * wy
    }
    const extra = damping * (xx + yy)
    xx += extra
    yy += extra
    const det = xx * yy - xy * xy
    const isSolved = det > 0
    this.pullX = isSolved ? (yy * this.missX - xy * this.missY) / det : 0
    this.pullY = isSolved ? (xx * this.missY - xy * this.missX) / det : 0
    return isSolved
  }

  /** Brings joints that would leave their limits to them; whether there were any. */
  private holdStopped(): boolean {
    let isAny = false
    for (let i = 0; i < this.count; i++) {
      if (this.held[i] !== 0) continue
      const wanted = this.angles[i]! + this.stepOf(i)
      const allowed = this.clamp(i, wanted)
      if (allowed === wanted) continue
      const turned = toRadians(allowed - this.angles[i]!)
      this.missX -= turned * this.wayX(i)
      this.missY -= turned * this.wayY(i)
      this.angles[i] = allowed
      this.held[i] = 1
      isAny = true
    }
    return isAny
  }

  /** Takes the starting angles; a straight chain whose target lies on its line gives way a little at every joint, where it may. */
  private unlock(x: number, y: number): void {
    const { joints, angles, start, count } = this
    angles.set(start)
    this.place(start)
    const ax = joints[2 * count]! - this.rootX
    const ay = joints[2 * count + 1]! - this.rootY
    const size = Math.hypot(ax, ay)
    const off = (px: number, py: number): number => Math.abs((px - this.rootX) * ay - (py - this.rootY) * ax) / Math.max(size, 1e-9)
    if (off(x, y) > 1e-3 * size) return
    for (let i = 1; i < count; i++) if (off(joints[2 * i]!, joints[2 * i + 1]!) > 1e-3 * size) return
    for (let i = 0; i < count; i++) {
      const up = this.max[i]! - start[i]! >= start[i]! - this.min[i]!
      angles[i] = this.clamp(i, start[i]! + (up ? 3 : -3))
    }
  }
}

/**
 * How far a limb is drawn towards a distance: as it comes near full extension it eases in, so that no joint snaps.
 *
 * @param distance wanted from root to tip
 * @param length of the limb stretched out
 * @param soft share of the length over which it eases; 0 for none
 */
export function softDistance(distance: number, length: number, soft: number): number {
  const from = length * (1 - soft)
  if (soft <= 0 || distance <= from) return distance
  const room = length - from
  return from + room * (1 - Math.exp(-(distance - from) / room))
}
