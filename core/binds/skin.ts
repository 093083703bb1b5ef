/** Skinning: by the plain blend of the bones' maps, and by turning each point about its own centre. */

/** Most bones that move one point. */
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

/**
 * Poses points by optimised centres of rotation (Le and Hodgins 2016), in the plane with unit complex numbers: a
 * point turns about its centre by the blend of its bones' turns brought back to unit length, while the centre itself
 * goes by the linear blend. Bones only turn and shift, so their blend is one complex number and one shift.
 *
 * @param rest [2n] x,y pairs in the part's own space
 * @param centres [2n] centre of rotation of each point, in the same space
 * @param offsets [4n] for each influence six times the number of its bone, so that it indexes `motions`
 * @param weights [4n] row-major; each row sums to 1
 * @param motions [6b] motions a,b,c,d,e,f of the bones on the canvas: turns with shifts
 * @param world the affine map at `at` takes the part's space to the canvas at rest
 * @param out [2n] posed pairs; overwritten
 */
export function skinVolume(
  rest: Float64Array,
  centres: Float64Array,
  offsets: Int32Array,
  weights: Float64Array,
  motions: Float64Array,
  world: Float64Array,
  at: number,
  out: Float64Array,
): void {
  const a = world[at]!
  const b = world[at + 1]!
  const c = world[at + 2]!
  const d = world[at + 3]!
  const e = world[at + 4]!
  const f = world[at + 5]!
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
    const re = w0 * motions[i0]! + w1 * motions[i1]! + w2 * motions[i2]! + w3 * motions[i3]!
    const im = w0 * motions[i0 + 1]! + w1 * motions[i1 + 1]! + w2 * motions[i2 + 1]! + w3 * motions[i3 + 1]!
    const px = centres[p]!
    const py = centres[p + 1]!
    const dx = rest[p]! - px
    const dy = rest[p + 1]! - py
    // The centre and the way from it to the point, on the canvas at rest.
    const cx = a * px + c * py + e
    const cy = b * px + d * py + f
    const vx = a * dx + c * dy
    const vy = b * dx + d * dy
    // Opposite turns of equal weight have no blend; the point then stays with its centre.
    const size = re * re + im * im
    const unit = size > 1e-18 ? 1 / Math.sqrt(size) : 0
    out[p] =
      (re * vx - im * vy) * unit +
      re * cx -
      im * cy +
      w0 * motions[i0 + 4]! +
      w1 * motions[i1 + 4]! +
      w2 * motions[i2 + 4]! +
      w3 * motions[i3 + 4]!
    out[p + 1] =
      (im * vx + re * vy) * unit +
      im * cx +
      re * cy +
      w0 * motions[i0 + 5]! +
      w1 * motions[i1 + 5]! +
      w2 * motions[i2 + 5]! +
      w3 * motions[i3 + 5]!
  }
}
