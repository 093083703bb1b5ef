/**
 * Makes what was copied into a hole from many places one surface: colours are solved for so that they change from pixel
 * to pixel as they did where they came from, and meet what surrounds the hole (Pérez, Gangnet and Blake 2003).
 */
import type { Raster } from '../maths/geometry/raster'

/** Over-relaxation, and the change below which the solution stands, in steps of colour. */
const RELAX = 1.85
const STILL = 0.05
const MOST_ROUNDS = 400

/**
 * Changes the colours of filled pixels in place.
 *
 * @param from [width * height] the pixel that each filled one was copied from; -1 for all others
 * @param isKnown whether a pixel of the raster had a colour before it was filled
 */
export function blendSeams(raster: Raster, from: Int32Array, isKnown: (pixel: number) => boolean): void {
  const { width, data } = raster
  const filled: number[] = []
  for (let i = 0; i < from.length; i++) if (from[i]! >= 0) filled.push(i)
  const order = Int32Array.from(filled)
  const rows = neighbourhood(order, raster, from, isKnown)
  const values = new Float64Array(from.length)
  for (let channel = 0; channel < 3; channel++) {
    for (let i = 0; i < from.length; i++) values[i] = data[4 * i + channel]!
    const steps = stepsOf(order, rows, raster, from, isKnown, channel)
    relax(order, rows, steps, values, width)
    for (const i of order) data[4 * i + channel] = Math.min(255, Math.max(0, Math.round(values[i]!)))
  }
}

const SIDES = [-1, 1, 0, 0]
const DOWNS = [0, 0, -1, 1]

/** For each filled pixel its four neighbours, -1 where there is none to agree with. */
function neighbourhood(order: Int32Array, { width, height }: Raster, from: Int32Array, isKnown: (pixel: number) => boolean): Int32Array {
  const out = new Int32Array(4 * order.length).fill(-1)
  order.forEach((i, at) => {
    const [x, y] = [i % width, Math.floor(i / width)]
    for (let k = 0; k < 4; k++) {
      const [nx, ny] = [x + SIDES[k]!, y + DOWNS[k]!]
      if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue
      const n = ny * width + nx
      if (from[n]! >= 0 || isKnown(n)) out[4 * at + k] = n
    }
  })
  return out
}

/** The wanted step of colour from each filled pixel to each neighbour: as it was where the two came from. */
function stepsOf(
  order: Int32Array,
  rows: Int32Array,
  { width, height, data }: Raster,
  from: Int32Array,
  isKnown: (pixel: number) => boolean,
  channel: number,
): Float32Array {
  const out = new Float32Array(rows.length)
  const stepAt = (i: number, dx: number, dy: number): number | null => {
    const [x, y] = [(i % width) + dx, Math.floor(i / width) + dy]
    const n = y * width + x
    return x < 0 || y < 0 || x >= width || y >= height || !isKnown(n) ? null : data[4 * n + channel]! - data[4 * i + channel]!
  }
  order.forEach((i, at) => {
    for (let k = 0; k < 4; k++) {
      const n = rows[4 * at + k]!
      if (n < 0) continue
      const there = stepAt(from[i]!, SIDES[k]!, DOWNS[k]!)
      const back = from[n]! < 0 ? null : stepAt(from[n]!, -SIDES[k]!, -DOWNS[k]!)
      const sum = (there ?? 0) - (back ?? 0)
      out[4 * at + k] = there !== null && back !== null ? sum / 2 : sum
    }
  })
  return out
}

function relax(order: Int32Array, rows: Int32Array, steps: Float32Array, values: Float64Array, width: number): void {
  for (let round = 0; round < Math.min(MOST_ROUNDS, 40 + 4 * width); round++) {
    let most = 0
    for (let at = 0; at < order.length; at++) {
      let sum = 0
      let count = 0
      for (let k = 4 * at; k < 4 * at + 4; k++) {
        const n = rows[k]!
        if (n < 0) continue
        sum += values[n]! - steps[k]!
        count++
      }
      if (count === 0) continue
      const i = order[at]!
      const change = RELAX * (sum / count - values[i]!)
      values[i]! += change
      most = Math.max(most, Math.abs(change))
    }
    if (most < STILL) return
  }
}
