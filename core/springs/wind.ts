/** Gusts: a smooth wander that is told by a seed and the time alone, so that the same moment always has the same wind. */

import { mixed } from '../maths/solve/random'
import { minimumJerk } from '../maths/solve/smoothstep'

/** Changes of the wind a second, slow and fast, with how much each counts. */
const WAVES = [
  [0.35, 0.65],
  [1.3, 0.35],
] as const

/** How far the wind is from its mean at a time, -1 to 1; smooth in time. */
export function gustAt(seed: number, time: number): number {
  let sum = 0
  for (let k = 0; k < WAVES.length; k++) {
    const [rate, weight] = WAVES[k]!
    const at = time * rate
    const from = Math.floor(at)
    const t = at - from
    const [a, b] = [mixed(from, seed + 7919 * k), mixed(from + 1, seed + 7919 * k)]
    sum += weight * (a + (b - a) * minimumJerk(t))
  }
  return sum
}
