/** Files as a bad disk or line leaves them. */
import { seededRandom } from '@marionette/core/maths/solve/random'

/** Copies of a file with some bytes changed, mostly near its beginning, and every fifth cut off. */
export function* damagedOnes(bytes: Uint8Array, count: number, seed: number, head = 2000): Generator<Uint8Array> {
  const random = seededRandom(seed)
  for (let n = 0; n < count; n++) {
    const copy = Uint8Array.from(bytes)
    for (let k = 0; k < 1 + random() * 6; k++)
      copy[Math.floor(random() * (random() < 0.7 ? Math.min(head, copy.length) : copy.length))] = Math.floor(random() * 256)
    yield random() < 0.2 ? copy.subarray(0, Math.floor(random() * copy.length)) : copy
  }
}
