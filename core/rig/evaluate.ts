/**
 * evaluate(rig, pose) -> Frame: where everything is in a pose.
 *
 * Placement follows one formula, x = S(K(W D(p))): D are deformers before bones, W is the product of home and posed
 * offset from the root down, K the motion of the bone or bones that the part is bound to, S deformers after bones.
 * Allocates nothing and depends on nothing but its arguments.
 */
import { channelOf, clampTo, fieldsOf, type PartField } from '../document/channels'
import type { Affine, Puppet } from '../document/schema'
import { inView, shownView } from '../document/views'
import { affineAt, toRadians } from '../geometry/affine'
import { writeLooks } from './answers/looks'
import { layShifts, placeRigid } from './answers/reshape'
import { expandBend } from './bend'
import { makeBoneFrame, placeBone, type BoneFrame } from './boneTable'
import { BESIDE, boneSlot, compile, makeShape, partSlot, type Rig, type RigAnchor } from './compile'
import { solveConstraints, targetPlaces, type Scene } from './constraints'
import { compose, isActing, isDeformed, runCourse, type Fixed, type Stand } from './course'
import { paintInOrder, type PaintOp } from './paintList'
import { slotOfChannel } from './slots'
import { chooseAlternates, makeMelts, meltAlternates, type Melts } from './swaps/swaps'

export interface Frame {
  readonly rig: Rig
  /** [6b] motion of each bone: rest canvas to posed canvas */
  readonly bones: Float64Array
  /** What bones do besides, constraints included. */
  readonly skeleton: BoneFrame
  /** What constraints look at. */
  readonly scene: Scene
  /** [3t] place and turn of each target, in the order of the document's targets */
  readonly targets: Float64Array
  /** [6p] W of each part; for parts that follow one bone or another part whole, K W */
  readonly parts: Float64Array
  /** [p] own opacity, channel included */
  readonly opacity: Float64Array
  /** Posed points [2n] of each drawing that changes its form, null for rigid ones; canvas px */
  readonly points: readonly (Float64Array | null)[]
  /** Posed samples [2m] of each drawing that changes its form, from which its points follow */
  readonly samples: readonly (Float64Array | null)[]
  /** [d] 1 where a drawing changes its form in this frame; else it goes as one piece, by the map of its part */
  readonly bent: Uint8Array
  /** [d] factor on line widths of drawings that change their form */
  readonly lineScale: Float64Array
  /** [6p] W of each part */
  readonly world: Float64Array
  /** What courses look at. */
  readonly stand: Stand
  /** Channels with what answers to them, then shifts of points, then colours and widths of lines. */
  readonly answers: Float64Array
  /** [4 looks] colours from 0 to 1 and factors of widths that responses have given */
  readonly looks: Float32Array
  /** [p] 0 where a part is hidden; it may mask others all the same */
  readonly shown: Uint8Array
  /** Swaps on the way from one alternate to the next. */
  readonly melts: Melts
  /** [p] 0 where the masks of a part do not count */
  readonly masked: Uint8Array
  /** [p] by how many steps each part is painted earlier or later */
  readonly steps: Int32Array
  /** What is painted in which order, in this pose. */
  paint: readonly PaintOp[]
  /** [d] 1 where a drawing changes its form by bones or deformers; else what moves its points alone does */
  readonly flexed: Uint8Array
  /** [b] how fast bones turn on the canvas, degrees a second; set by what plays, 0 at rest */
  readonly speeds: Float64Array
  /** Which stop each response chose by last, -1 for none: choices do not flicker where two are as near. */
  readonly memory: Int32Array
  /** Inputs of the response that acts, as they are. */
  readonly heard: Float64Array
  /** Rank of who has chosen for a channel, while answers are made. */
  readonly ranks: Float64Array
  /** Grows with every evaluation. */
  revision: number
}

