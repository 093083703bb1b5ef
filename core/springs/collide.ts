/**
 * What springs keep out of: the end of a sprung bone is brought to the nearest place outside of a capsule about a bone, or above the
 * ground, that it comes to by turning; the part of its speed that leads inwards is lost, as of something soft.
 */
import type { BonesFrame, BonesRig } from '../bones/stage'
import { SPRING_STATE, type SpringTable } from './table'

type Needs = BonesRig & { readonly springs: SpringTable }

/** Where a collider's surface is next to a spot: how far inside it is, and the way out. */
const out = { depth: 0, x: 0, y: 0 }

function depthInCapsule({ bones }: BonesRig, { skeleton: { motion } }: BonesFrame, c: number, reach: number, x: number, y: number): void {
  const k = 6 * c
  const place = (ends: Float64Array, axis: number): number =>
    motion[k + axis]! * ends[2 * c]! + motion[k + 2 + axis]! * ends[2 * c + 1]! + motion[k + 4 + axis]!
  const [ax, ay] = [place(bones.start, 0), place(bones.start, 1)]
  const [dx, dy] = [place(bones.end, 0) - ax, place(bones.end, 1) - ay]
  const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / Math.max(1e-9, dx * dx + dy * dy)))
  const [nx, ny] = [x - ax - t * dx, y - ay - t * dy]
  const away = Math.hypot(nx, ny)
  out.depth = reach - away
  // On the axis itself either side is as near.
  out.x = away > 1e-9 ? nx / away : 0
  out.y = away > 1e-9 ? ny / away : -1
}

/** Tries at most: each turns the bone out of what it is deepest in. */
const TRIES = 6
/** Depth that does not count, px. */
const NEAR = 1e-3

/** The deepest of all that an end is inside of, with the way out. */
const deepest = { depth: 0, x: 0, y: 0 }

function findDeepest(rig: Needs, frame: BonesFrame, s: number, x: number, y: number): boolean {
  const { bone, y: ground, reach } = rig.springs.colliders
  const count = bone.length
  deepest.depth = NEAR
  for (let c = 0; c < count; c++) {
    const near = reach[s * count + c]!
    if (near === 0) continue
    if (bone[c]! < 0) {
      out.depth = y + near - ground[c]!
      out.x = 0
      out.y = -1
    } else depthInCapsule(rig, frame, bone[c]!, near, x, y)
    if (out.depth <= deepest.depth) continue
    deepest.depth = out.depth
    deepest.x = out.x
    deepest.y = out.y
  }
  return deepest.depth > NEAR
}

/**
 * Corrects the offset of a spring, and the speed in its state, so that the end of its bone is outside of all that it keeps out of.
 *
 * @param here start and end of the bone as its pose has it: x, y each
 */
export function keepOut(rig: Needs, frame: BonesFrame, s: number, here: Float64Array, state: Float64Array, offsets: Float64Array): void {
  const { colliders, throws, stretch } = rig.springs
  const thrown = throws[s]!
  if (colliders.bone.length === 0 || thrown === 0) return
  const [baseX, baseY, tipX, tipY] = [here[0]!, here[1]!, here[2]!, here[3]!]
  let x = tipX + offsets[2 * s]! - baseX
  let y = tipY + offsets[2 * s + 1]! - baseY
  const swung = Math.hypot(x, y)
  const own = Math.hypot(tipX - baseX, tipY - baseY)
  if (swung < 1e-9 || own < 1e-9) return
  // The end is where the bone is turned to, as long as it is.
  const length = own + stretch[s]! * (swung - own)
  x *= length / swung
  y *= length / swung
  let isTouched = false
  for (let round = 0; round < TRIES && findDeepest(rig, frame, s, baseX + x, baseY + y); round++) {
    isTouched = true
    const [wx, wy] = [deepest.x, deepest.y]
    // Turned out by as much as it is deep: exact for a flat surface, for a round one as near as its tangent, from where the next try goes on.
    const along = Math.min(length, Math.max(-length, x * wx + y * wy + deepest.depth))
    const beside = Math.sqrt(length * length - along * along) * (y * wx - x * wy < 0 ? -1 : 1)
    x = along * wx - beside * wy
    y = along * wy + beside * wx
    loseSpeed(s, wx, wy, state)
  }
  if (!isTouched) return
  offsets[2 * s] = baseX + (x * swung) / length - tipX
  offsets[2 * s + 1] = baseY + (y * swung) / length - tipY
  state[SPRING_STATE * s] = offsets[2 * s]! / thrown
  state[SPRING_STATE * s + 1] = offsets[2 * s + 1]! / thrown
}

function loseSpeed(s: number, wx: number, wy: number, state: Float64Array): void {
  const at = SPRING_STATE * s
  const inwards = state[at + 2]! * wx + state[at + 3]! * wy
  if (inwards >= 0) return
  state[at + 2] = state[at + 2]! - inwards * wx
  state[at + 3] = state[at + 3]! - inwards * wy
}
