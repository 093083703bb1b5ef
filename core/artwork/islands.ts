/** Islands of artwork: what a lasso took along from a neighbour, and what was left behind apart from its part. */
import { componentsOf, type Blob } from '../maths/geometry/components'
import { grow, traceBorders } from '../maths/geometry/trace'
import { polygonPath } from '../maths/geometry/path'
import { drawnPixels, paperColour } from './figures'
import { emptyBounds, include } from '../maths/geometry/bounds'
import { coverageOf } from '../maths/geometry/coverage'
import { padded, type Raster } from '../maths/geometry/raster'
import type { Area } from '../maths/geometry/booleans'

/** Islands at least this large, as a share of the largest, are pieces in their own right: a pair of eyes, buttons. */
const ITS_OWN = 0.3
/** How far an island's pixels are grown so that its smooth edge goes with it, px. */
const EDGE = 2

/**
 * What a selection took along of something that goes on outside of it: a slice of the other boot. What is meant is the
 * largest piece; small pieces that the selection's border cuts through, and that touch it nowhere, belong to what they
 * were cut from.
 *
 * @param drawn [width * height] 1 where anything is drawn
 * @param selected [width * height] 1 in the selection
 * @returns [width * height] 1 where it is to be left out; null where nothing is
 */
export function foreignBits(drawn: Uint8Array, selected: Uint8Array, width: number, height: number): Uint8Array | null {
  const [main, ...others] = largestFirst(
    componentsOf(
      drawn.map((v, i) => v & selected[i]!),
      width,
      height,
    ),
  )
  if (!main) return null
  const goesOn = (i: number): boolean => {
    const x = i % width
    const around = [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width]
    return around.some((n) => drawn[n] === 1 && selected[n] === 0)
  }
  const foreign = others.filter((o) => o.pixels.length < ITS_OWN * main.pixels.length && o.pixels.some(goesOn))
  if (foreign.length === 0) return null
  const out = new Uint8Array(width * height)
  for (const { pixels } of foreign) for (const i of pixels) out[i] = 1
  return out
}

/**
 * What of a selection belongs to what is beside, as an area.
 *
 * @param source what is cut, on paper or on nothing
 * @param area selected, in px of the source
 */
export function foreignArea(source: Raster, area: Area): Area | null {
  const { width, height } = source
  const selected = Uint8Array.from(coverageOf(area, width, height), (share) => (share >= 0.5 ? 1 : 0))
  const bits = foreignBits(drawnPixels(source, paperOf(source)), selected, width, height)
  return bits && areaOfPixels(bits, width, height)
}

/** The colour of the paper on which a source lies: there may be nothing around the paper, but nowhere within it. */
function paperOf(source: Raster): ReturnType<typeof paperColour> {
  const { width, height, data } = source
  const box = emptyBounds()
  let opaque = 0
  for (let i = 0; i < width * height; i++) {
    if (data[4 * i + 3]! < 250) continue
    include(box, i % width, Math.floor(i / width))
    opaque++
  }
  if (opaque === 0 || opaque < (box.maxX + 1 - box.minX) * (box.maxY + 1 - box.minY)) return null
  return paperColour(padded(source, -box.minX, -box.minY, box.maxX + 1 - width, box.maxY + 1 - height))
}

const largestFirst = (blobs: readonly Blob[]): Blob[] => [...blobs].sort((a, b) => b.pixels.length - a.pixels.length)

/** Pixels as an area around them, a little wider than they are. */
export function areaOfPixels(cells: Uint8Array, width: number, height: number): Area {
  const paths = traceBorders(grow({ width, height, cells }, EDGE)).map((corners) =>
    polygonPath(corners.flatMap(([x, y]) => [x - EDGE, y - EDGE])),
  )
  return { paths, rule: 'nonzero' }
}

/** An island of a part that hardly belongs to it. */
export interface Stray {
  readonly island: Blob
  /** Distance from the largest piece, px. */
  readonly gap: number
}

/** Smaller islands are specks that nobody sees, px. */
const SPECK = 3

/** Islands of a part beside its largest piece, except those that are pieces in their own right. */
export function smallIslands(shown: Uint8Array, width: number, height: number): Stray[] {
  const [main, ...others] = largestFirst(componentsOf(shown, width, height))
  if (!main) return []
  return others
    .filter((o) => o.pixels.length >= SPECK && o.pixels.length < ITS_OWN * main.pixels.length)
    .map((island) => ({ island, gap: gapBetween(island, main, width) }))
}

/** The least distance between pixels of two islands, px. */
function gapBetween(a: Blob, b: Blob, width: number): number {
  let least = Infinity
  for (const i of a.pixels) {
    const [x, y] = [i % width, Math.floor(i / width)]
    const toBox = Math.hypot(Math.max(0, b.minX - x, x - b.maxX), Math.max(0, b.minY - y, y - b.maxY))
    if (toBox >= least) continue
    for (const n of b.pixels) least = Math.min(least, Math.hypot(x - (n % width), y - Math.floor(n / width)))
  }
  return least
}
