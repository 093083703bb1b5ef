/** Numbers that look random and are the same for the same seed. */

/** A generator of numbers above 0 and below 1 (Park and Miller 1988, with the multiplier of 1993). */
export function seededRandom(seed: number): () => number {
  let state = (seed % 2147483646) + 1
  return () => (state = (state * 48271) % 2147483647) / 2147483647
}

/** A number from -1 to 1 for a whole number and a seed: its bits well mixed (the finaliser of MurmurHash3, Appleby 2011). */
export function mixed(n: number, seed: number): number {
  let h = (Math.imul(n | 0, 0x9e3779b1) ^ Math.imul(seed + 1, 0x85ebca6b)) >>> 0
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1
}
