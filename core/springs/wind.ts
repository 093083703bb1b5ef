/** Gusts: a smooth wander that is told by a seed and the time alone, so that the same moment always has the same wind. */

/** Changes of the wind a second, slow and fast, with how much each counts. */
const WAVES = [
  [0.35, 0.65],
  [1.3, 0.35],
] as const

/** A number from -1 to 1 for a whole number and a seed: its bits well mixed (the finaliser of MurmurHash3, Appleby 2011). */
function mixed(n: number, seed: number): number {
  let h = (Math.imul(n | 0, 0x9e3779b1) ^ Math.imul(seed + 1, 0x85ebca6b)) >>> 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1
}

/** How far the wind is from its mean at a time, -1 to 1; smooth in time. */
export function gustAt(seed: number, time: number): number {
  let sum = 0
  for (let k = 0; k < WAVES.length; k++) {
    const [rate, weight] = WAVES[k]!
    const at = time * rate
    const from = Math.floor(at)
    const t = at - from
    const [a, b] = [mixed(from, seed + 7919 * k), mixed(from + 1, seed + 7919 * k)]
    sum += weight * (a + (b - a) * t * t * t * (t * (6 * t - 15) + 10))
  }
  return sum
}
