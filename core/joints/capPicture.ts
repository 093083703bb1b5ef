/**
 * Round ends of pieces at a joint, for pictures.
 *
 * What is missing of the disc is filled from the piece itself, colours and lines continued inward. Outline pixels that
 * cross the disc are taken out before. The lower piece gets a line along its new end, the upper piece none; its disc
 * is narrower by the line, which lies inside the rim of a picture.
 */
import { coverageOf } from '../maths/geometry/coverage'
import { newRaster, padded, type PixelData, type Raster } from '../maths/geometry/raster'
import { discArea, type Disc, type Layering } from './caps'
import { fillHole } from '../artwork/filling/fill'
import { isByLine, linePixels, lineWidthOf, meanColour } from '../artwork/linePixels'

/** A round end of a picture, as pixels. */
export interface PictureCap {
  readonly raster: Raster
  /** Room that was added at the left and at the top, px. */
  readonly left: number
  readonly top: number
}

/** How round ends are painted. */
export interface CapOptions {
  /** Lightness, 0 to 1, below which a pixel belongs to a line; 0 for pictures without lines. */
  readonly threshold: number
  readonly progress?: (done: number) => void
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
    const isCrossing = line > 0 && crossing[i]! > 0 && isByLine(lines, i, width)
    if ((colour[i]! > 0 && source.data[4 * i + 3]! < 250) || isCrossing) hole[i] = 1
    // What is next to a line is mixed with it, and no colour to be continued.
    if (line > 0 && !hole[i] && isByLine(lines, i, width)) cleared.data[4 * i + 3] = 0
  }
  const filled = fillHole(cleared, hole, progress ? { progress } : {})
  const out = newRaster(width, height)
  out.data.set(source.data)
  for (let i = 0; i < hole.length; i++) if (hole[i]) layUnder(out.data, filled.data, i, colour[i]!, crossing[i]! > 0)
  if (layering === 'under' && line > 0) drawEnd(out, source, disc, line, lines)
  return out
}

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
