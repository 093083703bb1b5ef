/** Rasters: pixels with straight alpha. */

/** Bytes of pixels, as whoever decoded them has them. */
export type PixelData = Uint8Array | Uint8ClampedArray

/** Pixels as RGBA bytes, colours not multiplied by opacity, rows from the top. */
export interface Raster {
  readonly width: number
  readonly height: number
  /** [4 * width * height] red, green, blue, straight alpha */
  readonly data: PixelData
}

/** A raster with nothing in it. */
export const newRaster = (width: number, height: number): Raster => ({ width, height, data: new Uint8Array(4 * width * height) })

/** A raster with room added on each side (or taken away, where a number is negative). */
export function padded(source: Raster, left: number, top: number, right: number, bottom: number): Raster {
  const out = newRaster(source.width + left + right, source.height + top + bottom)
  for (let y = Math.max(0, -top); y < Math.min(source.height, source.height + bottom); y++) {
    const from = 4 * (y * source.width + Math.max(0, -left))
    const to = 4 * (y * source.width + Math.min(source.width, source.width + right))
    out.data.set(source.data.subarray(from, to), 4 * ((y + top) * out.width + Math.max(0, left)))
  }
  return out
}
