/** Finds the figures on a flat sheet: what hangs together, with what floats beside it. */
import { unite } from '../maths/geometry/bounds'
import { componentsOf, type Blob } from '../maths/geometry/components'
import { flood } from '../maths/geometry/flood'
import type { Raster } from '../maths/geometry/raster'
import type { Box } from './records'
import type { Vec } from '../kernel/numbers'

/** One figure that was found on a flat sheet. */
export interface Figure {
  /** In pixels of the raster. */
  readonly box: Box
  /** Where it stands: the middle of its lowest rows. */
  readonly feet: Vec
}

/** Paint fainter than this is nothing. */
const FAINT = 16
/** How far a colour may be from the paper's and still be paper, of 255. */
const PAPER = 24
/** Components smaller than this share of the sheet are dirt. */
const DIRT = 0.00004
/** A figure's box is at least this large beside the largest one. */
const MAJOR = 0.12
/** Share of its height in which a figure touches the ground. */
const GROUND = 0.04

/** 1 where something is drawn: not transparent, and not paper that is seen from the border. */
export function drawnPixels(raster: Raster, paper = paperColour(raster)): Uint8Array {
  const { width, height, data } = raster
  const drawn = new Uint8Array(width * height)
  for (let i = 0; i < drawn.length; i++) drawn[i] = data[4 * i + 3]! >= FAINT && !(paper && isNear(data, i, paper)) ? 1 : 0
  if (!paper) return drawn
  const outside = flood(drawn, width, height, borderOf(width, height))
  return outside.map((v) => 1 - v)
}

/** The colour of a sheet's opaque border where most of the border has it; null on a transparent sheet. */
export function paperColour({ width, height, data }: Raster): readonly [number, number, number] | null {
  const border = borderOf(width, height)
  const counts = new Map<number, number>()
  const keyOf = (i: number): number => ((data[4 * i]! >> 3) << 10) | ((data[4 * i + 1]! >> 3) << 5) | (data[4 * i + 2]! >> 3)
  for (const i of border) {
    if (data[4 * i + 3]! < 250) continue
    counts.set(keyOf(i), (counts.get(keyOf(i)) ?? 0) + 1)
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  if (!most || most[1] < border.length / 2) return null
  const sum = [0, 0, 0, 0]
  for (const i of border) {
    if (keyOf(i) !== most[0]) continue
    for (let k = 0; k < 3; k++) sum[k]! += data[4 * i + k]!
    sum[3]!++
  }
  return [sum[0]! / sum[3]!, sum[1]! / sum[3]!, sum[2]! / sum[3]!]
}

const isNear = (data: Raster['data'], i: number, [r, g, b]: readonly [number, number, number]): boolean =>
  Math.max(Math.abs(data[4 * i]! - r), Math.abs(data[4 * i + 1]! - g), Math.abs(data[4 * i + 2]! - b)) <= PAPER

function borderOf(width: number, height: number): number[] {
  const out: number[] = []
  for (let x = 0; x < width; x++) out.push(x, (height - 1) * width + x)
  for (let y = 1; y < height - 1; y++) out.push(y * width, y * width + width - 1)
  return out
}

/**
 * The figures of a sheet in reading order: rows from the top, in each from the left.
 *
 * Components are found first; large ones are figures, or pieces of one where they stand over each other or overlap;
 * small ones (a hat in the air, an eye) belong to the nearest.
 */
export function findFigures(raster: Raster): Figure[] {
  const { width, height } = raster
  const blobs = componentsOf(drawnPixels(raster), width, height).filter((b) => b.pixels.length >= DIRT * width * height)
  if (blobs.length === 0) return []
  const size = (b: Blob): number => (b.maxX - b.minX + 1) * (b.maxY - b.minY + 1)
  const largest = Math.max(...blobs.map(size))
  const majors = mergeWhile(
    blobs.filter((b) => size(b) >= MAJOR * largest),
    isOneFigure,
  )
  for (const minor of blobs.filter((b) => size(b) < MAJOR * largest)) {
    const nearest = majors.reduce((best, m) => (gap(m, minor) < gap(best, minor) ? m : best))
    absorb(nearest, minor)
  }
  return rows(mergeWhile(majors, (a, b) => overlap(a, b) > 0.5)).map((b) => ({
    box: { x: b.minX, y: b.minY, width: b.maxX - b.minX + 1, height: b.maxY - b.minY + 1 },
    feet: feetOf(b, width),
  }))
}

/** Merges blobs until no two belong together. */
function mergeWhile(blobs: readonly Blob[], belong: (a: Blob, b: Blob) => boolean): Blob[] {
  const out = [...blobs]
  for (let i = 0; i < out.length; i++)
    for (let k = 0; k < out.length; k++) {
      if (k === i || !belong(out[i]!, out[k]!)) continue
      absorb(out[i]!, out[k]!)
      out.splice(k, 1)
      i = -1
      break
    }
  return out
}

function absorb(into: Blob, other: Blob): void {
  unite(into, other)
  for (const i of other.pixels) into.pixels.push(i)
}

const between = (minA: number, maxA: number, minB: number, maxB: number): number => Math.max(0, Math.max(minA, minB) - Math.min(maxA, maxB))
const gap = (a: Blob, b: Blob): number => Math.hypot(between(a.minX, a.maxX, b.minX, b.maxX), between(a.minY, a.maxY, b.minY, b.maxY))

/** How much of the smaller box lies in the other. */
function overlap(a: Blob, b: Blob): number {
  const [w, h] = [Math.min(a.maxX, b.maxX) - Math.max(a.minX, b.minX) + 1, Math.min(a.maxY, b.maxY) - Math.max(a.minY, b.minY) + 1]
  const least = Math.min((a.maxX - a.minX + 1) * (a.maxY - a.minY + 1), (b.maxX - b.minX + 1) * (b.maxY - b.minY + 1))
  return w <= 0 || h <= 0 ? 0 : (w * h) / least
}

/** Pieces of one figure: their boxes overlap, or one stands right over the other. */
function isOneFigure(a: Blob, b: Blob): boolean {
  if (overlap(a, b) > 0.25) return true
  const [wideA, wideB] = [a.maxX - a.minX + 1, b.maxX - b.minX + 1]
  const common = Math.min(a.maxX, b.maxX) - Math.max(a.minX, b.minX) + 1
  const tall = Math.max(a.maxY, b.maxY) - Math.min(a.minY, b.minY)
  return common > 0.6 * Math.min(wideA, wideB) && between(a.minY, a.maxY, b.minY, b.maxY) < 0.06 * tall
}

function rows(blobs: readonly Blob[]): Blob[] {
  const left = [...blobs].sort((a, b) => a.minY - b.minY)
  const out: Blob[] = []
  while (left.length > 0) {
    const middle = (left[0]!.minY + left[0]!.maxY) / 2
    const row = left.filter((b) => b.minY <= middle)
    out.push(...row.sort((a, b) => a.minX - b.minX))
    for (const b of row) left.splice(left.indexOf(b), 1)
  }
  return out
}

function feetOf(blob: Blob, width: number): Vec {
  const top = blob.maxY - GROUND * (blob.maxY - blob.minY)
  let [minX, maxX] = [Infinity, -Infinity]
  for (const i of blob.pixels) {
    if (Math.floor(i / width) < top) continue
    minX = Math.min(minX, i % width)
    maxX = Math.max(maxX, i % width)
  }
  return { x: (minX + maxX + 1) / 2, y: blob.maxY + 1 }
}
