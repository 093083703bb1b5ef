/**
 * Makes what was copied into a hole from many places one surface: colours are solved for so that they change from pixel
 * to pixel as they did where they came from, and meet what surrounds the hole (Pérez, Gangnet and Blake 2003). None leaves
 * the range of colours that there are, so that no hue appears that nobody painted.
 */
import type { Raster } from '../../maths/geometry/raster'

/** Over-relaxation, and the change below which the solution stands, in steps of colour: half a step is rounded away. */
const FACTOR = 1.85
const STILL = 0.15
/** Steps even out over some tens of pixels by then; what is left of them is too gentle to be seen. */
const ROUNDS = 60

/**
 * Changes the colours of filled pixels in place.
 *
 * @param from [width * height] the pixel that each filled one was copied from; -1 for all others
 * @param known [width * height] 1 where a pixel of the raster had a colour before it was filled
 */
export function blendSeams(raster: Raster, from: Int32Array, known: Uint8Array): void {
  const { data } = raster
  let count = 0
  for (let i = 0; i < from.length; i++) if (from[i]! >= 0) count++
  const order = new Int32Array(count)
  for (let i = 0, at = 0; i < from.length; i++) if (from[i]! >= 0) order[at++] = i
  const sides = neighbourhood(order, raster, from, known)
  const values = new Float64Array(from.length)
  for (let channel = 0; channel < 3; channel++) {
    for (let i = 0; i < from.length; i++) values[i] = data[4 * i + channel]!
    const steps = stepsOf(order, sides, raster, from, known, channel)
    relax(order, sides, steps, values)
    for (const i of order) data[4 * i + channel] = Math.round(values[i]!)
  }
}

/** For each filled pixel its neighbours to the left, right, above and below, -1 where there is none to agree with. */
function neighbourhood(order: Int32Array, { width, height }: Raster, from: Int32Array, known: Uint8Array): Int32Array {
  const out = new Int32Array(4 * order.length)
  const orNone = (isInside: boolean, n: number): number => (isInside && (from[n]! >= 0 || known[n] === 1) ? n : -1)
  for (let at = 0; at < order.length; at++) {
    const i = order[at]!
    const x = i % width
    out[4 * at] = orNone(x > 0, i - 1)
    out[4 * at + 1] = orNone(x < width - 1, i + 1)
    out[4 * at + 2] = orNone(i >= width, i - width)
    out[4 * at + 3] = orNone(i < width * (height - 1), i + width)
  }
  return out
}

/** The wanted step of colour from each filled pixel to each neighbour: as it was where the two came from. */
function stepsOf(
  order: Int32Array,
  sides: Int32Array,
  { width, height, data }: Raster,
  from: Int32Array,
  known: Uint8Array,
  channel: number,
): Float32Array {
  const out = new Float32Array(sides.length)
  const ways = [-1, 1, -width, width]
  for (let at = 0; at < order.length; at++) {
    const origin = from[order[at]!]!
    for (let k = 0; k < 4; k++) {
      const n = sides[4 * at + k]!
      if (n < 0) continue
      const way = ways[k]!
      const there = hasStep(origin, k, width, height) && known[origin + way] === 1
      const beside = from[n]!
      const back = beside >= 0 && hasStep(beside, k ^ 1, width, height) && known[beside - way] === 1
      const sum =
        (there ? data[4 * (origin + way) + channel]! - data[4 * origin + channel]! : 0) +
        (back ? data[4 * beside + channel]! - data[4 * (beside - way) + channel]! : 0)
      out[4 * at + k] = there && back ? sum / 2 : sum
    }
  }
  return out
}

/** Whether a pixel has a neighbour to the left (0), right (1), above (2) or below (3). */
function hasStep(i: number, side: number, width: number, height: number): boolean {
  if (side === 0) return i % width > 0
  if (side === 1) return i % width < width - 1
  return side === 2 ? i >= width : i < width * (height - 1)
}

/** Successive over-relaxation (Young 1954), each value kept between the least and the greatest that there are. */
function relax(order: Int32Array, sides: Int32Array, steps: Float32Array, values: Float64Array): void {
  let least = Infinity
  let greatest = -Infinity
  for (const list of [order, sides])
    for (const i of list) {
      if (i < 0) continue
      least = Math.min(least, values[i]!)
      greatest = Math.max(greatest, values[i]!)
    }
  for (let round = 0, most = Infinity; round < ROUNDS && most >= STILL; round++) {
    most = 0
    for (let at = 0; at < order.length; at++) {
      let sum = 0
      let count = 0
      for (let k = 4 * at; k < 4 * at + 4; k++) {
        const n = sides[k]!
        if (n < 0) continue
        sum += values[n]! - steps[k]!
        count++
      }
      if (count === 0) continue
      const i = order[at]!
      const before = values[i]!
      const after = Math.min(greatest, Math.max(least, before + FACTOR * (sum / count - before)))
      values[i] = after
      most = Math.max(most, Math.abs(after - before))
    }
  }
}
