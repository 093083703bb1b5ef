/** The swing of a spring that is let go, as a curve: what is read off it, and the numbers that give a wanted one. */
import { ratesOf, STEP_SIZE, writeStep } from '../maths/solve/oscillator'
import type { SpringNature } from './records'

export type SwingNature = Pick<SpringNature, 'throw' | 'tempo' | 'settle'>

export interface Swing {
  /** [n] seconds since it was let go */
  readonly times: Float64Array
  /** [n] how far it is out, as a share of how far its drive was; it begins at its throw */
  readonly out: Float64Array
}

/** The curve of a spring that was held at its throw and is let go, in even steps over a time. */
export function swingOf(nature: SwingNature, seconds: number, count: number): Swing {
  const step = new Float64Array(STEP_SIZE)
  const h = seconds / (count - 1)
  writeStep(ratesOf(nature.tempo, nature.settle), h, step)
  const [times, out] = [new Float64Array(count), new Float64Array(count)]
  let [x, v] = [1, 0]
  for (let k = 0; k < count; k++) {
    times[k] = k * h
    out[k] = nature.throw * x
    const next = step[0]! * x + step[1]! * v
    v = step[4]! * x + step[5]! * v
    x = next
  }
  return { times, out }
}

export interface SwingRead {
  /** Seconds after which it never is farther out than 2% of where it began; null where it does not come to rest within the curve. */
  readonly settled: number | null
  /** How far it swings beyond rest at first, as a share of where it began; 0 without a swing. */
  readonly overshoot: number
}

/** What a curve shows, read off it. */
export function readSwing({ times, out }: Swing): SwingRead {
  const begun = Math.abs(out[0]!)
  if (begun === 0) return { settled: 0, overshoot: 0 }
  let last = -1
  let least = 0
  for (let k = 0; k < out.length; k++) {
    const share = out[k]! / out[0]!
    if (Math.abs(share) > 0.02) last = k
    least = Math.min(least, share)
  }
  return { settled: last === out.length - 1 ? null : times[last + 1]!, overshoot: -least }
}

/** Bounds of what a curve can be drawn to. */
const TEMPOS = { least: 0.1, most: 20 }
const SETTLES = { least: 0.05, most: 30 }
const within = ({ least, most }: { least: number; most: number }, value: number): number => Math.min(most, Math.max(least, value))

/** When a let-go spring is farthest on the other side, and how far, as a share of where it began. Both follow from its swing in closed form. */
export function firstSwing({ tempo, settle }: SwingNature): { time: number; depth: number } | null {
  if (tempo <= 0) return null
  const time = 1 / (2 * tempo)
  return { time, depth: Math.exp(-ratesOf(tempo, settle).decay * time) }
}

/** The numbers with which the first swing to the other side is at a time, and as deep as a share of where it began. */
export function matchedSwing<N extends SwingNature>(nature: N, time: number, depth: number): N {
  const tempo = within(TEMPOS, 1 / (2 * Math.max(time, 1e-3)))
  const share = Math.min(0.995, Math.max(1e-4, depth))
  // 2% are left when the decay has gone on for ln 50.
  const settle = within(SETTLES, (-Math.log(50) / Math.log(share)) * (1 / (2 * tempo)))
  return { ...nature, tempo, settle }
}

/** The numbers with which the swing has died away after a time. */
export const matchedSettle = <N extends SwingNature>(nature: N, time: number): N => ({ ...nature, settle: within(SETTLES, time) })
