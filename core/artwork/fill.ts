/**
 * Filling holes of a picture from what surrounds them, patch by patch (Criminisi, Pérez and Toyama 2004).
 *
 * The border of the hole is filled inward. Where a line runs into the hole goes first, so that lines are continued
 * before colours close over them; each patch is copied from the place whose known pixels are most alike. Seams between
 * patches are solved away at the end.
 */
import { emptyBounds, include, isEmpty, type Bounds } from '../maths/geometry/bounds'
import { newRaster, padded, type Raster } from '../maths/geometry/raster'
import { blendSeams } from './seamless'

/** How gaps are filled; each has a default that suits line art at 1000 px. */
export interface FillOptions {
  /** Half the side of a patch less one half, px: 4 means patches of 9 by 9. */
  readonly reach?: number
  /** How far away patches are looked for, px. */
  readonly search?: number
  /** Called with the share that is done. */
  readonly progress?: (done: number) => void
}

/** A pixel counts as known colour from this alpha on. */
const OPAQUE = 200

/**
 * Fills pixels of a raster.
 *
 * @param hole [width * height] 1 where a pixel is to be filled
 * @returns a raster in which the filled pixels are opaque; a hole without any known pixel near it stays as it is
 */
export function fillHole(source: Raster, hole: Uint8Array, options: FillOptions = {}): Raster {
  const box = holeBox(hole, source)
  if (!box) return { ...source, data: source.data.slice() }
  // Only what patches can reach is looked at, however large the picture.
  const air = (options.search ?? SEARCH) + 2 * (options.reach ?? REACH) + 2
  const [left, top] = [Math.max(0, box.minX - air), Math.max(0, box.minY - air)]
  const [right, bottom] = [Math.min(source.width, box.maxX + 1 + air), Math.min(source.height, box.maxY + 1 + air)]
  const window = padded(source, -left, -top, right - source.width, bottom - source.height)
  const inside = new Uint8Array(window.width * window.height)
  for (let y = 0; y < window.height; y++)
    inside.set(hole.subarray((y + top) * source.width + left, (y + top) * source.width + right), y * window.width)
  const filled = new Filler(window, inside, options).run()
  const out = { ...source, data: source.data.slice() }
  for (let y = 0; y < window.height; y++)
    out.data.set(filled.data.subarray(4 * y * window.width, 4 * (y + 1) * window.width), 4 * ((y + top) * source.width + left))
  return out
}

const REACH = 4
const SEARCH = 36

function holeBox(hole: Uint8Array, { width }: Raster): Bounds | null {
  const box = emptyBounds()
  hole.forEach((isHole, i) => {
    if (isHole) include(box, i % width, Math.floor(i / width))
  })
  return isEmpty(box) ? null : box
}

/** What a squared px of distance costs a patch, in squared steps of colour. */
const FARNESS = 0.02

const OFFSETS = new Map<number, Int32Array>()

/** Offsets within a square, the nearest first: x, y and squared distance of each. */
function nearFirst(reach: number): Int32Array {
  const known = OFFSETS.get(reach)
  if (known) return known
  const all: [number, number, number][] = []
  for (let y = -reach; y <= reach; y++) for (let x = -reach; x <= reach; x++) all.push([x, y, x * x + y * y])
  const made = Int32Array.from(all.sort((a, b) => a[2] - b[2]).flat())
  OFFSETS.set(reach, made)
  return made
}

class Filler {
  private readonly out: Raster
  private readonly width: number
  private readonly height: number
  private readonly reach: number
  private readonly search: number
  /** 1 where the colour is known: copied from the source or filled. */
  private readonly known: Uint8Array
  private readonly open: Uint8Array
  /** The pixel that each filled one was copied from; -1 for all others. */
  private readonly from: Int32Array
  private readonly confidence: Float32Array
  private readonly grey: Float32Array
  /** Summed area table [(w + 1) * (h + 1)] of pixels that cannot be copied from. */
  private readonly barred: Int32Array
  private remaining = 0
  private readonly border = new Set<number>()
  private readonly priorities: Float32Array