/** Makes the buffers for a rig's frames. */
export function makeFrame(rig: Rig): Frame {
  const count = rig.parts.ids.length
  const skeleton = makeBoneFrame(rig.bones.ids.length)
  const world = new Float64Array(6 * count)
  return {
    rig,
    bones: skeleton.motion,
    skeleton,
    scene: { bones: rig.bones, table: rig.constraints, slots: rig.slots, pose: rig.restPose, frame: skeleton },
    targets: new Float64Array(3 * rig.constraints.targets.parent.length),
    parts: new Float64Array(6 * count),
    opacity: new Float64Array(count),
    points: rig.drawings.map((d) => (d.soft || d.reshape ? new Float64Array(d.geometry.points.length) : null)),
    samples: rig.drawings.map((d) => (d.soft ? new Float64Array(d.soft.bent.samples.length) : null)),
    bent: new Uint8Array(rig.drawings.length),
    lineScale: new Float64Array(rig.drawings.length).fill(1),
    world,
    stand: {
      local: new Float64Array(6 * count),
      world,
      anchors: new Float64Array(6 * count),
      motion: skeleton.motion,
      rigid: skeleton.rigid,
      stretch: skeleton.stretch,
      drawn: skeleton.drawn,
      shapes: rig.deformers.map(({ source }) => makeShape(source)),
      acting: new Uint8Array(rig.deformers.length),
      maps: new Float64Array(6 * Math.max(1, rig.bones.ids.length)),
      scratch: new Map(),
    },
    answers: new Float64Array(rig.answers.size),
    looks: new Float32Array(4 * rig.answers.looks.length),
    shown: new Uint8Array(count).fill(1),
    masked: new Uint8Array(count).fill(1),
    melts: makeMelts(rig.swaps.length, rig.drawings.length),
    steps: new Int32Array(count),
    paint: rig.paint,
    flexed: new Uint8Array(rig.drawings.length),
    speeds: new Float64Array(rig.bones.ids.length),
    memory: new Int32Array(rig.puppet.controls.length + rig.puppet.responses.length).fill(-1),
    heard: new Float64Array(8),
    ranks: new Float64Array(rig.restPose.length).fill(-Infinity),
    revision: 0,
  }
}

/** Forgets which alternates were chosen last: what is shown next depends on nothing that was shown before. */
export const forgetChoices = (frame: Frame): void => void frame.memory.fill(-1)

/** Writes a pose by addresses into an array that `evaluate` takes; unknown addresses are passed over. */
export function writePose(rig: Rig, pose: Readonly<Record<string, number>>, out: Float64Array): Float64Array {
  out.set(rig.restPose)
  for (const [address, value] of Object.entries(pose)) {
    const channel = channelOf(rig.puppet, address)
    // The view is no movement: a rig is made for one.
    const slot = channel ? slotOfChannel(rig.slots, channel) : -1
    if (slot >= 0) out[slot] = clampTo(channel!, value)
  }
  return out
}

/** Evaluates a pose into a frame made for the same rig. */
export function evaluate(rig: Rig, pose: Float64Array, frame: Frame): Frame {
  answerPose(rig, pose, frame)
  const { answers } = frame
  placeParts(rig, answers, frame)
  if (rig.swaps.length > 0) chooseAlternates(frame)
  for (let s = 0; s < rig.deformers.length; s++)
    frame.stand.acting[s] = Number(frame.stand.shapes[s]!.pose(answers, rig.deformers[s]!.slots))
  for (let a = 0; a < rig.anchors.length; a++) placeAnchor(frame, rig.anchors[a]!)
  if (rig.anchors.length > 0) carryParts(rig, frame)
  for (let d = 0; d < rig.drawings.length; d++) bendDrawing(rig, d, frame)
  if (rig.answers.reshapes.length > 0) reshapeDrawings(rig, frame)
  if (rig.swaps.length > 0) meltAlternates(frame)
  frame.revision++
  return frame
}

/** A puppet in a pose, in the view that the pose shows; makes a rig and a frame. */
export const posePuppet = (puppet: Puppet, pose: Readonly<Record<string, number>> = puppet.pose): Frame =>
  poseRig(compile(inView(puppet, shownView(puppet, pose))), pose)

/** The map of a part of the table in a frame: from its own space to the canvas, but for the bends of what is blended. */
export const partMap = ({ parts }: Frame, p: number): Affine => affineAt(parts, 6 * p)

/** Evaluates a pose given by addresses; makes a new frame. */
export const poseRig = (rig: Rig, pose: Readonly<Record<string, number>> = rig.puppet.pose): Frame =>
  evaluate(rig, writePose(rig, pose, new Float64Array(rig.restPose.length)), makeFrame(rig))

/** The map being made. */
const local = new Float64Array(6)

/**
 * Controls and responses answer to a pose, and bones are posed by it: those that listen to where bones end up act once they are
 * posed, and bones that are moved after that are posed again.
 */
function answerPose(rig: Rig, pose: Float64Array, frame: Frame): void {
  const { answers, ranks } = frame
  const { list, chosen, looks } = rig.answers
  answers.set(pose)
  if (answers.length > pose.length) answers.fill(0, pose.length)
  for (let k = 0; k < looks.length; k++) if (looks[k]!.kind === 'width') answers[looks[k]!.base] = 1
  for (let k = 0; k < chosen.length; k++) ranks[chosen[k]!] = -Infinity
  let arePosed = false
  for (let k = 0; k < list.length; k++) {
    const one = list[k]!
    if (one.isLate && !arePosed) poseBones(rig, answers, frame)
    arePosed ||= one.isLate
    one.act(frame)
    if (one.movesBones) arePosed = false
  }
  if (!arePosed) poseBones(rig, answers, frame)
  if (looks.length > 0) writeLooks(looks, answers, frame.looks)
}

