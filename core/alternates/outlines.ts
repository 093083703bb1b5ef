/**
 * Outlines that are made to match: cut at the same shares of their length, which changes neither, so that each point of one has its
 * partner on the other. Closed ones begin where they lie best on each other, and run the same way round.
 */
import { cubicBetween, type Cubic } from '../maths/geometry/pathCut'
import { CLOSE, CUBIC, LINE, MOVE, type ShapeGeometry } from '../artwork/flat/flat'

/** A stretch of an outline: a cubic from `at` to `at + 3` or a line from `at` to `at + 1` of the points, between two shares of it. */
export interface Stretch {
  readonly at: number
  readonly to: number
  readonly isLine: boolean
  readonly from: number
  readonly until: number
}

/** One outline as a run of stretches. */
export interface Outline {
  readonly closed: boolean
  readonly stretches: readonly Stretch[]
}

/** Outlines of a shape in stretches as it is drawn. */
export function outlinesOf({ verbs, first }: ShapeGeometry, points: Float64Array): Outline[] {
  const out: { closed: boolean; stretches: Stretch[] }[] = []
  let at = first
  let start = first
  for (const verb of verbs) {
    const outline = out.at(-1)
    if (verb === MOVE) {
      out.push({ closed: false, stretches: [] })
      start = at++
    } else if (verb === LINE) outline!.stretches.push({ at: at - 1, to: at++, isLine: true, from: 0, until: 1 })
    else if (verb === CUBIC) {
      outline!.stretches.push({ at: at - 1, to: at + 2, isLine: false, from: 0, until: 1 })
      at += 3
    } else if (verb === CLOSE) {
      outline!.closed = true
      // A last side that is only implied becomes a stretch of its own.
      const gap = Math.hypot(points[2 * (at - 1)]! - points[2 * start]!, points[2 * (at - 1) + 1]! - points[2 * start + 1]!)
      if (gap > 1e-6) outline!.stretches.push({ at: at - 1, to: start, isLine: true, from: 0, until: 1 })
    }
  }
  return out.filter((o) => o.stretches.length > 0)
}

/** Control points of a stretch, from points in a flat array. */
function cubicOf({ at, to, isLine }: Stretch, points: Float64Array, out: Float64Array): void {
  for (let axis = 0; axis < 2; axis++) {
    const [p, q] = [points[2 * at + axis]!, points[2 * to + axis]!]
    out[axis] = p
    out[2 + axis] = isLine ? p + (q - p) / 3 : points[2 * (at + 1) + axis]!
    out[4 + axis] = isLine ? q - (q - p) / 3 : points[2 * (at + 2) + axis]!
    out[6 + axis] = q
  }
}

const STEPS = 12
const cubic = new Float64Array(8)

const bezier = (c: Float64Array, axis: number, t: number): number => {
  const u = 1 - t
  return u * u * u * c[axis]! + 3 * u * u * t * c[2 + axis]! + 3 * u * t * t * c[4 + axis]! + t * t * t * c[6 + axis]!
}

/** Shares of the whole length at which stretches end. */
export function lengthsOf({ stretches }: Outline, points: Float64Array): number[] {
  let sum = 0
  const ends = stretches.map((stretch) => {
    cutCubic(stretch, points, cubic)
    for (let k = 0; k < STEPS; k++)
      sum += Math.hypot(
        bezier(cubic, 0, (k + 1) / STEPS) - bezier(cubic, 0, k / STEPS),
        bezier(cubic, 1, (k + 1) / STEPS) - bezier(cubic, 1, k / STEPS),
      )
    return sum
  })
  return ends.map((e) => (sum > 0 ? e / sum : 0))
}

/** What was set by hand: the share of its length by which an outline begins later, and whether it runs the other way round. */
export interface Correction {
  readonly turn: number
  readonly runsBack: boolean
}

/** The correction that matches them the other way round. */
export const inverse = ({ turn, runsBack }: Correction): Correction => ({ turn: runsBack || turn === 0 ? turn : 1 - turn, runsBack })

/** The outline begun later by a share of its length, where it is closed. */
export function corrected(a: Outline, { turn, runsBack }: Correction, points: Float64Array): Outline {
  const outline = runsBack ? reversed(a) : a
  if (!outline.closed || turn === 0) return outline
  const ends = lengthsOf(outline, points)
  const cuts = [...ends, turn].sort((x, y) => x - y).filter((v, k, all) => k === 0 || v - all[k - 1]! > SAME)
  const { stretches } = cutAt(outline, ends, cuts)
  const first = cuts.findIndex((cut) => cut > turn + SAME / 2)
  return first <= 0 ? outline : { closed: true, stretches: [...stretches.slice(first), ...stretches.slice(0, first)] }
}