  constructor(
    source: Raster,
    hole: Uint8Array,
    private readonly options: FillOptions,
  ) {
    this.width = source.width
    this.height = source.height
    this.reach = options.reach ?? REACH
    this.search = options.search ?? SEARCH
    this.out = newRaster(source.width, source.height)
    this.out.data.set(source.data)
    const n = this.width * this.height
    this.known = new Uint8Array(n)
    this.open = Uint8Array.from(hole)
    this.from = new Int32Array(n).fill(-1)
    this.confidence = new Float32Array(n)
    this.grey = new Float32Array(n)
    for (let i = 0; i < n; i++) {
      if (hole[i]) {
        this.remaining++
        continue
      }
      this.known[i] = source.data[4 * i + 3]! >= OPAQUE ? 1 : 0
      this.confidence[i] = this.known[i]!
      this.grey[i] = this.greyAt(i)
    }
    this.barred = this.sumBarred()
    this.priorities = new Float32Array(n)
  }

  run(): Raster {
    const total = this.remaining
    this.renewAll()
    for (let round = 0; this.remaining > 0; round++) {
      const target = this.mostUrgent()
      if (target < 0) break
      const from = this.bestPatch(target)
      if (from < 0) this.fillFromNeighbours(target)
      else this.copyPatch(from, target)
      this.renewAround(target % this.width, Math.floor(target / this.width))
      if (round % 32 === 0) this.options.progress?.(1 - this.remaining / total)
    }
    blendSeams(this.out, this.from, (i) => this.known[i] === 1 && this.from[i]! < 0)
    return this.out
  }

  private renewAll(): void {
    const step = 2 * this.reach + 2
    for (let y = 0; y < this.height + step; y += step) for (let x = 0; x < this.width + step; x += step) this.renewAround(x, y)
  }

  private greyAt(i: number): number {
    const d = this.out.data
    return 0.299 * d[4 * i]! + 0.587 * d[4 * i + 1]! + 0.114 * d[4 * i + 2]!
  }

  private sumBarred(): Int32Array {
    const { width, height } = this
    const sums = new Int32Array((width + 1) * (height + 1))
    for (let y = 0; y < height; y++)
      for (let x = 0, row = 0; x < width; x++) {
        row += this.known[y * width + x] ? 0 : 1
        sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row
      }
    return sums
  }

  private isSource(x: number, y: number): boolean {
    const { width, height, reach, barred } = this
    if (x < reach || y < reach || x >= width - reach || y >= height - reach) return false
    const w = width + 1
    const [l, t, r, b] = [x - reach, y - reach, x + reach + 1, y + reach + 1]
    return barred[b * w + r]! - barred[t * w + r]! - barred[b * w + l]! + barred[t * w + l]! === 0
  }

  /** The pixel of the hole's border with the greatest product of confidence and data; -1 where no border is known. */
  private mostUrgent(): number {
    let best = -1
    let most = -1
    for (const i of this.border) {
      if (this.priorities[i]! <= most) continue
      most = this.priorities[i]!
      best = i
    }
    return best
  }

  /** Priorities of the border near a spot, worked out anew: only there has anything changed. */
  private renewAround(px: number, py: number): void {
    const { width, height, open, known } = this
    const far = 2 * this.reach + 2
    for (let y = Math.max(0, py - far); y <= Math.min(height - 1, py + far); y++)
      for (let x = Math.max(0, px - far); x <= Math.min(width - 1, px + far); x++) {
        const i = y * width + x
        const touches =
          open[i] &&
          ((x > 0 && known[i - 1]) ||
            (x < width - 1 && known[i + 1]) ||
            (y > 0 && known[i - width]) ||
            (y < height - 1 && known[i + width]))
        if (!touches) {
          this.border.delete(i)
          continue
        }
        this.border.add(i)
        this.priorities[i] = this.priority(x, y)
      }
  }