/** Poses the bones of a frame alone: own values, motions, then what constraints make of them. */
export function poseBones(rig: Rig, pose: Float64Array, frame: Frame): void {
  const { bones, constraints } = rig
  const { skeleton } = frame
  for (let b = 0; b < bones.ids.length; b++) {
    const slot = boneSlot(b)
    skeleton.angle[b] = Math.min(bones.max[b]!, Math.max(bones.min[b]!, pose[slot]!))
    skeleton.shift[2 * b] = pose[slot + 1]!
    skeleton.shift[2 * b + 1] = pose[slot + 2]!
    skeleton.length[b] = pose[slot + 3]!
    placeBone(bones, skeleton, b)
  }
  if (constraints.targets.parent.length === 0 && constraints.list.length === 0) return
  frame.scene.pose = pose
  solveConstraints(frame.scene)
  targetPlaces(frame.scene, frame.targets)
}

function placeParts(rig: Rig, pose: Float64Array, frame: Frame): void {
  const { parent, home, bone } = rig.parts
  const { world, parts, bones, stand, steps } = frame
  let isReordered = false
  let isOther = false
  for (let p = 0; p < parent.length; p++) {
    const at = 6 * p
    const slot = partSlot(rig, p)
    if (offsetPart(rig, p, pose, slot)) compose(home, at, local, 0, stand.local, at)
    else compose(home, -1, home, at, stand.local, at)
    compose(world, 6 * parent[p]!, stand.local, at, world, at)
    frame.opacity[p] = Math.min(1, Math.max(0, pose[slot + OPACITY]!))
    frame.shown[p] = Number(pose[slot + SHOWN]! >= 0.5)
    frame.masked[p] = Number(pose[slot + MASKED]! >= 0.5)
    const step = Math.round(pose[slot + ORDER]!)
    isReordered ||= step !== 0
    isOther ||= step !== steps[p]!
    steps[p] = step
    compose(bones, 6 * bone[p]!, world, at, parts, at)
  }
  if (isOther) frame.paint = isReordered ? paintInOrder(rig, steps) : rig.paint
}

const fieldOfPart = (field: PartField): number => fieldsOf('part').indexOf(field)
const [OPACITY, SHOWN, ORDER, MASKED] = (['opacity', 'shown', 'order', 'masked'] as const).map(fieldOfPart) as [
  number,
  number,
  number,
  number,
]

/** Writes the posed offset of a part about its pivot into `local`; false where the part has none. */
function offsetPart(rig: Rig, p: number, pose: Float64Array, slot: number): boolean {
  const x = pose[slot]!
  const y = pose[slot + 1]!
  const turn = pose[slot + 2]!
  const sx = pose[slot + 3]!
  const sy = pose[slot + 4]!
  if (x === 0 && y === 0 && turn === 0 && sx === 1 && sy === 1) return false
  const px = rig.parts.pivot[2 * p]!
  const py = rig.parts.pivot[2 * p + 1]!
  const angle = toRadians(turn)
  const cos = Math.cos(angle)
  const sin = Math.sin(angle)
  local[0] = cos * sx
  local[1] = -sin * sx
  local[2] = sin * sy
  local[3] = cos * sy
  local[4] = x + px - local[0]! * px - local[2]! * py
  local[5] = y + py - local[1]! * px - local[3]! * py
  return true
}

const probe = new Float64Array(6)

/**
 * The motion of what hangs on another part, from what became of its spot and of two steps beside it: its shift alone, with
 * its turn, or with all that the surface does there.
 */
function placeAnchor(frame: Frame, { part, how, course, spots, fixed, at }: RigAnchor): void {
  probe.set(spots)
  runCourse(frame.stand, course, fixed, probe, probe)
  const { anchors } = frame.stand
  const k = 6 * part
  anchors[k] = how === 'pivoting' ? 1 : (probe[2]! - probe[0]!) / BESIDE
  anchors[k + 1] = how === 'pivoting' ? 0 : (probe[3]! - probe[1]!) / BESIDE
  anchors[k + 2] = how === 'pivoting' ? 0 : (probe[4]! - probe[0]!) / BESIDE
  anchors[k + 3] = how === 'pivoting' ? 1 : (probe[5]! - probe[1]!) / BESIDE
  if (how === 'carried') keepTurn(anchors, k)
  anchors[k + 4] = probe[0]! - anchors[k]! * at[0] - anchors[k + 2]! * at[1]
  anchors[k + 5] = probe[1]! - anchors[k + 1]! * at[0] - anchors[k + 3]! * at[1]
}

