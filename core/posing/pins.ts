/**
 * Posing with pins: spots of the puppet stay where they are while another is pulled. All bones that lead to a pin or to
 * the pulled spot answer, the limb of the pulled spot most readily, by damped least squares on the true motion of the rig,
 * limits and constraints included (after Buss 2009, "Introduction to inverse kinematics").
 */
import type { BoneId } from '../kernel/ids'
import { movedBones } from '../constraints/records'
import type { Vec } from '../kernel/numbers'
import { affineAt, apply } from '../maths/geometry/affine'
import { dampedStep } from '../maths/solve/damped'
import { toRest } from './drag'
import { slotOf } from '../kernel/slots'
import { limbUpTo } from '../bones/tree'
import { boneChannel, boneSlot } from '../bones/channels'
import type { Frame } from '../puppet/frame'
import { poseBones } from '../constraints/stage'
import { makeFrame } from '../puppet/evaluate'

/** A spot that stays: of a bone, where it lies on the canvas at rest. */
export interface PosePin {
  readonly bone: BoneId
  readonly rest: Vec
}

/** The pin that holds a spot of the posed canvas. */
export const posePinAt = (frame: Frame, bone: number, spot: Vec): PosePin => ({
  bone: frame.rig.bones.ids[bone]!,
  rest: toRest(frame, bone, spot),
})

/** Where a pin is in a frame. */
export function pinPlace(frame: Frame, { bone, rest }: PosePin): Vec | null {
  const b = frame.rig.bones.index.get(bone)
  return b === undefined ? null : apply(affineAt(frame.bones, 6 * b), rest)
}

interface Spot {
  readonly bone: number
  readonly rest: Vec
  readonly weight: number
  to: Vec
}

/** The spots that a pin holds: its own, and of a bone that ends a limb the far end, more loosely: a pinned foot stays flat. */
function heldBy(shown: Frame, pin: PosePin): Spot[] {
  const to = pinPlace(shown, pin)
  if (!to) return []
  const { index, parent, start, end } = shown.rig.bones
  const bone = index.get(pin.bone)!
  const own: Spot = { bone, rest: pin.rest, weight: PINNED, to }
  if (parent[bone]! < 0 || parent.includes(bone)) return [own]
  const ends = [start, end].map((list) => ({ x: list[2 * bone]!, y: list[2 * bone + 1]! }))
  const [a, b] = ends.map((p) => Math.hypot(p.x - pin.rest.x, p.y - pin.rest.y))
  const far = ends[a! > b! ? 0 : 1]!
  return [own, { bone, rest: far, weight: LEVELLED, to: apply(affineAt(shown.bones, 6 * bone), far) }]
}

/** A turn of a bone in radians, or a shift of a root in px. */
interface Unknown {
  readonly bone: number
  readonly field: 'angle' | 'x' | 'y'
  readonly slot: number
  /** Room on the scale of steps: how much a px of the step is. */
  readonly mobility: number
}

/** How much more pins count than the pull, and the direction of a bone at the end of a limb, that a pin keeps, too. */
const PINNED = 10
const LEVELLED = 2
/** How readily bones outside of the pulled limb answer, a root turns, and a root shifts; against 1 in the limb. */
const ELSEWHERE = 0.08
const ROOT_TURN = 0.01
const SHIFT = 0.03
const ROUNDS = 40
/** Largest turn in a round, degrees. */
const LARGEST = 15
/** Error at which a spot counts as reached, px. */
const REACHED = 1e-3
/** Sine below which a limb counts as stretched out, and the turn that takes it out of there, degrees. */
const STRAIGHT = 0.03
const NUDGE = 2
/** A joint that bends no further than this to one side, degrees, is meant to bend to the other, like a knee. */
const NARROW = 15

/** A pose in which some spots are pinned down while others are pulled. */
export class PinnedPose {
  private readonly frame: Frame
  private readonly pose: Float64Array
  private readonly spots: Spot[]
  private readonly unknowns: readonly Unknown[]

  /**
   * @param bone that is pulled, at `spot` of the posed canvas
   * @param pins as they are in the frame; those on bones that do not exist are passed over
   */
  constructor(shown: Frame, pose: Float64Array, bone: number, spot: Vec, pins: readonly PosePin[]) {
    const { rig } = shown
    this.frame = makeFrame(rig)
    this.pose = pose.slice()
    const held = pins.flatMap((pin) => heldBy(shown, pin))
    this.spots = [{ bone, rest: toRest(shown, bone, spot), weight: 1, to: spot }, ...held]
    this.unknowns = this.unknownsOf(bone)
  }

