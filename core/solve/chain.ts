/** Chains of any length that reach for a target within their limits. */
import type { Vec } from '../document/schema'
import { toDegrees, toRadians } from '../geometry/affine'
import { clampAngle, nearestTurn, turnBetween, type AngleRange } from './reach'

export interface Chain {
  /** Start of the first bone in the pose. */
  readonly root: Vec
  /** Turn of everything above the first bone, degrees. */
  readonly base: number
  /** Rest vectors from each bone's start to the next one's, the last to the grabbed spot. */
  readonly links: readonly Vec[]
  /** Present angles, degrees from rest: where the search starts. */
  readonly angles: readonly number[]
  readonly limits: readonly AngleRange[]
}

const CLOSE_ENOUGH = 0.01
const ROUNDS = 48

/** A vector turned counter-clockwise on screen (y down). */
function turned(v: Vec, degrees: number): Vec {
  const c = Math.cos(toRadians(degrees))
  const s = Math.sin(toRadians(degrees))
  return { x: c * v.x + s * v.y, y: -s * v.x + c * v.y }
}

/** Joints of a chain at given angles, the root first and the grabbed spot last. */
export function jointsOf(chain: Chain, angles: readonly number[]): Vec[] {
  const out = [chain.root]
  let turn = chain.base
  for (const [i, link] of chain.links.entries()) {
    turn += angles[i]!
    const step = turned(link, turn)
    const from = out[i]!
    out.push({ x: from.x + step.x, y: from.y + step.y })
  }
  return out
}

const distance = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

/** The point at a distance from `from` towards `to`. */
function towards(from: Vec, to: Vec, length: number): Vec {
  const size = distance(from, to)
  return size < 1e-12
    ? { x: from.x + length, y: from.y }
    : { x: from.x + ((to.x - from.x) * length) / size, y: from.y + ((to.y - from.y) * length) / size }
}

interface Reached {
  readonly angles: number[]
  /** Distance from the target that is left. */
  readonly miss: number
}

/**
 * Angles that bring the grabbed spot to a target, or as near as lengths and limits allow.
 *
 * Forward and backward reaching (FABRIK, Aristidou and Lasenby 2011): the joints are drawn after the target from the
 * spot inwards, then back to the root outwards, where each bone takes the direction that it was drawn to, brought
 * inside its limits. What limits keep from settling is finished by turning single bones towards the target (cyclic
 * coordinate descent, Wang and Chen 1991), and what is nearly stretched out by least squares. The search starts from the present pose, which keeps the bend; only where
 * that leads nowhere, from chains that are bent one way and the other.
 */
export function reachWithChain(chain: Chain, target: Vec): number[] {
  let best: Reached | null = null
  for (const start of [unlocked(chain, target), ...bentStarts(chain)]) {
    const reached = searchFrom(chain, target, start)
    if (!best || reached.miss < best.miss - CLOSE_ENOUGH) best = reached
    if (best.miss < CLOSE_ENOUGH || isOutOfReach(chain, target)) break
  }
  return best!.angles
}

function isOutOfReach(chain: Chain, target: Vec): boolean {
  const lengths = chain.links.map((v) => Math.hypot(v.x, v.y))
  const sum = lengths.reduce((a, b) => a + b, 0)
  const wanted = distance(chain.root, target)
  return wanted > sum || wanted < 2 * Math.max(...lengths) - sum
}

/** Chains bent evenly to either side, a little and a lot, as far as limits allow. */
const bentStarts = (chain: Chain): number[][] => [40, -40, 100, -100].map((bend) => chain.limits.map((range) => clampAngle(bend, range)))

function searchFrom(chain: Chain, target: Vec, start: readonly number[]): Reached {
  const lengths = chain.links.map((v) => Math.hypot(v.x, v.y))
  let angles = [...start]
  let best: Reached = { angles, miss: distance(jointsOf(chain, angles).at(-1)!, target) }
  /** Runs rounds of a step while they bring the spot nearer. */
  const improve = (step: () => void): void => {
    for (let round = 0; round < ROUNDS && best.miss >= CLOSE_ENOUGH; round++) {
      step()
      const miss = distance(jointsOf(chain, angles).at(-1)!, target)
      const gained = best.miss - miss
      if (gained > 0) best = { angles: [...angles], miss }
      if (gained < 1e-6) break
    }
    angles = [...best.angles]
  }
  improve(() => {
    const joints = jointsOf(chain, angles)
    drawInwards(joints, lengths, target)
    angles = turnOutwards(chain, joints, angles)
  })
  improve(() => {
    for (let i = angles.length - 1; i >= 0; i--) turnOne(chain, angles, i, target)
  })
  return best.miss < CLOSE_ENOUGH ? best : finish(chain, target, best)
}

