/** Posing by dragging: turns a grabbed bone, or reaches with the limb that it ends. */
import { boneChannel } from '../document/channels'
import type { Vec } from '../document/schema'
import { nearestTurn, reachWithTwo, turnBetween } from '../solve/reach'
import { toDegrees } from '../geometry/affine'
import { boneSlot } from './compile'
import type { Frame } from './evaluate'
import { bonePoint } from './probe'

/** A bone in the hand: `upper` and `lower` answer to the drag, `grab` is the held spot at rest. */
export interface Grab {
  readonly kind: 'turn' | 'reach'
  readonly upper: number
  readonly lower: number
  readonly grab: Vec
  /** Pose in which the drag began. */
  readonly angles: readonly [number, number]
}

const JOINED = 2

/** Bones that follow each other end to start, from a bone upwards, itself first. */
function limbAbove(frame: Frame, bone: number): number[] {
  const { parent, start, end } = frame.rig.bones
  const out = [bone]
  for (let b = bone; parent[b]! >= 0; b = parent[b]!) {
    const p = parent[b]!
    if (Math.hypot(end[2 * p]! - start[2 * b]!, end[2 * p + 1]! - start[2 * b + 1]!) > JOINED) break
    out.push(p)
  }
  return out
}

/**
 * Takes hold of a bone at a spot of the posed canvas.
 *
 * `tip` means that the end of the limb is held: two bones answer. A short last bone (a hand, a foot) is carried by
 * the two above it; otherwise the bone itself and its parent reach. Without enough bones the bone is turned.
 */
export function grabBone(frame: Frame, pose: Float64Array, bone: number, spot: Vec, tip: boolean): Grab {
  const limb = limbAbove(frame, bone)
  const isLast = !frame.rig.bones.parent.includes(bone)
  const [upper, lower] = tip && isLast && limb.length >= 3 ? [limb[2]!, limb[1]!] : [limb[1], bone]
  if (!tip || upper === undefined) {
    return {
      kind: 'turn',
      upper: bone,
      lower: bone,
      grab: toRest(frame, bone, spot),
      angles: [pose[boneSlot(bone)]!, pose[boneSlot(bone)]!],
    }
  }
  return { kind: 'reach', upper, lower, grab: toRest(frame, lower, spot), angles: [pose[boneSlot(upper)]!, pose[boneSlot(lower)]!] }
}

/** The spot of the rest canvas that a bone has moved to a spot of the posed canvas. Bones only turn: the inverse is exact. */
function toRest(frame: Frame, bone: number, spot: Vec): Vec {
  const m = frame.bones
  const k = 6 * bone
  const x = spot.x - m[k + 4]!
  const y = spot.y - m[k + 5]!
  return { x: m[k]! * x + m[k + 1]! * y, y: m[k + 2]! * x + m[k + 3]! * y }
}

/** Bone angles (by channel) that bring the held spot to a target, or as near as lengths and limits allow. */
export function dragTo(frame: Frame, held: Grab, target: Vec): Record<string, number> {
  const { ids, parent, start, min, max } = frame.rig.bones
  const { upper, lower, grab, angles } = held
  const restStart = (bone: number): Vec => ({ x: start[2 * bone]!, y: start[2 * bone + 1]! })
  const limitsOf = (bone: number) => ({ min: min[bone]!, max: max[bone]! })
  const root = bonePoint(frame, upper, 0)
  const above = parent[upper]!
  const base = above < 0 ? 0 : toDegrees(Math.atan2(-frame.bones[6 * above + 1]!, frame.bones[6 * above]!))
  const from = restStart(upper)
  if (held.kind === 'turn') {
    const arm = { x: grab.x - from.x, y: grab.y - from.y }
    const angle = nearestTurn(turnBetween(arm, { x: target.x - root.x, y: target.y - root.y }) - base, angles[0])
    return { [boneChannel(ids[upper]!, 'angle')]: Math.min(max[upper]!, Math.max(min[upper]!, angle)) }
  }
  const knee = restStart(lower)
  const limb = {
    root,
    base,
    upper: { x: knee.x - from.x, y: knee.y - from.y },
    lower: { x: grab.x - knee.x, y: grab.y - knee.y },
    angles,
    limits: [limitsOf(upper), limitsOf(lower)] as const,
  }
  const [first, second] = reachWithTwo(limb, target)
  return { [boneChannel(ids[upper]!, 'angle')]: first, [boneChannel(ids[lower]!, 'angle')]: second }
}