  /** Bones that lead to a spot and are moved by no acting constraint, and the roots' shifts. */
  private unknownsOf(pulled: number): Unknown[] {
    const { rig } = this.frame
    const { parent, ids } = rig.bones
    const led = new Set(
      rig.constraints.list
        .filter(({ number }) => this.pose[slotOf(rig.slots, 'constraint', number)]! > 0)
        .flatMap(({ source }) => movedBones(source)),
    )
    const limb = new Set(limbUpTo(rig.puppet, ids[pulled]!))
    const chain = new Set<number>()
    for (const { bone } of this.spots) for (let b = bone; b >= 0; b = parent[b]!) chain.add(b)
    // A turn is as large as the way that it moves the pulled spot by.
    const reach = Math.max(20, ...[...chain].map((b) => this.lengthOf(b))) * 2
    const isRootPulled = parent[pulled]! < 0
    return [...chain]
      .sort((a, b) => a - b)
      .flatMap((bone): Unknown[] => {
        if (led.has(ids[bone]!)) return []
        const slot = boneSlot(bone)
        const isRoot = parent[bone]! < 0
        const ready = isRoot ? ROOT_TURN : limb.has(ids[bone]!) ? 1 : ELSEWHERE
        const turn: Unknown = { bone, field: 'angle', slot, mobility: ready / (reach * reach) }
        if (!isRoot) return [turn]
        const shift = { bone, mobility: isRootPulled ? 1 : SHIFT }
        return [turn, { ...shift, field: 'x', slot: slot + 1 }, { ...shift, field: 'y', slot: slot + 2 }]
      })
  }

  private lengthOf(b: number): number {
    const { start, end } = this.frame.rig.bones
    return Math.hypot(end[2 * b]! - start[2 * b]!, end[2 * b + 1]! - start[2 * b + 1]!)
  }

  /** Values of channels that bring the pulled spot as near to a target as pins, lengths and limits allow. */
  dragTo(target: Vec): Record<string, number> {
    this.spots[0]!.to = target
    const first = this.settle()
    if (first <= REACHED * REACHED) return this.values()
    // Pushed along its own length, a stretched limb does not know which way to bend, or has taken the wrong one.
    const before = this.pose.slice()
    if (this.nudge() && this.settle() >= first) this.pose.set(before)
    return this.values()
  }

  /** Steps until nothing gets better; returns the error that is left. */
  private settle(): number {
    let damping = 1e-3
    let error = this.errorAt(this.pose)
    for (let round = 0; round < ROUNDS && error > REACHED * REACHED && damping < 1e4; round++) {
      const next = this.stepFrom(damping)
      const then = this.errorAt(next)
      const gain = error - then
      if (gain > 0) {
        this.pose.set(next)
        error = then
        damping = Math.max(1e-7, damping / 4)
      } else damping *= 6
      if (gain > 0 && gain < 1e-4 * error) break
    }
    return error
  }

  private values(): Record<string, number> {
    const { ids } = this.frame.rig.bones
    return Object.fromEntries(this.unknowns.map(({ bone, field, slot }) => [boneChannel(ids[bone]!, field), this.pose[slot]!]))
  }

  private placeOf({ bone, rest }: Spot): Vec {
    return apply(affineAt(this.frame.bones, 6 * bone), rest)
  }

  /** Weighted sum of squared distances; leaves the bones of the frame as the pose has them. */
  private errorAt(pose: Float64Array): number {
    poseBones(this.frame.rig, pose, this.frame)
    return this.spots.reduce((sum, spot) => {
      const at = this.placeOf(spot)
      return sum + spot.weight * spot.weight * ((at.x - spot.to.x) ** 2 + (at.y - spot.to.y) ** 2)
    }, 0)
  }

  /** A pose after one damped step; unknowns that would leave their limits stay there, and the others step for them. */
  private stepFrom(damping: number): Float64Array {
    poseBones(this.frame.rig, this.pose, this.frame)
    const { jacobian, residual, weights } = this.equations()
    const mobility = Float64Array.from(this.unknowns, (u) => u.mobility)
    let next = this.pose
    for (let round = 0; round < 4; round++) {
      const step = dampedStep(jacobian, residual, mobility, weights, damping)
      const { pose, stopped } = this.stepped(step, mobility)
      next = pose
      if (stopped.length === 0) break
      for (const v of stopped) mobility[v] = 0
    }
    return next
  }

