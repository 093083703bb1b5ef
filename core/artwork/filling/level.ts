/** What is filled, at full size and at halves of it. */
import { wavesFrom } from '../../maths/geometry/flood'
import type { PixelData } from '../../maths/geometry/raster'

/** What a pixel is to a fill. */
export const NOTHING = 0
export const KNOWN = 1
export const HOLE = 2

/** A picture with a hole at one size. */
export interface Level {
  readonly width: number
  readonly height: number
  /** [4n] red, green, blue, unused; those of the hole change as it is filled. */
  readonly colours: PixelData
  /** [n] NOTHING, KNOWN or HOLE */
  readonly state: Uint8Array
  /** [n] 1 where it may be copied from */
  readonly material: Uint8Array
}

/** A level at half its size: a pixel is hole where any of its four is, known or material where half of them are. */
export function halved({ width, height, colours, state, material }: Level): Level {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)]
  const half: Level = {
    ...{ width: w, height: h, colours: new Uint8Array(4 * w * h) },
    ...{ state: new Uint8Array(w * h), material: new Uint8Array(w * h) },
  }
  const sums = new Float64Array(3)
  for (let i = 0; i < w * h; i++) {
    const [left, top] = [2 * (i % w), 2 * Math.floor(i / w)]
    let [known, holes, fit] = [0, 0, 0]
    sums.fill(0)
    for (let k = 0; k < 4; k++) {
      const [x, y] = [left + (k & 1), top + (k >> 1)]
      if (x >= width || y >= height) continue
      const j = y * width + x
      if (state[j] === HOLE) holes++
      if (state[j] !== KNOWN) continue
      known++
      fit += material[j]!
      for (let c = 0; c < 3; c++) sums[c]! += colours[4 * j + c]!
    }
    half.state[i] = holes > 0 ? HOLE : known >= 2 ? KNOWN : NOTHING
    half.material[i] = holes === 0 && fit >= 2 ? 1 : 0
    for (let c = 0; c < 3 && known > 0; c++) half.colours[4 * i + c] = Math.round(sums[c]! / known)
  }
  return half
}

/** How deep pixels lie in the hole, in steps from what is not hole; 0 outside of it. A hole without any rim is as deep as it is large. */
export function depthsOf({ width, height, state }: Level): Uint16Array {
  const out = new Uint16Array(state.length)
  wavesFrom(indicesOf(state, KNOWN), width, height, (n, _, step) => {
    if (state[n] !== HOLE || out[n] !== 0) return false
    out[n] = step
    return true
  })
  return out
}

/** Cells of a value. */
export function indicesOf(cells: Uint8Array, value: number): number[] {
  const out: number[] = []
  for (let i = 0; i < cells.length; i++) if (cells[i] === value) out.push(i)
  return out
}

/** Pixels about which a whole square lies inside of a mask. [n] 1 for those */
export function squaresWithin(mask: Uint8Array, width: number, height: number, reach: number): Uint8Array {
  const w = width + 1
  const sums = new Int32Array(w * (height + 1))
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += mask[y * width + x]!
      sums[(y + 1) * w + x + 1] = sums[y * w + x + 1]! + row
    }
  const whole = (2 * reach + 1) ** 2
  const out = new Uint8Array(mask.length)
  for (let y = reach; y < height - reach; y++)
    for (let x = reach; x < width - reach; x++) {
      const [l, t, r, b] = [x - reach, y - reach, x + reach + 1, y + reach + 1]
      if (sums[b * w + r]! - sums[t * w + r]! - sums[b * w + l]! + sums[t * w + l]! === whole) out[y * width + x] = 1
    }
  return out
}
