/**
 * Filling holes of a picture from what surrounds them, coarse to fine: likes of patches are looked for at chance
 * (correspondence.ts) among what belongs to the same material (material.ts), first where the picture is so small that
 * the hole is a few pixels, then larger and larger. Seams between what was copied are solved away at the end.
 */
import { seededRandom } from '../../maths/solve/random'
import { componentsOf, type Blob } from '../../maths/geometry/components'
import { newRaster, padded, type Raster } from '../../maths/geometry/raster'
import { Correspondence } from './correspondence'
import { depthsOf, halved, HOLE, KNOWN, NOTHING, squaresWithin, type Level } from './level'
import { materialOf } from './material'
import { blendSeams } from './seamless'

/** How gaps are filled; each has a default that suits line art at 1000 px. */
export interface FillOptions {
  /** Half the side of a patch less one half, px: 3 means patches of 7 by 7. */
  readonly reach?: number
  /** How far away patches are looked for, px. */
  readonly search?: number
  /** Called with the share that is done. */
  readonly progress?: (done: number) => void
}

const REACH = 3
const SEARCH = 48
/** A pixel counts as known colour from this alpha on. */
const OPAQUE = 200
/** Rounds of looking and agreeing at full size, and at each smaller one. */
const FINE_ROUNDS = 2
const COARSE_ROUNDS = 5
/** At full size smaller patches do, as what goes where is known by then. */
const FINE_REACH = 2
/** So many places to copy from are a choice. */
const CHOICE = 12
const MOST_LEVELS = 7

/**
 * Fills pixels of a raster.
 *
 * @param hole [width * height] 1 where a pixel is to be filled
 * @returns a raster in which the filled pixels are opaque; they stay as they are only where nothing at all is known
 */
export function fillHole(source: Raster, hole: Uint8Array, options: FillOptions = {}): Raster {
  const { reach = REACH, search = SEARCH, progress } = options
  const out: Raster = { ...source, data: source.data.slice() }
  const holes = componentsOf(hole, source.width, source.height)
  const total = holes.reduce((sum, h) => sum + h.pixels.length, 0)
  let done = 0
  for (const one of holes) {
    const share = one.pixels.length / total
    const told = progress && ((within: number): void => progress(done + share * within))
    fillOne(source, hole, one, out, { reach, search, told })
    done += share
  }
  return out
}

interface Manner {
  readonly reach: number
  readonly search: number
  readonly told: ((done: number) => void) | undefined
}

/** Fills one hole from the picture about it; where nothing is near, from whatever the picture has. */
function fillOne(source: Raster, hole: Uint8Array, { pixels, ...box }: Blob, out: Raster, manner: Manner): void {
  const { width, height } = source
  const near = manner.search + 2 * manner.reach + 2
  for (const air of [near, Math.max(width, height)]) {
    const left = Math.max(0, box.minX - air)
    const top = Math.max(0, box.minY - air)
    const right = Math.min(width, box.maxX + 1 + air)
    const bottom = Math.min(height, box.maxY + 1 + air)
    const window = padded(source, -left, -top, right - width, bottom - height)
    const inWindow = (i: number): number => (Math.floor(i / width) - top) * window.width + (i % width) - left
    const isHole = new Uint8Array(window.width * window.height)
    for (let y = 0; y < window.height; y++) isHole.set(hole.subarray((y + top) * width + left, (y + top) * width + right), y * window.width)
    const own = new Uint8Array(isHole.length)
    for (const i of pixels) own[inWindow(i)] = 1
    const filled = fillWindow(window, isHole, own, manner)
    if (!filled) continue
    for (const i of pixels) for (let c = 0; c < 4; c++) out.data[4 * i + c] = filled.data[4 * inWindow(i) + c]!
    return
  }
}

/** A window with its hole filled; null where nothing in it is known. */
function fillWindow(window: Raster, isHole: Uint8Array, own: Uint8Array, { reach, search, told }: Manner): Raster | null {
  const level = levelOf(window, isHole, own, 2 * reach + 1, search)
  if (!level.material.includes(1)) return null
  const levels = [{ at: level, reach: reachIn(level, reach) }]
  let last = level
  while (levels.length < MOST_LEVELS && isDeep(last, reach)) {
    last = halved(last)
    const found = reachIn(last, reach)
    if (found < reach) break
    levels.push({ at: last, reach: found })
  }
  const random = seededRandom(1)
  let coarse: Correspondence | null = null
  for (let k = levels.length - 1; k >= 0; k--) {
    const { at, reach: found } = levels[k]!
    const here: Correspondence = new Correspondence(at, k === 0 && levels.length > 1 ? Math.min(found, FINE_REACH) : found, 2 ** k, random)
    here.begin(coarse)
    const rounds = k === 0 ? FINE_ROUNDS : COARSE_ROUNDS
    for (let round = 0; round < rounds; round++) {
      here.search()
      if (k > 0 || round < rounds - 1) here.agree()
      told?.(1 - 0.8 ** (levels.length - k - 1 + round / rounds))
    }
    coarse = here
  }
  return copied(level, coarse!.origins())
}

function levelOf({ width, height, data }: Raster, isHole: Uint8Array, own: Uint8Array, ring: number, search: number): Level {
  const state = new Uint8Array(own.length)
  const passable = new Uint8Array(own.length)
  for (let i = 0; i < own.length; i++) {
    state[i] = own[i] ? HOLE : !isHole[i] && data[4 * i + 3]! >= OPAQUE ? KNOWN : NOTHING
    passable[i] = data[4 * i + 3]! > 0 ? 1 : 0
  }
  const bare = { width, height, colours: data, state }
  return { ...bare, material: materialOf(bare, passable, ring, search) }
}

/** Whether a hole has an inside that no patch sees from its border. */
function isDeep(level: Level, reach: number): boolean {
  const depths = depthsOf(level)
  for (let i = 0; i < depths.length; i++) if (depths[i]! > reach + 1) return true
  return false
}

/** The largest patches of which there is a choice. */
function reachIn({ material, width, height }: Level, most: number): number {
  for (let reach = most; reach > 0; reach--) {
    let count = 0
    for (const isSource of squaresWithin(material, width, height, reach)) count += isSource
    if (count >= CHOICE) return reach
  }
  return 0
}

/** The level with its hole copied from where each pixel comes from, as one surface. */
function copied({ width, height, colours, state }: Level, from: Int32Array): Raster {
  const out = newRaster(width, height)
  const known = new Uint8Array(state.length)
  for (let i = 0; i < state.length; i++) {
    const origin = from[i]! >= 0 ? from[i]! : i
    for (let c = 0; c < 3; c++) out.data[4 * i + c] = colours[4 * origin + c]!
    out.data[4 * i + 3] = state[i] === NOTHING ? 0 : 255
    known[i] = state[i] === KNOWN ? 1 : 0
  }
  blendSeams(out, from, known)
  return out
}
