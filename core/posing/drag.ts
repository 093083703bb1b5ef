/** Posing by dragging: turns a grabbed bone, reaches with the limb that ends in it, or moves the root. */
import type { Vec } from '../kernel/numbers'
import { affineAt, apply, invert } from '../maths/geometry/affine'
import { reachWithChain } from '../maths/solve/chain'
import { nearestTurn, turnBetween } from '../maths/solve/reach'
import { bonePoint } from '../puppet/probe'
import { slotOf } from '../kernel/slots'
import { limbUpTo } from '../bones/tree'
import { boneChannel, boneSlot } from '../bones/channels'
import { targetPlace, type Frame } from '../puppet/frame'

/** Where a bone was taken hold of: by its rod it turns, by its bead or by its drawing it is reached with, by its ring it is moved. */
export type Handle = 'rod' | 'bead' | 'ring' | 'drawing'

/** Bones in the hand: `bones` answer to the drag, outermost last; `grab` is the held spot at rest. */
export interface Grab {
  readonly kind: 'turn' | 'reach' | 'move'
  readonly bones: readonly number[]
  readonly grab: Vec
  /** Angles of the bones when they were last shown, degrees. */
  readonly angles: readonly number[]
}

const branchesOf = ({ rig }: Frame, bone: number): number => rig.puppet.bones[rig.bones.ids[bone]!]!.children.length

/** The limb that ends with a bone, from the bone upwards. */
const limbAbove = ({ rig: { puppet, bones } }: Frame, bone: number): number[] =>
  limbUpTo(puppet, bones.ids[bone]!)
    .map((id) => bones.index.get(id)!)
    .reverse()

/**
 * Takes hold of a bone at a spot of the posed canvas.
 *
 * Reaching takes the whole limb above the bone. A short last bone of three (a hand, a foot) is carried by the two
 * above it. A bone without a limb above is turned; a root is moved by its ring, or by its drawing if it branches.
 */
export function grabBone(frame: Frame, pose: Float64Array, bone: number, spot: Vec, handle: Handle): Grab {
  const { parent } = frame.rig.bones
  const isRoot = parent[bone]! < 0
  if (isRoot && (handle === 'ring' || (handle === 'drawing' && branchesOf(frame, bone) > 1)))
    return { kind: 'move', bones: [bone], grab: toRest(frame, bone, spot), angles: [0] }
  const limb = limbAbove(frame, bone)
  const isLast = !parent.includes(bone)
  if ((handle !== 'bead' && handle !== 'drawing') || limb.length < 2) return hold('turn', frame, pose, [bone], spot)
  // The hand goes along with the arm; a tail or a neck bends as a whole.
  const carried = isLast && limb.length === 3
  const bones = (carried ? limb.slice(1) : limb).reverse()
  return hold('reach', frame, pose, bones, spot)
}

const hold = (kind: Grab['kind'], frame: Frame, pose: Float64Array, bones: readonly number[], spot: Vec): Grab => ({
  kind,
  bones,
  grab: toRest(frame, bones.at(-1)!, spot),
  angles: anglesOf(pose, bones),
})

const anglesOf = (pose: Float64Array, bones: readonly number[]): number[] => bones.map((b) => pose[boneSlot(b)]!)

/** The grab with the angles that are shown now: bend sides are chosen against them, so that nothing flips under way. */
export const followPose = (held: Grab, pose: Float64Array): Grab => ({ ...held, angles: anglesOf(pose, held.bones) })

/** The spot of the rest canvas that a bone has moved to a spot of the posed canvas. */
export function toRest(frame: Frame, bone: number, spot: Vec): Vec {
  const back = invert(affineAt(frame.bones, 6 * bone))
  return back ? apply(back, spot) : spot
}

/** Values of channels that bring the held spot to a target, or as near as lengths and limits allow. */
export function dragTo(frame: Frame, pose: Float64Array, held: Grab, target: Vec): Record<string, number> {
  const { ids, parent, start, min, max } = frame.rig.bones
  const { bones, grab, angles } = held
  if (held.kind === 'move') return moveRoot(frame, pose, bones[0]!, grab, target)
  const restStart = (bone: number): Vec => ({ x: start[2 * bone]!, y: start[2 * bone + 1]! })
  const above = parent[bones[0]!]!
  const base = above < 0 ? 0 : frame.skeleton.turn[above]!
  const root = bonePoint(frame, bones[0]!, 0)
  const links = bones.map((bone, i) => {
    const from = restStart(bone)
    const to = i + 1 < bones.length ? restStart(bones[i + 1]!) : grab
    return { x: to.x - from.x, y: to.y - from.y }
  })
  const limits = bones.map((bone) => ({ min: min[bone]!, max: max[bone]! }))
  const values = solve(held, { root, base, links, angles, limits }, target)
  return Object.fromEntries(bones.map((bone, i) => [boneChannel(ids[bone]!, 'angle'), values[i]!]))
}

function solve(held: Grab, chain: Parameters<typeof reachWithChain>[0], target: Vec): number[] {
  const { root, base, links, angles, limits } = chain
  if (held.kind === 'turn') {
    const angle = nearestTurn(turnBetween(links[0]!, { x: target.x - root.x, y: target.y - root.y }) - base, angles[0]!)
    return [Math.min(limits[0]!.max, Math.max(limits[0]!.min, angle))]
  }
  return reachWithChain(chain, target)
}

/**
 * The target that leads a bone: of an acting reach or path that moves it, the one nearest to a spot. A bone that is led
 * goes where its target goes, and nowhere by itself. Null where nothing leads it.
 */
export function leadingTarget(frame: Frame, pose: Float64Array, bone: number, spot: Vec): string | null {
  const { constraints, slots, puppet } = frame.rig
  const leads = constraints.list.flatMap(({ source, number, bones, other }) => {
    if (pose[slotOf(slots, 'constraint', number)]! <= 0) return []
    if (source.kind === 'reach' && (bones.includes(bone) || other === bone)) return [source.target]
    return source.kind === 'path' && bones.includes(bone) ? source.targets : []
  })
  const far = (id: string): number => {
    const { x, y } = targetPlace(frame, id)
    return Math.hypot(x - spot.x, y - spot.y)
  }
  return leads.filter((id) => puppet.targets[id]).sort((a, b) => far(a) - far(b))[0] ?? null
}

/** Shifts a root so that the held spot comes to the target; its turn stays. */
function moveRoot(frame: Frame, pose: Float64Array, bone: number, grab: Vec, target: Vec): Record<string, number> {
  const id = frame.rig.bones.ids[bone]!
  const m = frame.bones
  const k = 6 * bone
  const now = { x: m[k]! * grab.x + m[k + 2]! * grab.y + m[k + 4]!, y: m[k + 1]! * grab.x + m[k + 3]! * grab.y + m[k + 5]! }
  return {
    [boneChannel(id, 'x')]: pose[boneSlot(bone) + 1]! + target.x - now.x,
    [boneChannel(id, 'y')]: pose[boneSlot(bone) + 2]! + target.y - now.y,
  }
}
