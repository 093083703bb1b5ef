/** Linear blend skinning. */

export const INFLUENCES = 4

/**
 * Poses points by linear blend skinning (Lewis et al. 2000): the maps of a point's bones are blended by its
 * weights, then the point is mapped once.
 *
 * @param rest [2n] x,y pairs
 * @param offsets [4n] for each influence six times the number of its bone, so that it indexes `maps`
 * @param weights [4n] row-major; each row sums to 1, unused influences weigh 0
 * @param maps [6b] affines a,b,c,d,e,f of the bones
 * @param out [2n] posed pairs; overwritten, may be `rest`
 */
export function skinLinear(rest: Float64Array, offsets: Int32Array, weights: Float64Array, maps: Float64Array, out: Float64Array): void {
  const n = rest.length >> 1
  for (let i = 0, p = 0, q = 0; i < n; i++, p += 2, q += 4) {
    const i0 = offsets[q]!
    const i1 = offsets[q + 1]!
    const i2 = offsets[q + 2]!
    const i3 = offsets[q + 3]!
    const w0 = weights[q]!
    const w1 = weights[q + 1]!
    const w2 = weights[q + 2]!
    const w3 = weights[q + 3]!
    const x = rest[p]!
    const y = rest[p + 1]!
    out[p] =
      (w0 * maps[i0]! + w1 * maps[i1]! + w2 * maps[i2]! + w3 * maps[i3]!) * x +
      (w0 * maps[i0 + 2]! + w1 * maps[i1 + 2]! + w2 * maps[i2 + 2]! + w3 * maps[i3 + 2]!) * y +
      w0 * maps[i0 + 4]! +
      w1 * maps[i1 + 4]! +
      w2 * maps[i2 + 4]! +
      w3 * maps[i3 + 4]!
    out[p + 1] =
      (w0 * maps[i0 + 1]! + w1 * maps[i1 + 1]! + w2 * maps[i2 + 1]! + w3 * maps[i3 + 1]!) * x +
      (w0 * maps[i0 + 3]! + w1 * maps[i1 + 3]! + w2 * maps[i2 + 3]! + w3 * maps[i3 + 3]!) * y +
      w0 * maps[i0 + 5]! +
      w1 * maps[i1 + 5]! +
      w2 * maps[i2 + 5]! +
      w3 * maps[i3 + 5]!
  }
}