  private stepped(step: Float64Array, mobility: Float64Array): { pose: Float64Array; stopped: number[] } {
    const { min, max } = this.frame.rig.bones
    const pose = this.pose.slice()
    const stopped: number[] = []
    const degrees = 180 / Math.PI
    const greatest = this.unknowns.reduce((m, u, v) => (u.field === 'angle' ? Math.max(m, Math.abs(step[v]!) * degrees) : m), 0)
    const share = greatest > LARGEST ? LARGEST / greatest : 1
    this.unknowns.forEach(({ bone, field, slot }, v) => {
      if (field !== 'angle') return void (pose[slot]! += share * step[v]!)
      const wanted = this.pose[slot]! + share * step[v]! * degrees
      pose[slot] = Math.min(max[bone]!, Math.max(min[bone]!, wanted))
      if (pose[slot] !== wanted && mobility[v]! > 0) stopped.push(v)
    })
    return { pose, stopped }
  }

  /** Two equations for each spot: how each unknown moves it, and how far it is from where it should be. */
  private equations(): { jacobian: Float64Array[]; residual: Float64Array; weights: Float64Array } {
    const jacobian: Float64Array[] = []
    const residual: number[] = []
    const weights: number[] = []
    for (const spot of this.spots) {
      const at = this.placeOf(spot)
      const [across, down] = [new Float64Array(this.unknowns.length), new Float64Array(this.unknowns.length)]
      this.unknowns.forEach((unknown, v) => {
        const [x, y] = this.motionOf(unknown, spot, at)
        across[v] = x
        down[v] = y
      })
      jacobian.push(across, down)
      residual.push(spot.to.x - at.x, spot.to.y - at.y)
      weights.push(spot.weight, spot.weight)
    }
    return { jacobian, residual: Float64Array.from(residual), weights: Float64Array.from(weights) }
  }

  /** How a spot moves with an unknown, px for a radian or for a px. */
  private motionOf({ bone, field }: Unknown, spot: Spot, at: Vec): readonly [number, number] {
    const { parent, takesTurn } = this.frame.rig.bones
    let moved = at
    let b = spot.bone
    for (; b >= 0 && b !== bone; b = parent[b]!) if (takesTurn[b]! === 0) moved = this.startOf(b)
    if (b < 0) return [0, 0]
    if (field !== 'angle') return field === 'x' ? [1, 0] : [0, 1]
    const start = this.startOf(bone)
    return [moved.y - start.y, start.x - moved.x]
  }

  private startOf(b: number): Vec {
    const { start } = this.frame.rig.bones
    return apply(affineAt(this.frame.bones, 6 * b), { x: start[2 * b]!, y: start[2 * b + 1]! })
  }

  /** Bends the joints of stretched limbs a little to the side where they have more room; tells whether there were any. */
  private nudge(): boolean {
    const { parent, min, max } = this.frame.rig.bones
    poseBones(this.frame.rig, this.pose, this.frame)
    let isNudged = false
    for (const { bone, field, slot } of this.unknowns) {
      if (field !== 'angle' || parent[bone]! < 0) continue
      const angle = this.pose[slot]!
      const side = max[bone]! > -min[bone]! ? 1 : -1
      const [narrow, room] = side > 0 ? [-min[bone]!, max[bone]!] : [max[bone]!, -min[bone]!]
      const isOneSided = narrow <= NARROW && room > 2 * NARROW
      const isStraight = this.spots.some((spot) => this.leadsTo(bone, spot.bone) && this.isStretched(bone, spot))
      if (!(isOneSided && side * angle <= 0) && !isStraight) continue
      this.pose[slot] = Math.min(max[bone]!, Math.max(min[bone]!, (isOneSided ? 0 : angle) + side * NUDGE))
      isNudged = true
    }
    return isNudged
  }

  /** Whether a joint lies on the line from the one before it to a spot. */
  private isStretched(bone: number, spot: Spot): boolean {
    const [a, b, p] = [this.startOf(this.frame.rig.bones.parent[bone]!), this.startOf(bone), this.placeOf(spot)]
    const [ux, uy, wx, wy] = [b.x - a.x, b.y - a.y, p.x - b.x, p.y - b.y]
    const sizes = Math.hypot(ux, uy) * Math.hypot(wx, wy)
    return sizes > 1e-9 && Math.abs(ux * wy - uy * wx) / sizes < STRAIGHT
  }

  private leadsTo(bone: number, to: number): boolean {
    const { parent } = this.frame.rig.bones
    for (let b = to; b >= 0; b = parent[b]!) if (b === bone) return true
    return false
  }
}
