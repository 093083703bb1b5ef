/** The course of a step: how a foot goes and rolls, what it stands on, and how the numbers of strides are laid out. */
import { minimumJerk, smoothstep } from '../maths/solve/smoothstep'

/** Numbers of the state of a stride, and of each of its legs. */
export const WALK_STATE = 9
export const LEG_STATE = 7
/** Numbers that show of a stride: phase, pace, grip, way gone on the canvas, height of the ground; and of a leg: ahead, lift, roll, ground. */
export const WALK_SHOWN = 5
export const LEG_SHOWN = 4

/** Share of a stance after which the whole foot is down, and from which on the heel comes up. */
const FLAT = 0.2
const HEEL_UP = 0.55
/** The heel comes up by this much more than toes were up. */
const HEEL = 2

/** A share brought to within 0 and 1. */
export const within = (t: number): number => Math.min(1, Math.max(0, t))

/** A spot on the ring: what is left of a number without its whole rounds. */
export const wrapped = (t: number): number => t - Math.floor(t)

/** How a foot is rolled, as a share: 1 toes up, below 0 heel up. */
export function rollAt(p: number, duty: number, hasStepped: boolean): number {
  if (p < duty) {
    const q = p / duty
    const toes = hasStepped ? 1 - smoothstep(within(q / FLAT)) : 0
    return toes - HEEL * smoothstep(within((q - HEEL_UP) / (1 - HEEL_UP)))
  }
  return -HEEL + (1 + HEEL) * minimumJerk((p - duty) / (1 - duty))
}

/** Height of the ground at a place, px down; level beyond its ends, and 0 where none is drawn. */
export function groundAt(ground: Float64Array, x: number): number {
  const last = ground.length - 2
  if (last < 0) return 0
  if (x <= ground[0]!) return ground[1]!
  if (x >= ground[last]!) return ground[last + 1]!
  let k = 0
  while (x > ground[k + 2]!) k += 2
  const t = (x - ground[k]!) / Math.max(ground[k + 2]! - ground[k]!, 1e-9)
  return ground[k + 1]! + t * (ground[k + 3]! - ground[k + 1]!)
}
