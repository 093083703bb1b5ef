/** Few keys that say the same as a value for each frame. */
import { compileTrack, trackValue } from './curve'
import { newKey } from './edits'
import type { Key } from './records'

/**
 * Keys through some of the given values, so few that the smooth curve through them is nowhere farther from the values than a tolerance.
 * Begins with the ends and where the values turn round, and adds the worst value until none is worse, after Ramer (1972) and Douglas and
 * Peucker (1973), measured against the curve that is played instead of straight lines.
 *
 * @param times [n] seconds, rising
 * @param values [n] of the channel at these times
 * @param tolerance in the unit of the channel; 0 keeps every value that says something
 * @param kept which of them must be keys
 */
export function thinnedKeys(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  tolerance: number,
  kept: ReadonlySet<number> = new Set(),
): Key[] {
  const count = times.length
  const isKey = new Uint8Array(count)
  for (const at of [0, count - 1, ...kept, ...turns(values, tolerance)]) if (at >= 0 && at < count) isKey[at] = 1
  for (;;) {
    const keys = keysAmong(times, values, isKey)
    const track = compileTrack({ keys, before: 'hold', after: 'hold' })
    if (!addWorst(track, { times, values, isKey, tolerance })) return keys
  }
}

/** Where values turn round, by more than a tolerance: what wobbles less says nothing. */
function turns(values: ArrayLike<number>, tolerance: number): number[] {
  const out: number[] = []
  let [low, high] = [0, 0]
  let way = 0
  for (let k = 1; k < values.length; k++) {
    if (values[k]! > values[high]!) high = k
    if (values[k]! < values[low]!) low = k
    if (way >= 0 && values[high]! - values[k]! > tolerance) {
      if (way > 0) out.push(high)
      way = -1
      low = high = k
    } else if (way <= 0 && values[k]! - values[low]! > tolerance) {
      if (way < 0) out.push(low)
      way = 1
      low = high = k
    }
  }
  return out
}

function keysAmong(times: ArrayLike<number>, values: ArrayLike<number>, isKey: Uint8Array): Key[] {
  const keys: Key[] = []
  for (let k = 0; k < isKey.length; k++) if (isKey[k] === 1) keys.push(newKey(times[k]!, values[k]!))
  return keys
}

interface Samples {
  readonly times: ArrayLike<number>
  readonly values: ArrayLike<number>
  readonly isKey: Uint8Array
  readonly tolerance: number
}

/** Makes the worst value of each stretch between keys a key, where it is too far off; tells whether there was any. */
function addWorst(track: ReturnType<typeof compileTrack>, { times, values, isKey, tolerance }: Samples): boolean {
  const allowed = Math.max(tolerance, 1e-9)
  let hasAdded = false
  let worst = -1
  let most = allowed
  for (let k = 0; k < isKey.length; k++) {
    if (isKey[k] === 1) {
      if (worst >= 0) {
        isKey[worst] = 1
        hasAdded = true
      }
      worst = -1
      most = allowed
      continue
    }
    const off = Math.abs(trackValue(track, times[k]!) - values[k]!)
    if (off > most) {
      worst = k
      most = off
    }
  }
  return hasAdded
}
