/** Takes the paper away on which a flat picture was drawn. */
import { newRaster, type Raster } from '../maths/geometry/raster'
import { drawnPixels, paperColour } from './figures'

/** How far inside of a rim its own colour is looked for, px: the breadth of an antialiased edge. */
const EDGE = 2

/**
 * The picture without its paper; the same object where it has none. A pixel on the rim is a mixture of paper and paint:
 * its share of paint is solved for with the colour that lies inside of it, so that no fringe of paper stays.
 */
export function withoutPaper(source: Raster): Raster {
  const paper = paperColour(source)
  if (!paper) return source
  const { width, height, data } = source
  const drawn = drawnPixels(source, paper)
  const out = newRaster(width, height)
  out.data.set(data)
  for (let i = 0; i < drawn.length; i++) if (!drawn[i]) out.data.fill(0, 4 * i, 4 * i + 4)
  const depth = depths(drawn, width, height)
  for (let i = 0; i < drawn.length; i++) {
    if (depth[i] === 0 || depth[i]! > EDGE) continue
    const from = insideOf(depth, i, width, height)
    let [mixed, whole] = [0, 0]
    for (let k = 0; k < 3; k++) {
      const span = data[4 * from + k]! - paper[k]!
      mixed += (data[4 * i + k]! - paper[k]!) * span
      whole += span * span
    }
    const share = whole < 64 ? 1 : Math.min(1, Math.max(0, mixed / whole))
    if (share > 0.98) continue
    for (let k = 0; k < 3; k++) out.data[4 * i + k] = data[4 * from + k]!
    out.data[4 * i + 3] = Math.round(data[4 * i + 3]! * share)
  }
  return out
}

/** Steps of a pixel to the nearest one that is not drawn, up to one more than the breadth of an edge. */
function depths(drawn: Uint8Array, width: number, height: number): Uint8Array {
  const depth = Uint8Array.from(drawn, (v) => v * (EDGE + 1))
  for (let step = 1; step <= EDGE; step++)
    for (let i = 0; i < depth.length; i++) {
      if (depth[i] !== EDGE + 1) continue
      const x = i % width
      const near = [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width]
      if (near.some((n) => n >= 0 && n < width * height && depth[n] === step - 1)) depth[i] = step
    }
  return depth
}

/** The deepest pixel about one on a rim. */
function insideOf(depth: Uint8Array, i: number, width: number, height: number): number {
  const [x, y] = [i % width, Math.floor(i / width)]
  let best = i
  let least = Infinity
  for (let dy = -EDGE; dy <= EDGE; dy++)
    for (let dx = -EDGE; dx <= EDGE; dx++) {
      const [nx, ny] = [x + dx, y + dy]
      if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue
      const n = ny * width + nx
      const far = dx * dx + dy * dy
      if (depth[n]! > depth[best]! || (depth[n] === depth[best] && far < least)) {
        best = n
        least = far
      }
    }
  return best
}
