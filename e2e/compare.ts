/** Comparing pictures pixel by pixel. */
import { decode } from 'fast-png'

export interface Picture {
  readonly width: number
  readonly height: number
  readonly data: ArrayLike<number>
  readonly channels: number
}

export function readPicture(bytes: Uint8Array): Picture {
  const { width, height, data, channels } = decode(bytes)
  return { width, height, data, channels }
}

/**
 * How far a channel may be off before a pixel counts as different. Both sides draw with Skia, but Chromium rasters on
 * its (here emulated) GPU, which counts a few samples in each pixel, and we by exact coverage: along an edge between
 * black and white the two may lie a quarter of coverage apart, 64 of 255.
 */
export const CHANNEL_TOLERANCE = 64

/** Share of pixels that may still differ: about one in twenty of those that lie on an edge. Anything missing or misplaced is more. */
export const PIXEL_TOLERANCE = 0.003

/** Share of pixels in which any colour channel is off by more than the tolerance. Sizes must be equal. */
export function difference(a: Picture, b: Picture): number {
  if (a.width !== b.width || a.height !== b.height) throw new Error(`Sizes differ: ${a.width}x${a.height} and ${b.width}x${b.height}.`)
  let off = 0
  const pixels = a.width * a.height
  for (let i = 0; i < pixels; i++) {
    for (let c = 0; c < 3; c++) {
      if (Math.abs(a.data[i * a.channels + c]! - b.data[i * b.channels + c]!) > CHANNEL_TOLERANCE) {
        off++
        break
      }
    }
  }
  return off / pixels
}