/** Two shares nearer to each other than this are one cut. */
const SAME = 1e-4

/**
 * Brings two outlines to as many stretches: as they are where they have as many points, else cut at each other's shares of the
 * length. Closed ones are begun where they lie best on each other, and run the same way round.
 */
export function matched(
  a: Outline,
  b: Outline,
  pa: Float64Array,
  pb: Float64Array,
  correction: Correction | null = null,
): readonly [Outline, Outline] {
  if (a.stretches.length === b.stretches.length && !correction) return [a, b]
  const turned = correction ? corrected(a, correction, pa) : a.closed ? bestStart(a, b, pa, pb) : a
  const [la, lb] = [lengthsOf(turned, pa), lengthsOf(b, pb)]
  const cuts = [...la, ...lb].sort((x, y) => x - y).filter((v, k, all) => k === 0 || v - all[k - 1]! > SAME)
  return [cutAt(turned, la, cuts), cutAt(b, lb, cuts)]
}

/** Cuts an outline at shares of its length; within a stretch by its parameter, as even as it runs. */
export function cutAt({ closed, stretches }: Outline, ends: readonly number[], cuts: readonly number[]): Outline {
  const out: Stretch[] = []
  let last = 0
  let k = 0
  for (const cut of cuts) {
    while (k < stretches.length - 1 && last >= ends[k]! - SAME) k++
    const start = k === 0 ? 0 : ends[k - 1]!
    const size = Math.max(1e-12, ends[k]! - start)
    const shareOf = (v: number): number => (Math.abs(v - start) <= SAME ? 0 : Math.abs(v - ends[k]!) <= SAME ? 1 : (v - start) / size)
    const { from, until, ...stretch } = stretches[k]!
    const way = until - from
    out.push({ ...stretch, from: from + way * shareOf(last), until: from + way * shareOf(cut) })
    last = cut
  }
  return { closed, stretches: out }
}

/** The outline begun at each of its corners, and run the other way: the one whose corners lie nearest to the other's counts. */
export function bestStart(a: Outline, b: Outline, pa: Float64Array, pb: Float64Array): Outline {
  const n = a.stretches.length
  let best = a
  let least = Infinity
  const spots = spotsOf(b, pb)
  for (const base of [a, reversed(a)])
    for (let k = 0; k < n; k++) {
      const turned = { closed: true, stretches: [...base.stretches.slice(k), ...base.stretches.slice(0, k)] }
      const own = spotsOf(turned, pa)
      const far = own.reduce((sum, v, i) => sum + (v - spots[i]!) ** 2, 0)
      if (far >= least) continue
      least = far
      best = turned
    }
  return best
}

const reversed = ({ closed, stretches }: Outline): Outline => ({
  closed,
  stretches: [...stretches].reverse().map((s) => ({ ...s, from: s.until, until: s.from })),
})

const SPOTS = 16

/** Places along an outline at even shares of its length, about their middle: where it lies does not count. */
function spotsOf(outline: Outline, points: Float64Array): number[] {
  const ends = lengthsOf(outline, points)
  const out: number[] = []
  for (let i = 0; i < SPOTS; i++) {
    const share = i / SPOTS
    const k = Math.max(
      0,
      ends.findIndex((e) => e > share),
    )
    const start = k === 0 ? 0 : ends[k - 1]!
    const { from, until } = outline.stretches[k]!
    const t = from + (until - from) * ((share - start) / Math.max(1e-12, ends[k]! - start))
    cubicOf(outline.stretches[k]!, points, cubic)
    out.push(bezier(cubic, 0, t), bezier(cubic, 1, t))
  }
  const [mx, my] = [0, 1].map((axis) => out.reduce((sum, v, i) => sum + (i % 2 === axis ? v : 0), 0) / SPOTS)
  return out.map((v, i) => v - (i % 2 === 0 ? mx! : my!))
}

/** Control points of a stretch or of what was cut from it. */
export function cutCubic(stretch: Stretch, points: Float64Array, out: Float64Array): void {
  cubicOf(stretch, points, out)
  if (stretch.from !== 0 || stretch.until !== 1) out.set(cubicBetween([...out] as unknown as Cubic, stretch.from, stretch.until))
}
