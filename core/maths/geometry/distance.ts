/** Distances in square grids of pixels. */

/**
 * Distance of each pixel to the nearest one of a value (Felzenszwalb and Huttenlocher 2012). What lies beyond the
 * border has no value.
 */
export function distanceTo(mask: Uint8Array, size: number, value: 0 | 1): Float64Array {
  const FAR = 1e9
  const out = Float64Array.from(mask, (v) => (v === value ? 0 : FAR))
  const f = new Float64Array(size)
  const v = new Int32Array(size)
  const z = new Float64Array(size + 1)
  const pass = (start: number, step: number): void => {
    for (let q = 0; q < size; q++) f[q] = out[start + q * step]!
    let k = 0
    v[0] = 0
    z[0] = -Infinity
    z[1] = Infinity
    for (let q = 1; q < size; q++) {
      let s = (f[q]! + q * q - (f[v[k]!]! + v[k]! * v[k]!)) / (2 * q - 2 * v[k]!)
      while (s <= z[k]!) {
        k--
        s = (f[q]! + q * q - (f[v[k]!]! + v[k]! * v[k]!)) / (2 * q - 2 * v[k]!)
      }
      v[++k] = q
      z[k] = s
      z[k + 1] = Infinity
    }
    k = 0
    for (let q = 0; q < size; q++) {
      while (z[k + 1]! < q) k++
      out[start + q * step] = (q - v[k]!) ** 2 + f[v[k]!]!
    }
  }
  for (let x = 0; x < size; x++) pass(x, size)
  for (let y = 0; y < size; y++) pass(y * size, 1)
  return out.map(Math.sqrt)
}
