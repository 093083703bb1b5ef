/**
 * evaluate(rig, pose) -> Frame: where everything is in a pose.
 *
 * Placement follows one formula, x = K(W p): W is the product of home and posed offset from the root down, K the
 * motion of the bone or bones that the part is bound to. Allocates nothing and depends on nothing but its arguments.
 */
import { channelOf, clampTo } from '../document/channels'
import type { Affine, Puppet } from '../document/schema'
import { inView, shownView } from '../document/views'
import { toRadians } from '../geometry/affine'
import { expandBend } from './bend'
import { boneSlot, compile, partSlot, type Rig, type Skin } from './compile'
import { skinLinear, skinVolume } from './skin'

export interface Frame {
  readonly rig: Rig
  /** [6b] motion of each bone: rest canvas to posed canvas */
  readonly bones: Float64Array
  /** [6p] W of each part; for parts that follow one bone whole, K W */
  readonly parts: Float64Array
  /** [p] own opacity, channel included */
  readonly opacity: Float64Array
  /** Posed points [2n] of each drawing that bends, null for rigid ones; canvas px */
  readonly points: readonly (Float64Array | null)[]
  /** Posed samples [2m] of each drawing that bends, from which its points follow */
  readonly samples: readonly (Float64Array | null)[]
  /** [d] factor on line widths of drawings that bend */
  readonly lineScale: Float64Array
  /** Scratch: W of each part [6p] and the maps of one bind [6k]. */
  readonly world: Float64Array
  readonly maps: Float64Array
  /** Grows with every evaluation. */
  revision: number
}

/** Makes the buffers for a rig's frames. */
export function makeFrame(rig: Rig): Frame {
  const widest = rig.drawings.reduce((most, d) => Math.max(most, d.skin?.bones.length ?? 0), 0)
  return {
    rig,
    bones: new Float64Array(6 * rig.bones.ids.length),
    parts: new Float64Array(6 * rig.parts.ids.length),
    opacity: new Float64Array(rig.parts.ids.length),
    points: rig.drawings.map((d) => (d.skin ? new Float64Array(d.geometry.points.length) : null)),
    samples: rig.drawings.map((d) => (d.skin ? new Float64Array(d.skin.bent.samples.length) : null)),
    lineScale: new Float64Array(rig.drawings.length).fill(1),
    world: new Float64Array(6 * rig.parts.ids.length),
    maps: new Float64Array(6 * widest),
    revision: 0,
  }
}

/** Writes a pose by addresses into an array that `evaluate` takes; unknown addresses are passed over. */
export function writePose(rig: Rig, pose: Readonly<Record<string, number>>, out: Float64Array): Float64Array {
  out.set(rig.restPose)
  for (const [address, value] of Object.entries(pose)) {
    const channel = channelOf(rig.puppet, address)
    // The view is no movement: a rig is made for one.
    if (!channel || channel.family === 'puppet') continue
    const slot =
      channel.family === 'bone'
        ? boneSlot(rig.bones.index.get(channel.id)!) + BONE_FIELD_AT[channel.field as keyof typeof BONE_FIELD_AT]
        : partSlot(rig, rig.parts.index.get(channel.id)!) + PART_FIELD_AT[channel.field as keyof typeof PART_FIELD_AT]
    out[slot] = clampTo(channel, value)
  }
  return out
}

const BONE_FIELD_AT = { angle: 0, x: 1, y: 2 }
const PART_FIELD_AT = { x: 0, y: 1, angle: 2, scaleX: 3, scaleY: 4, opacity: 5 }

/** Evaluates a pose into a frame made for the same rig. */
export function evaluate(rig: Rig, pose: Float64Array, frame: Frame): Frame {
  moveBones(rig, pose, frame.bones)
  placeParts(rig, pose, frame)
  for (let d = 0; d < rig.drawings.length; d++) bendDrawing(rig, d, frame)
  frame.revision++
  return frame
}

/** A puppet in a pose, in the view that the pose shows; makes a rig and a frame. */
export const posePuppet = (puppet: Puppet, pose: Readonly<Record<string, number>> = puppet.pose): Frame =>
  poseRig(compile(inView(puppet, shownView(puppet, pose))), pose)

/** The map of a part of the table in a frame: from its own space to the canvas, but for the bends of what is blended. */
export const partMap = ({ parts }: Frame, p: number): Affine => [
  parts[6 * p]!,
  parts[6 * p + 1]!,
  parts[6 * p + 2]!,
  parts[6 * p + 3]!,
  parts[6 * p + 4]!,
  parts[6 * p + 5]!,
]

/** Evaluates a pose given by addresses; makes a new frame. */
export const poseRig = (rig: Rig, pose: Readonly<Record<string, number>> = rig.puppet.pose): Frame =>
  evaluate(rig, writePose(rig, pose, new Float64Array(rig.restPose.length)), makeFrame(rig))