/**
 * Damped least squares on all angles at once (Wampler 1986, damping after Marquardt 1963): converges where the other
 * steps creep, on chains that are nearly stretched out.
 */
function finish(chain: Chain, target: Vec, start: Reached): Reached {
  let best = start
  let damping = 1e-3
  for (let round = 0; round < 4 * ROUNDS && best.miss >= CLOSE_ENOUGH && damping < 1e6; round++) {
    const angles = turnAll(chain, best.angles, target, damping)
    const miss = distance(jointsOf(chain, angles).at(-1)!, target)
    const isBetter = miss < best.miss
    if (isBetter) best = { angles, miss }
    damping *= isBetter ? 0.3 : 5
  }
  return best
}

function turnAll(chain: Chain, angles: readonly number[], target: Vec, damping: number): number[] {
  const joints = jointsOf(chain, angles)
  const spot = joints.at(-1)!
  // Way of the spot for a small turn of each joint, counter-clockwise on screen.
  const ways = angles.map((_, i) => ({ x: spot.y - joints[i]!.y, y: joints[i]!.x - spot.x }))
  let xx = 0
  let xy = 0
  let yy = 0
  for (const { x, y } of ways) {
    xx += x * x
    xy += x * y
    yy += y * y
  }
  const extra = damping * (xx + yy)
  xx += extra
  yy += extra
  const det = xx * yy - xy * xy
  if (!(det > 0)) return [...angles]
  const ex = target.x - spot.x
  const ey = target.y - spot.y
  const ux = (yy * ex - xy * ey) / det
  const uy = (xx * ey - xy * ex) / det
  return angles.map((angle, i) => clampAngle(angle + toDegrees(ways[i]!.x * ux + ways[i]!.y * uy), chain.limits[i]!))
}

/** A straight chain whose target lies on its line cannot start to bend: every joint gives way a little, where it may. */
function unlocked(chain: Chain, target: Vec): number[] {
  const joints = jointsOf(chain, chain.angles)
  const [root, spot] = [joints[0]!, joints.at(-1)!]
  const size = distance(root, spot)
  const off = (p: Vec): number => Math.abs((p.x - root.x) * (spot.y - root.y) - (p.y - root.y) * (spot.x - root.x)) / Math.max(size, 1e-9)
  if (joints.some((p) => off(p) > 1e-3 * size) || off(target) > 1e-3 * size) return [...chain.angles]
  return chain.angles.map((angle, i) => {
    const { min, max } = chain.limits[i]!
    return clampAngle(angle + (max - angle >= angle - min ? 3 : -3), chain.limits[i]!)
  })
}

function drawInwards(joints: Vec[], lengths: readonly number[], target: Vec): void {
  joints[joints.length - 1] = target
  for (let i = joints.length - 2; i >= 0; i--) joints[i] = towards(joints[i + 1]!, joints[i]!, lengths[i]!)
}

/** From the root outwards each bone points at its drawn joint, as far as its limits let it. */
function turnOutwards(chain: Chain, joints: readonly Vec[], before: readonly number[]): number[] {
  const angles: number[] = []
  let from = chain.root
  let turn = chain.base
  for (const [i, link] of chain.links.entries()) {
    const goal = { x: joints[i + 1]!.x - from.x, y: joints[i + 1]!.y - from.y }
    const wanted = Math.hypot(goal.x, goal.y) < 1e-9 ? before[i]! : nearestTurn(turnBetween(turned(link, turn), goal), before[i]!)
    angles.push(clampAngle(wanted, chain.limits[i]!))
    turn += angles[i]!
    const step = turned(link, turn)
    from = { x: from.x + step.x, y: from.y + step.y }
  }
  return angles
}

function turnOne(chain: Chain, angles: number[], i: number, target: Vec): void {
  const joints = jointsOf(chain, angles)
  const at = joints[i]!
  const spot = joints.at(-1)!
  const now = { x: spot.x - at.x, y: spot.y - at.y }
  const goal = { x: target.x - at.x, y: target.y - at.y }
  if (Math.hypot(now.x, now.y) < 1e-9 || Math.hypot(goal.x, goal.y) < 1e-9) return
  angles[i] = clampAngle(angles[i]! + turnBetween(now, goal), chain.limits[i]!)
}
