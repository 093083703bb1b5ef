/** Mends a known slip of some writers: keys of blend modes with their letters in reverse order. */

/** Keys of blend modes as the specification lists them. */
const KEYS =
  'pass norm diss dark mul_ idiv lbrn dkCl lite scrn div_ lddg lgCl over sLit hLit vLit lLit pLit hMix diff smud fsub fdiv hue_ sat_ colr lum_'
    .split(' ')
    .map((key) => key.replace('_', ' '))

const REVERSED = new Map(KEYS.map((key) => [[...key].reverse().join(''), key]))
const SIGNATURE = [0x38, 0x42, 0x49, 0x4d]

/** A copy in which reversed keys stand the right way round; null where there are none. */
export function withMendedModes(bytes: Uint8Array): Uint8Array | null {
  let out: Uint8Array | null = null
  for (let at = bytes.indexOf(SIGNATURE[0]!); at >= 0 && at + 8 <= bytes.length; at = bytes.indexOf(SIGNATURE[0]!, at + 1)) {
    if (!SIGNATURE.every((c, k) => bytes[at + k] === c)) continue
    const key = REVERSED.get(String.fromCharCode(...bytes.subarray(at + 4, at + 8)))
    if (!key) continue
    out ??= bytes.slice()
    for (let k = 0; k < 4; k++) out[at + 4 + k] = key.charCodeAt(k)
  }
  return out
}