/** Replaces what a map does to directions by the turn that is nearest to it. */
function keepTurn(m: Float64Array, k: number): void {
  const cos = m[k]! + m[k + 3]!
  const sin = m[k + 1]! - m[k + 2]!
  const size = Math.sqrt(cos * cos + sin * sin)
  m[k] = size > 1e-12 ? cos / size : 1
  m[k + 1] = size > 1e-12 ? sin / size : 0
  m[k + 2] = -m[k + 1]!
  m[k + 3] = m[k]!
}

/** Parts that hang on another one go along with it. */
function carryParts(rig: Rig, { world, parts, stand }: Frame): void {
  const { anchor } = rig.parts
  for (let p = 0; p < anchor.length; p++) if (anchor[p]! >= 0) compose(stand.anchors, 6 * anchor[p]!, world, 6 * p, parts, 6 * p)
}

/** Poses one drawing that changes its form: its samples go their course, its path points follow from them. */
function bendDrawing(rig: Rig, d: number, frame: Frame): void {
  const { soft } = rig.drawings[d]!
  frame.bent[d] = 0
  if (!soft) return
  frame.flexed[d] = frame.bent[d] = Number(isActing(frame.stand, soft.course))
  if (frame.bent[d] === 0) return
  const samples = frame.samples[d]!
  posePoints(frame, d, soft.bent.samples, soft.fixed, samples)
  expandBend(soft.bent, samples, frame.points[d]!)
  scaleLines(rig, d, frame)
}

/** Lays what responses add to the points of drawings onto what the pose has made of them. */
function reshapeDrawings(rig: Rig, frame: Frame): void {
  const { reshapes } = rig.answers
  for (let k = 0; k < reshapes.length; k++) {
    const { drawing: d, base, length } = reshapes[k]!
    if (!isAny(frame.answers, base, length)) continue
    const { part, geometry, reshape } = rig.drawings[d]!
    const points = frame.points[d]!
    if (frame.flexed[d] === 0) {
      placeRigid(geometry, frame.parts, 6 * part, points)
      const m = 6 * part
      frame.lineScale[d] = Math.sqrt(Math.abs(frame.parts[m]! * frame.parts[m + 3]! - frame.parts[m + 1]! * frame.parts[m + 2]!))
      frame.bent[d] = 1
    }
    layShifts(frame, d, reshape!, base, points)
  }
}

/** Whether responses move points of a drawing in a frame. */
export const isReshaped = ({ rig, answers }: Frame, d: number): boolean =>
  rig.answers.reshapes.some(({ drawing, base, length }) => drawing === d && isAny(answers, base, length))

function isAny(values: Float64Array, from: number, length: number): boolean {
  for (let i = from; i < from + length; i++) if (values[i] !== 0) return true
  return false
}

/**
 * Poses points of the space of a drawing that changes its form.
 *
 * @param points [2n] in the part's own space
 * @param fixed what the drawing's `fix` made of them
 * @param out [2n] on the canvas; overwritten
 */
export function posePoints(frame: Frame, d: number, points: Float64Array, fixed: Fixed, out: Float64Array): void {
  runCourse(frame.stand, frame.rig.drawings[d]!.soft!.course, fixed, points, out)
}

/**
 * Sets the factor on line widths: the square root of what became of the drawing's area. Where bones alone bend it, they keep
 * its area, and the part's own placement says it.
 */
function scaleLines(rig: Rig, d: number, { world, points, stand, lineScale }: Frame): void {
  const { soft, part, geometry } = rig.drawings[d]!
  const w = 6 * part
  lineScale[d] = Math.sqrt(Math.abs(world[w]! * world[w + 3]! - world[w + 1]! * world[w + 2]!))
  if (!isDeformed(stand, soft!.course)) return
  areas[REST] = 0
  areas[POSED] = 0
  for (let k = 0; k < geometry.shapes.length; k++) {
    const { first, count } = geometry.shapes[k]!
    addArea(geometry.points, first, count, REST)
    addArea(points[d]!, first, count, POSED)
  }
  if (areas[REST]! > 1) lineScale[d] = Math.sqrt(Math.min(100, areas[POSED]! / areas[REST]!))
}

const areas = new Float64Array(2)
const REST = 0
const POSED = 1

/** Adds the area inside a run of points. */
function addArea(points: Float64Array, first: number, count: number, at: number): void {
  let sum = 0
  for (let i = first, j = first + count - 1; i < first + count; j = i++)
    sum += points[2 * j]! * points[2 * i + 1]! - points[2 * i]! * points[2 * j + 1]!
  areas[at]! += Math.abs(sum) / 2
}

/** Where a target is in a frame, with its turn in degrees. */
export function targetPlace(frame: Frame, target: string): { x: number; y: number; turn: number } {
  const t = 3 * frame.rig.constraints.targets.index.get(target)!
  return { x: frame.targets[t]!, y: frame.targets[t + 1]!, turn: frame.targets[t + 2]! }
}
