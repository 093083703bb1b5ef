/** Chance that is told by a seed: the same number has the same luck, in whatever order it is asked for. */

/** A number from -1 to 1 for a whole number and a seed: its bits well mixed (the finaliser of MurmurHash3, Appleby 2011). */
export function mixed(n: number, seed: number): number {
  let h = (Math.imul(n | 0, 0x9e3779b1) ^ Math.imul(seed + 1, 0x85ebca6b)) >>> 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1
}
