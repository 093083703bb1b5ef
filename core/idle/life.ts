/** What idle life does at a time: told by its seed and the time alone, and still at its beginning. */
import { mixed } from '../maths/solve/random'
import { smoothstep } from '../maths/solve/smoothstep'
import type { Idle } from './records'

/** Seconds of a blink, of a glance on its way, and of a shift of weight. */
const BLINK = 0.22
const GLANCE = 0.13
const SHIFT = 1.4
/** Seeds of what happens apart from each other. */
const [BLINKS, GLANCES, SHIFTS] = [11, 23, 37] as const

const smooth = (t: number): number => smoothstep(Math.min(1, Math.max(0, t)))

/** How far it is breathed in, 0 to 1: in sooner than out. */
export function breathAt({ rate }: Pick<Idle['breath'], 'rate'>, time: number): number {
  const t = time * (rate / 60)
  const p = t - Math.floor(t)
  return p < 0.42 ? smooth(p / 0.42) : 1 - smooth((p - 0.42) / 0.58)
}

/** When the n-th of what happens every so often happens: somewhere in its own stretch of time. */
const momentOf = (n: number, every: number, seed: number): number => every * (n + 0.5 + 0.35 * mixed(n, seed))

/** How far lids are shut, 0 to 1. */
export function blinkAt({ seed, blink: { every } }: Idle, time: number): number {
  const n = Math.floor(time / every)
  const t = (time - momentOf(n, every, seed + BLINKS)) / BLINK
  if (t < 0 || t > 1) return 0
  return t < 0.4 ? smooth(t / 0.4) : 1 - smooth((t - 0.4) / 0.6)
}

/** Where something is that goes to a new place now and then: from its last place to its next one in so many seconds. */
function wandered(time: number, every: number, seconds: number, seed: number, places: number): number {
  const n = Math.floor(time / every)
  const place = (k: number): number => {
    if (k < 0) return 0
    const wish = mixed(k, places)
    // Half of the times it comes home.
    return mixed(k, places + 1) < 0 ? 0 : wish
  }
  const at = momentOf(n, every, seed)
  return place(n - 1) + (place(n) - place(n - 1)) * smooth((time - at) / Math.min(seconds, 0.3 * every))
}

/** Where it glances, -1 to 1, along an axis; eyes move along both at once. */
export const glanceAt = ({ seed, glance: { every } }: Idle, time: number, axis: 0 | 1): number =>
  wandered(time, every, GLANCE, seed + GLANCES, seed + GLANCES + 2 + 5 * axis)

/** How far the weight is shifted, -1 to 1. */
export const shiftAt = ({ seed, shift: { every } }: Idle, time: number): number =>
  wandered(time, every, SHIFT, seed + SHIFTS, seed + SHIFTS + 2)
