/** Selecting an area of one colour in a picture, gaps of its border closed. */
import type { Raster } from '../maths/geometry/raster'
import { flood } from '../maths/geometry/flood'
import { grow, traceBorders, type Mask } from '../maths/geometry/trace'
import type { Area } from '../maths/geometry/booleans'
import { polygonPath } from '../maths/geometry/path'

/** What still counts as the same area of colour. */
export interface ColourAreaOptions {
  /** How far a colour may be from the one under the pointer, 0 to 255 in each channel. */
  readonly tolerance: number
  /** Gaps in the border that do not let the area out, px across. */
  readonly gap: number
}

/**
 * The connected area of about the colour at a spot.
 *
 * With gaps closed, the area is found between borders grown by half the gap, and grown back by as much without running
 * over the border.
 *
 * @returns null where the spot lies outside of the picture or shows nothing
 */
export function floodSelect(source: Raster, x: number, y: number, { tolerance, gap }: ColourAreaOptions): Area | null {
  const mask = colourMask(source, Math.floor(x), Math.floor(y), tolerance, Math.round(gap / 2))
  if (!mask) return null
  const paths = traceBorders(mask).map((corners) => polygonPath(smoothed(corners)))
  return paths.length > 0 ? { paths, rule: 'evenodd' } : null
}

function colourMask(source: Raster, x: number, y: number, tolerance: number, close: number): Mask | null {
  const { width, height, data } = source
  if (x < 0 || y < 0 || x >= width || y >= height || data[4 * (y * width + x) + 3]! < 16) return null
  const from = 4 * (y * width + x)
  const other = new Uint8Array(width * height)
  for (let i = 0; i < other.length; i++)
    for (let c = 0; c < 4; c++)
      if (Math.abs(data[4 * i + c]! - data[from + c]!) > tolerance) {
        other[i] = 1
        break
      }
  const barred = close > 0 ? within(grow({ width, height, cells: other }, close), width, height, close) : other
  const start = y * width + x
  if (barred[start]) return { width, height, cells: flood(other, width, height, [start]) }
  const found = flood(barred, width, height, [start])
  if (close === 0) return { width, height, cells: found }
  const wide = within(grow({ width, height, cells: found }, close), width, height, close)
  return { width, height, cells: wide.map((v, i) => (v && !other[i] ? 1 : 0)) }
}

/** The middle of a mask that was grown beyond its borders. */
function within(grown: Mask, width: number, height: number, by: number): Uint8Array {
  const out = new Uint8Array(width * height)
  for (let y = 0; y < height; y++)
    out.set(grown.cells.subarray((y + by) * grown.width + by, (y + by) * grown.width + by + width), y * width)
  return out
}

/** Middles of the edges of a traced border: stairs become slopes. */
function smoothed(corners: readonly (readonly [number, number])[]): number[] {
  return corners.flatMap(([x, y], i) => {
    const [nx, ny] = corners[(i + 1) % corners.length]!
    const long = Math.abs(nx - x) + Math.abs(ny - y)
    // Long straight runs keep their ends but for half a pixel.
    const t = long > 2 ? 0.5 / long : 0.5
    return long > 2 ? [x + (nx - x) * t, y + (ny - y) * t, nx - (nx - x) * t, ny - (ny - y) * t] : [x + (nx - x) * t, y + (ny - y) * t]
  })
}
