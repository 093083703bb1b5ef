/** Up to when two states of a clip play the same, so that what was simulated of one is good for the other. */
import type { Clip, ClipLayer, Key, Track } from '../clips/records'

/** Before any time. */
const NEVER = -1

/** Keys that two tracks begin with alike. */
function sameKeys(a: readonly Key[], b: readonly Key[]): number {
  let k = 0
  while (k < a.length && k < b.length && (a[k] === b[k] || JSON.stringify(a[k]) === JSON.stringify(b[k]))) k++
  return k
}

/** Up to when two tracks have the same values, seconds. A key bends the curve up to the second one before it. */
function tracksSameUntil(a: Track | undefined, b: Track | undefined): number {
  if (a === b) return Infinity
  if (!a || !b || a.before !== b.before || a.before !== 'hold' || a.after !== b.after) return NEVER
  const same = sameKeys(a.keys, b.keys)
  if (same === a.keys.length && same === b.keys.length) return Infinity
  return a.keys[same - 2]?.time ?? NEVER
}

function layersSameUntil(a: ClipLayer, b: ClipLayer): number {
  if (a === b) return Infinity
  if (a.id !== b.id || a.mode !== b.mode || a.muted !== b.muted || a.weight !== b.weight || a.parts !== b.parts) return NEVER
  const channels = new Set([...Object.keys(a.tracks), ...Object.keys(b.tracks)])
  return Math.min(Infinity, ...[...channels].map((channel) => tracksSameUntil(a.tracks[channel], b.tracks[channel])))
}

/** Up to when two states of a clip play the same, seconds; infinite where they always do, below 0 where they never do. */
export function sameUntil(a: Clip, b: Clip): number {
  const isAlike = a.id === b.id && a.rate === b.rate && a.step === b.step && a.layers.length === b.layers.length
  if (!isAlike || JSON.stringify(a.loose) !== JSON.stringify(b.loose)) return NEVER
  return a.layers.reduce((least, layer, k) => {
    const other = b.layers[k]
    return Math.min(least, other ? layersSameUntil(layer, other) : NEVER)
  }, Infinity)
}
