/**
 * Cutting pictures along an area, with antialiased edges and without a seam.
 *
 * The piece keeps the share of each pixel that the area covers. What stays keeps every pixel that the piece does not
 * cover whole, so that its edge lies one pixel under the piece: laid over each other the two give the source again.
 */
import type { Area } from '../maths/geometry/booleans'
import { coverageOf } from '../maths/geometry/coverage'
import { newRaster, type Raster } from '../maths/geometry/raster'

/** Both sides of a cut, each as large as what was cut. */
export interface CutRaster {
  readonly inside: Raster
  readonly outside: Raster
}

/** Cuts a raster; both sides keep its size. `area` in its pixels. Colours stay as they are, opacity alone is cut. */
export function cutRaster(source: Raster, area: Area): CutRaster {
  const { width, height } = source
  const covered = coverageOf(area, width, height)
  const whole = erode(covered, width, height)
  return { inside: withAlpha(source, (i) => covered[i]!), outside: withAlpha(source, (i) => (covered[i]! < 1 ? 1 : 1 - whole[i]!)) }
}

/** The least of each pixel and its eight neighbours; what lies beyond the border counts as its nearest pixel. */
function erode(values: Float32Array, width: number, height: number): Float32Array {
  const rows = new Float32Array(values.length)
  const out = new Float32Array(values.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      rows[i] = Math.min(values[i]!, values[x > 0 ? i - 1 : i]!, values[x < width - 1 ? i + 1 : i]!)
    }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      out[i] = Math.min(rows[i]!, rows[y > 0 ? i - width : i]!, rows[y < height - 1 ? i + width : i]!)
    }
  return out
}

/** A raster with its opacity multiplied by a share for each pixel. */
export function withAlpha(source: Raster, share: (pixel: number) => number): Raster {
  const out = newRaster(source.width, source.height)
  for (let i = 0; i < source.data.length / 4; i++) {
    const alpha = Math.round(source.data[4 * i + 3]! * share(i))
    if (alpha === 0) continue
    out.data[4 * i] = source.data[4 * i]!
    out.data[4 * i + 1] = source.data[4 * i + 1]!
    out.data[4 * i + 2] = source.data[4 * i + 2]!
    out.data[4 * i + 3] = alpha
  }
  return out
}
