/** Numbers that look random and are the same for the same seed. */

/** A generator of numbers above 0 and below 1 (Park and Miller 1988, with the multiplier of 1993). */
export function seededRandom(seed: number): () => number {
  let state = (seed % 2147483646) + 1
  return () => (state = (state * 48271) % 2147483647) / 2147483647
}
