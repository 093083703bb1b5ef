/** Lines in pictures: which pixels belong to them, how wide they are, and lines and colour taken apart. */
import { newRaster, padded, type PixelData, type Raster } from '../maths/geometry/raster'
import { fillHole } from './filling/fill'
import { squaresWithin } from './filling/level'

/** Lightness below which a pixel counts as line, unless told otherwise. */
export const LINE_THRESHOLD = 0.3

/** Lightness of a pixel, 0 to 1: Rec. 709 luma. */
export const lightness = (d: PixelData, i: number): number => (0.2126 * d[4 * i]! + 0.7152 * d[4 * i + 1]! + 0.0722 * d[4 * i + 2]!) / 255

/** 1 where a pixel belongs to a line: dark enough and opaque enough to be seen. */
export function linePixels({ width, height, data }: Raster, threshold: number): Uint8Array {
  const out = new Uint8Array(width * height)
  for (let i = 0; i < out.length; i++) if (data[4 * i + 3]! > 40 && lightness(data, i) < threshold) out[i] = 1
  return out
}

/**
 * Width of the outline of a picture, px: twice the mean distance that line pixels at the rim reach inward. 0 without
 * lines along at least a quarter of the rim.
 */
export function lineWidthOf(raster: Raster, threshold: number): number {
  const { width, height, data } = raster
  const lines = linePixels(raster, threshold)
  const isOpaque = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < width && y < height && data[4 * (y * width + x) + 3]! >= 128
  let rims = 0
  const runs: number[] = []
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (!isOpaque(x, y)) continue
      for (const [dx, dy] of [
        [1, 0],
        [0, 1],
        [-1, 0],
        [0, -1],
      ] as const) {
        if (isOpaque(x - dx, y - dy)) continue
        rims++
        // The rim itself is antialiased and may be light; a line begins within two pixels.
        let run = 0
        let skipped = 0
        for (let k = 0; isOpaque(x + k * dx, y + k * dy) && k < 40; k++) {
          if (lines[(y + k * dy) * width + x + k * dx]) run = k + 1
          else if (++skipped > 2 || run > 0) break
        }
        if (run > 0 && run < 30) runs.push(run)
      }
    }
  if (runs.length < rims / 4) return 0
  // Runs along the axes are longer where the outline is slanted: the lower quartile is the honest one.
  return runs.sort((a, b) => a - b)[Math.floor(runs.length / 4)]!
}

/** How many times as wide as the outline something dark may be and still be a line. */
const LINE_AT_MOST = 2

/**
 * Line pixels without those of dark areas: what is as thin as the outline, an eye's rim but not a black boot (opening
 * by a square, Serra 1982).
 *
 * @param outline its width, px
 * @returns [width * height] 1 where a pixel belongs to a line
 */
export function thinLines(raster: Raster, threshold: number, outline: number): Uint8Array {
  const reach = Math.max(1, Math.ceil((LINE_AT_MOST * outline - 1) / 2))
  // Squares about the pixels at the border need room.
  const room = 2 * reach
  const wide = padded(raster, room, room, room, room)
  const dark = linePixels(wide, threshold)
  const cores = squaresWithin(dark, wide.width, wide.height, reach)
  const isFar = squaresWithin(
    cores.map((c) => 1 - c),
    wide.width,
    wide.height,
    reach,
  )
  const out = new Uint8Array(raster.width * raster.height)
  for (let i = 0; i < out.length; i++) {
    const at = (Math.floor(i / raster.width) + room) * wide.width + (i % raster.width) + room
    out[i] = dark[at]! && isFar[at]!
  }
  return out
}

/** Whether a pixel or one beside it belongs to a line. */
export const isByLine = (lines: Uint8Array, i: number, width: number): boolean =>
  Boolean(lines[i] || lines[i - 1] || lines[i + 1] || lines[i - width] || lines[i + width])

/** Mean colour of the pixels of lines; black without any. */
export function meanColour(d: PixelData, lines: Uint8Array): readonly [number, number, number] {
  const sum = [0, 0, 0]
  let n = 0
  for (let i = 0; i < lines.length; i++) {
    if (!lines[i]) continue
    n++
    for (let c = 0; c < 3; c++) sum[c]! += d[4 * i + c]!
  }
  return n === 0 ? [0, 0, 0] : [sum[0]! / n, sum[1]! / n, sum[2]! / n]
}

/** A picture as two: its lines alone, and its colour with the places of the lines filled. */
export function splitLines(source: Raster, threshold: number, progress?: (done: number) => void): { line: Raster; colour: Raster } {
  const { width, height, data } = source
  const lines = linePixels(source, threshold)
  const line = newRaster(width, height)
  const hole = new Uint8Array(width * height)
  for (let i = 0; i < hole.length; i++) if (isByLine(lines, i, width) && data[4 * i + 3]! > 0) hole[i] = 1
  const opaque = newRaster(width, height)
  opaque.data.set(data)
  const filled = fillHole(opaque, hole, progress ? { progress, reach: 2, search: 24 } : { reach: 2, search: 24 })
  const dark = meanColour(data, lines)
  const colour = newRaster(width, height)
  for (let i = 0; i < hole.length; i++) {
    const p = 4 * i
    for (let c = 0; c < 4; c++) colour.data[p + c] = data[p + c]!
    if (!hole[i]) continue
    // How much of the pixel is line: where it lies between the colour around it and the colour of lines.
    let along = 0
    let length = 0
    for (let c = 0; c < 3; c++) {
      const way = dark[c]! - filled.data[p + c]!
      along += way * (data[p + c]! - filled.data[p + c]!)
      length += way * way
      colour.data[p + c] = filled.data[p + c]!
    }
    const share = length < 1 ? 1 : Math.min(1, Math.max(0, along / length))
    for (let c = 0; c < 3; c++) line.data[p + c] = Math.round(dark[c]!)
    line.data[p + 3] = Math.round(share * data[p + 3]!)
  }
  return { line, colour }
}
