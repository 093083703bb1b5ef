/**
 * Where each patch about a hole has its like in what is known: found by chance and handed on to neighbours (PatchMatch,
 * Barnes, Shechtman, Finkelstein and Goldman 2009), and colours that all patches over a pixel agree on (Wexler,
 * Shechtman and Irani 2007).
 */
import { wavesFrom } from '../../maths/geometry/flood'
import { depthsOf, HOLE, indicesOf, NOTHING, squaresWithin, type Level } from './level'

/** What a squared px of distance costs a patch, in mean squared steps of colour: among equals the nearer one. */
const FARNESS = 0.0008
/** How much less each step into the hole is trusted. */
const TRUST = 0.8
/** A like that is no farther off than this is not looked for any more. */
const ALIKE = 1
/** At full size likes are looked for about what was found at half of it, px. */
const FINE_SEARCH = 8
/** A patch over a pixel is preferred to the one about it only where it fits so much better, mean squared steps of colour. */
const CLEARLY = 4

/** Patches at one level. */
export class Correspondence {
  /** [n] middle of the like of the patch about a pixel; -1 where there is no patch. */
  readonly like: Int32Array
  /** [n] how far off it is, mean squared steps of colour and what distance costs. */
  private readonly off: Float64Array
  private readonly trust: Float64Array
  /** [n] sum of the trust in the pixels of the patch about a pixel. */
  private readonly weights: Float64Array
  /** Middles of patches that meet the hole, in rows. */
  private readonly targets: Int32Array
  /** [n] 1 for middles of patches that may be copied. */
  private readonly sources: Uint8Array
  private rounds = 0

  /**
   * @param scale px of the full size for one of this level
   * @param random generator of numbers from 0 to 1
   */
  constructor(
    private readonly level: Level,
    readonly reach: number,
    private readonly scale: number,
    private readonly random: () => number,
  ) {
    const { width, height, state, material } = level
    const n = width * height
    this.sources = squaresWithin(material, width, height, reach)
    this.like = new Int32Array(n).fill(-1)
    this.off = new Float64Array(n).fill(Infinity)
    const depths = depthsOf(level)
    this.trust = Float64Array.from(state, (s, i) => (s === NOTHING ? 0 : TRUST ** depths[i]!))
    this.targets = targetsOf(level, reach)
    this.weights = new Float64Array(n)
    for (const p of this.targets) this.weights[p] = this.weightOf(p)
  }

  private weightOf(p: number): number {
    const { reach, trust } = this
    const { width, height } = this.level
    const [px, py] = [p % width, Math.floor(p / width)]
    let sum = 0
    for (let y = Math.max(0, py - reach); y <= Math.min(height - 1, py + reach); y++)
      for (let x = Math.max(0, px - reach); x <= Math.min(width - 1, px + reach); x++) sum += trust[y * width + x]!
    return sum
  }

  /** Begins from the nearest patch that may be copied, or from what was found at half the size. */
  begin(coarse: Correspondence | null): void {
    const nearest = nearestSource(this.sources, this.level.width, this.level.height)
    for (const p of this.targets) {
      const handed = coarse ? this.handedDown(coarse, p) : -1
      this.like[p] = handed >= 0 ? handed : nearest[p]!
    }
    this.vote(() => 1)
  }

  private handedDown(coarse: Correspondence, p: number): number {
    const { width, height } = this.level
    const w = coarse.level.width
    const [x, y] = [p % width, Math.floor(p / width)]
    const q = coarse.like[(y >> 1) * w + (x >> 1)]!
    if (q < 0) return -1
    const [qx, qy] = [2 * (q % w) + (x & 1), 2 * Math.floor(q / w) + (y & 1)]
    const at = qy * width + qx
    return qx < width && qy < height && this.sources[at] ? at : -1
  }

  /** One round of looking for better likes, each direction in turn. */
  search(): void {
    const { targets, like, sources } = this
    const { width } = this.level
    const isBack = this.rounds++ % 2 === 1
    const step = isBack ? 1 : -1
    for (const p of targets) this.off[p] = this.offOf(p, like[p]!, Infinity)
    for (let k = 0; k < targets.length; k++) {
      const p = targets[isBack ? targets.length - 1 - k : k]!
      const [beside, above] = [like[p + step] ?? -1, like[p + step * width] ?? -1]
      if (beside >= 0 && sources[beside - step]) this.offer(p, beside - step)
      if (above >= 0 && sources[above - step * width]) this.offer(p, above - step * width)
      if (this.off[p]! - this.farOf(p, like[p]!) > ALIKE) this.guess(p)
    }
  }

  /** Tries patches at random about the present one, nearer and nearer. */
  private guess(p: number): void {
    const { width, height } = this.level
    for (let far = this.scale === 1 ? FINE_SEARCH : Math.max(width, height) / 2; far >= 1; far /= 2) {
      const q = this.like[p]!
      const x = Math.round((q % width) + far * (2 * this.random() - 1))
      const y = Math.round(Math.floor(q / width) + far * (2 * this.random() - 1))
      if (x >= 0 && y >= 0 && x < width && y < height && this.sources[y * width + x]) this.offer(p, y * width + x)
    }
  }

  private offer(p: number, q: number): void {
    if (q === this.like[p]) return
    const off = this.offOf(p, q, this.off[p]!)
    if (off >= this.off[p]!) return
    this.off[p] = off
    this.like[p] = q
  }

