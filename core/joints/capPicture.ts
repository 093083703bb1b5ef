/**
 * Round ends of pieces at a joint, for pictures.
 *
 * What is missing of the disc is filled from the piece itself, colours and lines continued inward. Outline pixels that
 * cross the disc are taken out before. The lower piece gets a line along its new end, or stays as it is where it was
 * painted round; the upper piece gets none, its disc is narrower by the line, which lies inside the rim of a picture.
 * What stands out beyond the disc goes.
 */
import { coverageOf } from '../maths/geometry/coverage'
import { newRaster, padded, type PixelData, type Raster } from '../maths/geometry/raster'
import type { Layering } from './caps'
import { discArea, type Disc } from '../maths/geometry/disc'
import { beyond, endAt } from '../maths/geometry/ends'
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

/** The opaque pixels of a picture near a disc, and those of them at its rim, as spots. */
function spotsOf({ data, width, height }: Raster, { centre, radius }: Disc): { inside: number[]; rim: number[] } {
  const inside: number[] = []
  const rim: number[] = []
  const isOpaque = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < width && y < height && data[4 * (y * width + x) + 3]! >= 128
  const reach = 4 * radius
  for (let y = Math.max(0, Math.floor(centre.y - reach)); y < Math.min(height, centre.y + reach); y++)
    for (let x = Math.max(0, Math.floor(centre.x - reach)); x < Math.min(width, centre.x + reach); x++) {
      if (!isOpaque(x, y)) continue
      inside.push(x + 0.5, y + 0.5)
      if (!isOpaque(x - 1, y) || !isOpaque(x + 1, y) || !isOpaque(x, y - 1) || !isOpaque(x, y + 1)) rim.push(x + 0.5, y + 0.5)
    }
  return { inside, rim }
}

/** Takes away what lies in an area and not in another; edges stay smooth. */
function takeAway(raster: Raster, gone: ArrayLike<number>, kept: ArrayLike<number>): void {
  for (let i = 0; i < gone.length; i++) raster.data[4 * i + 3] = Math.round(raster.data[4 * i + 3]! * (1 - gone[i]! * (1 - kept[i]!)))
}

function capped(painted: Raster, disc: Disc, layering: Layering, { threshold, progress }: CapOptions): Raster {
  const { width, height } = painted
  const line = threshold > 0 ? lineWidthOf(painted, threshold) : 0
  const { inside, rim } = spotsOf(painted, disc)
  const end = endAt(inside, rim, disc)
  if (layering === 'under' && end.kind === 'round') return painted
  const own = end.kind === 'round' ? end.radius : disc.radius
  const colour = coverageOf(discArea({ ...disc, radius: Math.max(1, own - (layering === 'over' ? line : 0)) }), width, height)
  const source = newRaster(width, height)
  source.data.set(painted.data)
  const lines = linePixels(painted, threshold)
  const past = end.kind === 'runs on' ? new Float64Array(width * height) : coverageOf(beyond(disc, end.away), width, height)
  takeAway(source, past, colour)
  const inner = coverageOf(discArea({ ...disc, radius: Math.max(1, own - 1.5 * line) }), width, height)
  const crossing = inner.map((share, i) => Math.max(share, Math.min(past[i]!, colour[i]!)))
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
