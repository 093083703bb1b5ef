/** Distances in square grids of pixels. */

const FAR = 1e9

/**
 * Distance of each pixel to the nearest one of a value (Felzenszwalb and Huttenlocher 2012). What lies beyond the
 * border has no value.
 *
 * @param mask [size * size]
 * @returns [size * size] px
 */
export function distanceTo(mask: Uint8Array, size: number, value: 0 | 1): Float64Array {
  const out = new Float64Array(mask.length)
  for (let i = 0; i < out.length; i++) out[i] = mask[i] === value ? 0 : FAR
  const envelope = new Envelope(size)
  for (let x = 0; x < size; x++) envelope.pass(out, x, size)
  for (let y = 0; y < size; y++) envelope.pass(out, y * size, 1)
  for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(out[i]!)
  return out
}

/** The lower envelope of parabolas that stand on the cells of a line. */
class Envelope {
  private readonly heights: Float64Array
  private readonly feet: Int32Array
  /** Where each parabola of the envelope begins to be the lowest. */
  private readonly from: Float64Array

  constructor(private readonly size: number) {
    this.heights = new Float64Array(size)
    this.feet = new Int32Array(size)
    this.from = new Float64Array(size + 1)
  }

  /** Replaces squared distances along one line of a grid by those that the line itself allows. */
  pass(grid: Float64Array, start: number, step: number): void {
    const { size, heights, feet, from } = this
    for (let q = 0; q < size; q++) heights[q] = grid[start + q * step]!
    let k = 0
    feet[0] = 0
    from[0] = -Infinity
    from[1] = Infinity
    for (let q = 1; q < size; q++) {
      let meet = this.meeting(q, feet[k]!)
      while (meet <= from[k]!) meet = this.meeting(q, feet[--k]!)
      feet[++k] = q
      from[k] = meet
      from[k + 1] = Infinity
    }
    k = 0
    for (let q = 0; q < size; q++) {
      while (from[k + 1]! < q) k++
      const away = q - feet[k]!
      grid[start + q * step] = away * away + heights[feet[k]!]!
    }
  }

  /** Where the parabola on one cell comes below that on an earlier one. */
  private meeting(q: number, v: number): number {
    return (this.heights[q]! + q * q - (this.heights[v]! + v * v)) / (2 * (q - v))
  }
}