/*
 * Maps are handed on in arrays with their places, never as numbers: a call that is not inlined would put each number
 * into an object of its own, and a frame would allocate.
 */

/** The map being made. */
const local = new Float64Array(6)

/** Motions of the bones: each turns about its start, is shifted, then moves with its parent. */
function moveBones(rig: Rig, pose: Float64Array, out: Float64Array): void {
  const { parent, start, min, max } = rig.bones
  for (let b = 0; b < parent.length; b++) {
    const wanted = pose[boneSlot(b)]!
    const angle = toRadians(Math.min(max[b]!, Math.max(min[b]!, wanted)))
    const c = Math.cos(angle)
    const s = Math.sin(angle)
    const x = start[2 * b]!
    const y = start[2 * b + 1]!
    local[0] = c
    local[1] = -s
    local[2] = s
    local[3] = c
    local[4] = x - c * x - s * y + pose[boneSlot(b) + 1]!
    local[5] = y + s * x - c * y + pose[boneSlot(b) + 2]!
    compose(out, 6 * parent[b]!, local, 0, out, 6 * b)
  }
}

/** out[at] = base[from] · map[of]; a negative `from` stands for no base. `out` may be `base` or `map`. */
function compose(base: Float64Array, from: number, map: Float64Array, of: number, out: Float64Array, at: number): void {
  const a = map[of]!
  const b = map[of + 1]!
  const c = map[of + 2]!
  const d = map[of + 3]!
  const e = map[of + 4]!
  const f = map[of + 5]!
  if (from < 0) {
    out[at] = a
    out[at + 1] = b
    out[at + 2] = c
    out[at + 3] = d
    out[at + 4] = e
    out[at + 5] = f
    return
  }
  const m0 = base[from]!
  const m1 = base[from + 1]!
  const m2 = base[from + 2]!
  const m3 = base[from + 3]!
  const m4 = base[from + 4]!
  const m5 = base[from + 5]!
  out[at] = m0 * a + m2 * b
  out[at + 1] = m1 * a + m3 * b
  out[at + 2] = m0 * c + m2 * d
  out[at + 3] = m1 * c + m3 * d
  out[at + 4] = m0 * e + m2 * f + m4
  out[at + 5] = m1 * e + m3 * f + m5
}

function placeParts(rig: Rig, pose: Float64Array, frame: Frame): void {
  const { parent, home, opacity, bone } = rig.parts
  const { world, parts, bones } = frame
  for (let p = 0; p < parent.length; p++) {
    const at = 6 * p
    const slot = partSlot(rig, p)
    compose(world, 6 * parent[p]!, home, at, world, at)
    if (offsetPart(rig, p, pose, slot)) compose(world, at, local, 0, world, at)
    frame.opacity[p] = opacity[p]! * Math.min(1, Math.max(0, pose[slot + 5]!))
    compose(bones, 6 * bone[p]!, world, at, parts, at)
  }
}

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

/** Skins one drawing: its samples go with the bones, its path points follow from them. */
function bendDrawing(rig: Rig, d: number, frame: Frame): void {
  const { skin, part } = rig.drawings[d]!
  if (!skin) return
  const { world } = frame
  const samples = frame.samples[d]!
  const w = 6 * part
  skinPoints(frame, d, skin.bent.samples, skin, samples)
  expandBend(skin.bent, samples, frame.points[d]!)
  // Bones only turn, so the area changes by the part's own placement alone.
  frame.lineScale[d] = Math.sqrt(Math.abs(world[w]! * world[w + 3]! - world[w + 1]! * world[w + 2]!))
}

/**
 * Poses points of the space of a drawing that bends, with their weights and centres.
 *
 * @param points [2n] in the part's own space
 * @param out [2n] on the canvas; overwritten
 */
export function skinPoints(
  frame: Frame,
  d: number,
  points: Float64Array,
  { offsets, weights, centres }: Pick<Skin, 'offsets' | 'weights' | 'centres'>,
  out: Float64Array,
): void {
  const { world, maps, bones } = frame
  const { skin, part } = frame.rig.drawings[d]!
  const w = 6 * part
  if (skin!.mode === 'volume') {
    for (let k = 0; k < skin!.bones.length; k++) copyMap(bones, 6 * skin!.bones[k]!, maps, 6 * k)
    skinVolume(points, centres, offsets, weights, maps, world, w, out)
  } else {
    // The bones' motions are joined with the part's placement first, so that each point is mapped once.
    for (let k = 0; k < skin!.bones.length; k++) compose(bones, 6 * skin!.bones[k]!, world, w, maps, 6 * k)
    skinLinear(points, offsets, weights, maps, out)
  }
}

function copyMap(from: Float64Array, at: number, to: Float64Array, there: number): void {
  for (let i = 0; i < 6; i++) to[there + i] = from[at + i]!
}
