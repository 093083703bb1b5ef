/** Raster pictures in memory and as PNG. */
import { padded, type Raster } from '@marionette/core/maths/geometry/raster'
import { convertIndexedToRgb, decode, encode, type DecodedPng } from 'fast-png'
import { FormatError } from './warnings'

/** Straight (not premultiplied) sRGB: [4 * width * height], row by row. */
export type Pixels = Raster

/** A box of whole pixels. */
export interface PixelBox {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Largest side of a picture and of a canvas that is read, px. */
export const LARGEST_SIDE = 16384
/** Most pixels of one picture: as many as fit into memory with what is made of them. */
export const MOST_PIXELS = 64 * 1024 * 1024

/** Throws FormatError where the size of a canvas is none, or longer than can be worked with: it needs no memory of its own. */
export function checkCanvas(what: string, width: number, height: number): void {
  if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0))
    throw new FormatError(`${what} has no size that makes sense (${width} by ${height}).`)
  if (width > LARGEST_SIDE || height > LARGEST_SIDE)
    throw new FormatError(`${what} is ${width} by ${height} pixels; the limit is ${LARGEST_SIDE} on a side.`)
}

/** Throws FormatError where a size is none, or more than can be worked with. `what` begins the sentence. */
export function checkSize(what: string, width: number, height: number): void {
  checkCanvas(what, width, height)
  if (width * height > MOST_PIXELS)
    throw new FormatError(
      `${what} is ${width} by ${height} pixels; the limit is ${LARGEST_SIDE} on a side and ${MOST_PIXELS >> 20} million in all.`,
    )
}

export const isPng = (bytes: Uint8Array): boolean => bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47

/** Width and height that a PNG says it has. Throws FormatError where it is none. */
export function pngSize(bytes: Uint8Array, what: string): { width: number; height: number } {
  if (!isPng(bytes) || bytes.length < 33) throw new FormatError(`${what} is no PNG picture, or is cut off.`)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  return { width: view.getUint32(16), height: view.getUint32(20) }
}

/** Whether a PNG holds 8-bit colours with alpha, which need no conversion. */
export const isPlainPng = (bytes: Uint8Array): boolean => isPng(bytes) && bytes[24] === 8 && bytes[25] === 6

/** Decodes a PNG of any depth and colour type. Throws FormatError; `what` begins its sentence. */
export function decodePng(bytes: Uint8Array, what: string): Pixels {
  const { width, height } = pngSize(bytes, what)
  checkSize(what, width, height)
  let png: DecodedPng
  try {
    png = decode(bytes)
  } catch {
    throw new FormatError(`${what} is damaged and cannot be decoded.`)
  }
  return { width, height, data: toRgba(png) }
}

/** How hard a picture is packed: to be kept, or to be read again at once. */
const KEPT = 5
export const PASSING = 0

/** A picture as PNG. */
export function encodePng({ width, height, data }: Pixels, level: typeof KEPT | typeof PASSING = KEPT): Uint8Array {
  return encode({ width, height, data, depth: 8, channels: 4 }, { zlib: { level } })
}

function toRgba(png: DecodedPng): Uint8Array {
  const { width, height, palette } = png
  if (palette) return spread(convertIndexedToRgb(png), width * height, palette[0]!.length, () => false)
  const { data, depth, channels, transparency } = png
  if (channels === 4 && depth === 8) return data as Uint8Array
  // A colour may be declared transparent; it is compared before it is brought to 8 bits.
  const colours = channels === 2 ? 1 : Math.min(3, channels)
  const isClear = (samples: ArrayLike<number>, at: number): boolean => {
    if (!transparency || channels === 2 || channels === 4) return false
    for (let k = 0; k < colours; k++) if (samples[at + k] !== transparency[k]) return false
    return true
  }
  return spread(depth < 8 ? unpacked(png) : data, width * height, channels, isClear, 255 / (2 ** depth - 1))
}

/** Samples of grey, grey and alpha, RGB or RGBA brought to 8-bit RGBA. */
function spread(
  samples: ArrayLike<number>,
  count: number,
  channels: number,
  isClear: (samples: ArrayLike<number>, at: number) => boolean,
  scale = 1,
): Uint8Array {
  const out = new Uint8Array(4 * count)
  const isGrey = channels < 3
  const alpha = channels === 2 ? 1 : channels === 4 ? 3 : -1
  for (let i = 0, s = 0, o = 0; i < count; i++, s += channels, o += 4) {
    out[o] = Math.round(samples[s]! * scale)
    out[o + 1] = isGrey ? out[o]! : Math.round(samples[s + 1]! * scale)
    out[o + 2] = isGrey ? out[o]! : Math.round(samples[s + 2]! * scale)
    out[o + 3] = alpha >= 0 ? Math.round(samples[s + alpha]! * scale) : isClear(samples, s) ? 0 : 255
  }
  return out
}

/** Grey samples of less than 8 bits, one to an entry; rows begin at whole bytes. */
function unpacked({ width, height, data, depth }: DecodedPng): Uint8Array {
  const out = new Uint8Array(width * height)
  const row = Math.ceil((width * depth) / 8)
  const mask = 2 ** depth - 1
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const bit = x * depth
      out[y * width + x] = (data[y * row + (bit >> 3)]! >> (8 - depth - (bit & 7))) & mask
    }
  return out
}

/** The box around what shows in a picture, or null where nothing does. */
export function opaqueBox({ width, height, data }: Pixels): PixelBox | null {
  const shows = (x: number, y: number): boolean => data[4 * (y * width + x) + 3]! > 0
  const rowShows = (y: number): boolean => {
    for (let at = 4 * y * width + 3, end = at + 4 * width; at < end; at += 4) if (data[at]! > 0) return true
    return false
  }
  let top = 0
  while (top < height && !rowShows(top)) top++
  if (top === height) return null
  let bottom = height - 1
  while (!rowShows(bottom)) bottom--
  const columnShows = (x: number): boolean => {
    for (let y = top; y <= bottom; y++) if (shows(x, y)) return true
    return false
  }
  let left = 0
  while (!columnShows(left)) left++
  let right = width - 1
  while (!columnShows(right)) right--
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
}

/** A copy of part of a picture. */
export const cropped = (pixels: Pixels, { x, y, width, height }: PixelBox): Pixels =>
  padded(pixels, -x, -y, x + width - pixels.width, y + height - pixels.height)

/** Alpha of each pixel [width * height]. */
export function alphaOf({ width, height, data }: Pixels): Uint8Array {
  const out = new Uint8Array(width * height)
  for (let i = 0; i < out.length; i++) out[i] = data[4 * i + 3]!
  return out
}