  private priority(px: number, py: number): number {
    const { width, height, reach, confidence, known, grey, open } = this
    let sum = 0
    let count = 0
    let strongest = 0
    let gx = 0
    let gy = 0
    for (let y = Math.max(1, py - reach); y <= Math.min(height - 2, py + reach); y++)
      for (let x = Math.max(1, px - reach); x <= Math.min(width - 2, px + reach); x++) {
        const i = y * width + x
        sum += confidence[i]!
        count++
        if (!known[i] || !known[i - 1] || !known[i + 1] || !known[i - width] || !known[i + width]) continue
        const dx = (grey[i + 1]! - grey[i - 1]!) / 2
        const dy = (grey[i + width]! - grey[i - width]!) / 2
        const size = dx * dx + dy * dy
        if (size > strongest) {
          strongest = size
          gx = dx
          gy = dy
        }
      }
    // Normal of the border: where the hole grows.
    const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= width || y >= height ? 0 : open[y * width + x]!)
    const nx = at(px + 1, py) - at(px - 1, py) + 0.5 * (at(px + 1, py + 1) + at(px + 1, py - 1) - at(px - 1, py + 1) - at(px - 1, py - 1))
    const ny = at(px, py + 1) - at(px, py - 1) + 0.5 * (at(px + 1, py + 1) + at(px - 1, py + 1) - at(px + 1, py - 1) - at(px - 1, py - 1))
    const length = Math.hypot(nx, ny) || 1
    // A line runs across its gradient; it goes into the hole as far as it runs along the normal.
    const data = Math.abs(-gy * nx + gx * ny) / length / 255
    return (sum / Math.max(1, count)) * (data + 0.001)
  }

  /** Middle of the source patch most alike in what is known of the target; -1 without any in reach. */
  private bestPatch(target: number): number {
    const { width, height } = this
    const tx = target % width
    const ty = (target - tx) / width
    let best = -1
    let least = Infinity
    const offsets = this.knownOffsets(tx, ty)
    const near = nearFirst(this.search)
    for (let k = 0; k < near.length; k += 3) {
      // Among equals the nearer one: colours of the neighbourhood stay in the neighbourhood.
      const far = FARNESS * near[k + 2]!
      if (far >= least) break
      const [x, y] = [tx + near[k]!, ty + near[k + 1]!]
      if (x < 0 || y < 0 || x >= width || y >= height || !this.isSource(x, y)) continue
      const off = this.unlikeness(target, y * width + x, offsets, least - far) + far
      if (off < least) {
        least = off
        best = y * width + x
      }
    }
    return best
  }

  /** Offsets of the known pixels of a patch. */
  private knownOffsets(tx: number, ty: number): Int32Array {
    const out: number[] = []
    this.eachOfPatch(tx, ty, (i) => {
      if (this.known[i]) out.push(i - (ty * this.width + tx))
    })
    return Int32Array.from(out)
  }

  private eachOfPatch(px: number, py: number, visit: (i: number) => void): void {
    const { width, height, reach } = this
    for (let y = Math.max(0, py - reach); y <= Math.min(height - 1, py + reach); y++)
      for (let x = Math.max(0, px - reach); x <= Math.min(width - 1, px + reach); x++) visit(y * width + x)
  }

  private unlikeness(target: number, from: number, offsets: Int32Array, limit: number): number {
    const d = this.out.data
    let sum = 0
    for (let k = 0; k < offsets.length; k++) {
      const a = 4 * (target + offsets[k]!)
      const b = 4 * (from + offsets[k]!)
      const dr = d[a]! - d[b]!
      const dg = d[a + 1]! - d[b + 1]!
      const db = d[a + 2]! - d[b + 2]!
      sum += dr * dr + dg * dg + db * db
      if (sum >= limit) return Infinity
    }
    return sum
  }

  private copyPatch(from: number, target: number): void {
    const tx = target % this.width
    const trust = this.confidenceAround(target)
    this.eachOfPatch(tx, (target - tx) / this.width, (i) => {
      if (this.open[i]) this.settle(i, from + i - target, trust)
    })
  }

  private confidenceAround(target: number): number {
    const tx = target % this.width
    let sum = 0
    let count = 0
    this.eachOfPatch(tx, (target - tx) / this.width, (i) => {
      sum += this.confidence[i]!
      count++
    })
    return sum / count
  }

  /** Without any patch to copy a pixel takes the colour of a known neighbour. */
  private fillFromNeighbours(target: number): void {
    const x = target % this.width
    const near = [x > 0 ? target - 1 : -1, x < this.width - 1 ? target + 1 : -1, target - this.width, target + this.width]
    this.settle(
      target,
      near.find((i) => i >= 0 && i < this.known.length && this.known[i])!,
      this.confidenceAround(target),
    )
  }

  private settle(i: number, from: number, trust: number): void {
    const d = this.out.data
    for (let c = 0; c < 3; c++) d[4 * i + c] = d[4 * from + c]!
    d[4 * i + 3] = 255
    this.known[i] = 1
    this.open[i] = 0
    this.from[i] = this.from[from]! < 0 ? from : this.from[from]!
    this.confidence[i] = trust
    this.grey[i] = this.greyAt(i)
    this.remaining--
  }
}
