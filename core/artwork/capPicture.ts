/**
 * Round ends of pieces at a joint, for pictures, and lines taken out of pictures.
 *
 * What is missing of the disc is filled from the piece itself, colours and lines continued inward. Outline pixels that
 * cross the disc are taken out before. The lower piece gets a line along its new end, the upper piece none; its disc
 * is narrower by the line, which lies inside the rim of a picture.
 */
import type { Area } from '../geometry/booleans'
import { coverageOf, newRaster, padded, type PixelData, type Raster } from '../geometry/raster'
import { circlePath, type Disc, type Layering } from './caps'
import { fillHole } from './fill'

export interface PictureCap {
  readonly raster: Raster
  /** Room that was added at the left and at the top, px. */
  readonly left: number
  readonly top: number
}

export interface CapOptions {
  /** Lightness, 0 to 1, below which a pixel belongs to a line; 0 for pictures without lines. */
  readonly threshold: number
  readonly progress?: (done: number) => void
}

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

/** Gives a picture its round end. `disc` in its pixels. */
export function capPicture(source: Raster, disc: Disc, layering: Layering, options: CapOptions): PictureCap {
  const margin = 2
  const { centre, radius } = disc
  const left = Math.max(0, Math.ceil(radius - centre.x) + margin)
  const top = Math.max(0, Math.ceil(radius - centre.y) + margin)
  const right = Math.max(0, Math.ceil(centre.x + radius - source.width) + margin)
  const bottom = Math.max(0, Math.ceil(centre.y + radius - source.height) + margin)
  const raster = padded(source, left, top, right, bottom)
  const at: Disc = { centre: { x: centre.x + left, y: centre.y + top }, radius }
  return { raster: capped(raster, at, layering, options), left, top }
}

const discArea = (disc: Disc): Area => ({ paths: [circlePath(disc)], rule: 'nonzero' })

function capped(source: Raster, disc: Disc, layering: Layering, { threshold, progress }: CapOptions): Raster {
  const { width, height } = source
  const line = threshold > 0 ? lineWidthOf(source, threshold) : 0
  const colour = coverageOf(discArea({ ...disc, radius: Math.max(1, disc.radius - (layering === 'over' ? line : 0)) }), width, height)
  const lines = linePixels(source, threshold)
  const crossing = coverageOf(discArea({ ...disc, radius: Math.max(1, disc.radius - 1.5 * line) }), width, height)
  const hole = new Uint8Array(width * height)
  const cleared = newRaster(width, height)
  cleared.data.set(source.data)
  for (let i = 0; i < hole.length; i++) {
    const isCrossing = line > 0 && crossing[i]! > 0 && isLineOrRim(lines, i, width)
    if ((colour[i]! > 0 && source.data[4 * i + 3]! < 250) || isCrossing) hole[i] = 1
    // What is next to a line is mixed with it, and no colour to be continued.
    if (line > 0 && !hole[i] && isLineOrRim(lines, i, width)) cleared.data[4 * i + 3] = 0
  }
  const filled = fillHole(cleared, hole, progress ? { progress } : {})
  const out = newRaster(width, height)
  out.data.set(source.data)
  for (let i = 0; i < hole.length; i++) if (hole[i]) layUnder(out.data, filled.data, i, colour[i]!, crossing[i]! > 0)
  if (layering === 'under' && line > 0) drawEnd(out, source, disc, line, lines)
  return out
}

/** Whether a pixel or one beside it belongs to a line. */
const isLineOrRim = (lines: Uint8Array, i: number, width: number): boolean =>
  Boolean(lines[i] || lines[i - 1] || lines[i + 1] || lines[i - width] || lines[i + width])

/** Lays filled colour under what is there; where a line was taken out, in its place. */
function layUnder(out: PixelData, filled: PixelData, i: number, share: number, replaces: boolean): void {
  const own = replaces ? 0 : out[4 * i + 3]! / 255
  const alpha = own + (1 - own) * share
  if (alpha <= 0) return
  for (let c = 0; c < 3; c++) out[4 * i + c] = Math.round((out[4 * i + c]! * own + filled[4 * i + c]! * (1 - own) * share) / alpha)
  out[4 * i + 3] = Math.round(255 * alpha)
}

/** Draws the line along the new end, where nothing of the piece was before. */
function drawEnd(out: Raster, before: Raster, disc: Disc, line: number, lines: Uint8Array): void {
  const { width, height } = out
  const outer = coverageOf(discArea(disc), width, height)
  const inner = coverageOf(discArea({ ...disc, radius: Math.max(0.5, disc.radius - line) }), width, height)
  const colour = meanColour(before.data, lines)
  for (let i = 0; i < outer.length; i++) {
    const share = (outer[i]! - inner[i]!) * (1 - before.data[4 * i + 3]! / 255)
    if (share <= 0) continue
    const own = out.data[4 * i + 3]! / 255
    const alpha = Math.max(own, share)
    for (let c = 0; c < 3; c++) out.data[4 * i + c] = Math.round(out.data[4 * i + c]! * (1 - share) + colour[c]! * share)
    out.data[4 * i + 3] = Math.round(255 * alpha)
  }
}

function meanColour(d: PixelData, lines: Uint8Array): readonly [number, number, number] {
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
  for (let i = 0; i < hole.length; i++) if (isLineOrRim(lines, i, width) && data[4 * i + 3]! > 0) hole[i] = 1
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