  /** What the distance between two patches costs. */
  private farOf(p: number, q: number): number {
    const { width } = this.level
    const dx = (p % width) - (q % width)
    const dy = Math.floor(p / width) - Math.floor(q / width)
    return FARNESS * this.scale * this.scale * (dx * dx + dy * dy)
  }

  /** How far a patch is off another, weighed by how much its pixels are trusted; more than `limit` where it is not less. */
  private offOf(p: number, q: number, limit: number): number {
    const { level, reach, trust } = this
    const { width, height, colours } = level
    const far = this.farOf(p, q)
    // What may still be off before the whole is worse than the limit.
    const most = (limit - far) * this.weights[p]!
    if (most <= 0) return Infinity
    const px = p % width
    const py = (p - px) / width
    const fromX = Math.max(-reach, -px)
    const toX = Math.min(reach, width - 1 - px)
    const toY = Math.min(reach, height - 1 - py)
    let sum = 0
    for (let y = Math.max(-reach, -py); y <= toY; y++) {
      const to = p + y * width + toX
      let b = 4 * (q + y * width + fromX)
      for (let i = p + y * width + fromX; i <= to; i++, b += 4) {
        const r = colours[4 * i]! - colours[b]!
        const g = colours[4 * i + 1]! - colours[b + 1]!
        const bl = colours[4 * i + 2]! - colours[b + 2]!
        sum += trust[i]! * (r * r + g * g + bl * bl)
      }
      if (sum >= most) return Infinity
    }
    return sum / this.weights[p]! + far
  }

  /** Gives each pixel of the hole the colour that the likes of all patches over it have there. */
  agree(): void {
    let sum = 0
    for (const p of this.targets) sum += this.off[p]!
    const usual = sum / Math.max(1, this.targets.length) + 1
    this.vote((p) => this.trust[p]! * Math.exp(-this.off[p]! / (2 * usual)))
  }

  private vote(weightOf: (p: number) => number): void {
    const { reach, like } = this
    const { width, height, colours, state } = this.level
    const weights = new Float64Array(state.length)
    for (const p of this.targets) weights[p] = weightOf(p)
    // Likes lie in what is known, so that colours of the hole may change while they are read.
    for (const i of this.targets) {
      if (state[i] !== HOLE) continue
      const [x, y] = [i % width, Math.floor(i / width)]
      const [fromX, toX] = [Math.max(0, x - reach), Math.min(width - 1, x + reach)]
      let r = 0
      let g = 0
      let b = 0
      let total = 0
      for (let py = Math.max(0, y - reach); py <= Math.min(height - 1, y + reach); py++)
        for (let p = py * width + fromX; p <= py * width + toX; p++) {
          const w = weights[p]!
          if (w === 0) continue
          const from = 4 * (like[p]! + i - p)
          r += w * colours[from]!
          g += w * colours[from + 1]!
          b += w * colours[from + 2]!
          total += w
        }
      if (total === 0) continue
      colours[4 * i] = Math.round(r / total)
      colours[4 * i + 1] = Math.round(g / total)
      colours[4 * i + 2] = Math.round(b / total)
    }
  }

  /** [n] the pixel that each pixel of the hole is copied from; -1 for all others. */
  origins(): Int32Array {
    const { state } = this.level
    const out = new Int32Array(state.length).fill(-1)
    for (const i of this.targets) {
      if (state[i] !== HOLE) continue
      const p = this.bestOver(i)
      out[i] = this.like[p]! + i - p
    }
    return out
  }

  /** Middle of the patch over a pixel that fits best. */
  private bestOver(i: number): number {
    const { reach, off } = this
    const { width, height } = this.level
    const [x, y] = [i % width, Math.floor(i / width)]
    const [fromX, toX] = [Math.max(0, x - reach), Math.min(width - 1, x + reach)]
    let best = i
    let least = off[i]! - CLEARLY
    if (least <= 0) return i
    for (let py = Math.max(0, y - reach); py <= Math.min(height - 1, y + reach); py++)
      for (let p = py * width + fromX; p <= py * width + toX; p++)
        if (off[p]! < least) {
          least = off[p]!
          best = p
        }
    return best
  }
}

/** Pixels of the picture about which a patch meets the hole. */
function targetsOf({ width, height, state }: Level, reach: number): Int32Array {
  const near = new Uint8Array(state.length)
  for (let i = 0; i < state.length; i++) {
    if (state[i] !== HOLE) continue
    const [x, y] = [i % width, Math.floor(i / width)]
    for (let py = Math.max(0, y - reach); py <= Math.min(height - 1, y + reach); py++)
      near.fill(1, py * width + Math.max(0, x - reach), py * width + Math.min(width - 1, x + reach) + 1)
  }
  const out: number[] = []
  for (let i = 0; i < state.length; i++) if (near[i] && state[i] !== NOTHING) out.push(i)
  return Int32Array.from(out)
}

/** [n] the source that is the fewest steps away from each pixel; -1 without any. */
function nearestSource(sources: Uint8Array, width: number, height: number): Int32Array {
  const out = new Int32Array(sources.length).fill(-1)
  const starts = indicesOf(sources, 1)
  for (const i of starts) out[i] = i
  wavesFrom(starts, width, height, (n, from) => {
    if (out[n]! >= 0) return false
    out[n] = out[from]!
    return true
  })
  return out
}
