/**
 * Melting one drawing into another, point by point. Both outlines are cut at the same shares of their length, which changes
 * neither, so that each point of one has its partner on the other; what lies between is exact at both ends.
 */
import { labOf, rgbOf } from '../../solve/oklab'
import type { Paint, Shape } from '../../document/schema'
import { affineAt } from '../../geometry/affine'
import { cubicBetween, type Cubic } from '../../geometry/pathCut'
import type { RigDrawing } from '../compile'
import type { Frame } from '../evaluate'
import { CLOSE, CUBIC, LINE, MOVE, type Geometry, type ShapeGeometry } from '../geometry'

/** What is painted in place of a drawing while it melts. */
export interface Melted {
  readonly geometry: Geometry
  /** [2n] on the canvas */
  readonly points: Float64Array
  /** Of each shape: factor on the width of its line, and colours (red, green, blue from 0 to 1) of its ink and line; null for its own. */
  readonly widths: Float64Array
  readonly inks: (readonly [number, number, number] | null)[]
  readonly lines: (readonly [number, number, number] | null)[]
}

/** A stretch of an outline: a cubic from `at` to `at + 3` or a line from `at` to `at + 1` of the points, between two shares of it. */
interface Stretch {
  readonly at: number
  readonly to: number
  readonly isLine: boolean
  readonly from: number
  readonly until: number
}

interface Outline {
  readonly closed: boolean
  readonly stretches: readonly Stretch[]
}

export interface MeltPlan {
  readonly geometry: Geometry
  /** For each shape its outlines on both sides, with as many stretches each. */
  readonly shapes: readonly { readonly a: Shape; readonly b: Shape; readonly outlines: readonly (readonly [Outline, Outline])[] }[]
}

const plans = new WeakMap<Geometry, WeakMap<Geometry, MeltPlan | null>>()

/** How one drawing melts into another; null where they are pictures or have other shapes. Found once for each two. */
export function meltOf(a: RigDrawing, b: RigDrawing): MeltPlan | null {
  if (a.picture || b.picture) return null
  let known = plans.get(a.geometry)
  if (!known) plans.set(a.geometry, (known = new WeakMap()))
  let plan = known.get(b.geometry)
  if (plan === undefined) known.set(b.geometry, (plan = planOf(a.geometry, b.geometry)))
  return plan
}

function planOf(a: Geometry, b: Geometry): MeltPlan | null {
  if (a.shapes.length !== b.shapes.length) return null
  const shapes = b.shapes.map((shape, s) => {
    const [own, other] = [outlinesOf(a.shapes[s]!, a.points), outlinesOf(shape, b.points)]
    if (own.length !== other.length || own.some((o, k) => o.closed !== other[k]!.closed)) return null
    const outlines = own.map((o, k) => matched(o, other[k]!, a.points, b.points))
    return { a: a.shapes[s]!.shape, b: shape.shape, outlines }
  })
  if (shapes.some((s) => s === null)) return null
  const matchedShapes = shapes as NonNullable<(typeof shapes)[number]>[]
  let count = 0
  const geometries = matchedShapes.map(({ b: shape, outlines }): ShapeGeometry => {
    const verbs: number[] = []
    const first = count
    for (const [, { stretches, closed }] of outlines) {
      verbs.push(MOVE, ...stretches.map(() => CUBIC), ...(closed ? [CLOSE] : []))
      count += 1 + 3 * stretches.length
    }
    return { shape, verbs: Uint8Array.from(verbs), first, count: count - first }
  })
  const geometry = { shapes: geometries, points: new Float64Array(2 * count) }
  return { geometry, shapes: matchedShapes }
}

/** Room for what is painted in place of one drawing: two that melt alike, as twins do, are painted apart. */
export const roomFor = ({ geometry: { points, shapes } }: MeltPlan): Melted => ({
  geometry: { points, shapes: shapes.map((s) => ({ ...s })) },
  points: new Float64Array(points.length),
  widths: new Float64Array(shapes.length).fill(1),
  inks: shapes.map(() => null),
  lines: shapes.map(() => null),
})

/** Outlines of a shape in stretches as it is drawn. */
function outlinesOf({ verbs, first }: ShapeGeometry, points: Float64Array): Outline[] {
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
function lengthsOf({ stretches }: Outline, points: Float64Array): number[] {
  let sum = 0
  const ends = stretches.map((stretch) => {
    cubicOf(stretch, points, cubic)
    for (let k = 0; k < STEPS; k++)
      sum += Math.hypot(
        bezier(cubic, 0, (k + 1) / STEPS) - bezier(cubic, 0, k / STEPS),
        bezier(cubic, 1, (k + 1) / STEPS) - bezier(cubic, 1, k / STEPS),
      )
    return sum
  })
  return ends.map((e) => (sum > 0 ? e / sum : 0))
}

/** Two shares nearer to each other than this are one cut. */
const SAME = 1e-4

/**
 * Brings two outlines to as many stretches: as they are where they have as many points, else cut at each other's shares of the
 * length. Closed ones are begun where they lie best on each other, and run the same way round.
 */
function matched(a: Outline, b: Outline, pa: Float64Array, pb: Float64Array): readonly [Outline, Outline] {
  if (a.stretches.length === b.stretches.length) return [a, b]
  const turned = a.closed ? bestStart(a, b, pa, pb) : a
  const [la, lb] = [lengthsOf(turned, pa), lengthsOf(b, pb)]
  const cuts = [...la, ...lb].sort((x, y) => x - y).filter((v, k, all) => k === 0 || v - all[k - 1]! > SAME)
  return [cutAt(turned, la, cuts), cutAt(b, lb, cuts)]
}

/** Cuts an outline at shares of its length; within a stretch by its parameter, as even as it runs. */
function cutAt({ closed, stretches }: Outline, ends: readonly number[], cuts: readonly number[]): Outline {
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
function bestStart(a: Outline, b: Outline, pa: Float64Array, pb: Float64Array): Outline {
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

/** Posed points of a drawing on the canvas, whether it bends or goes as one piece. */
function posedPoints({ rig, bent, points, parts }: Frame, d: number): Float64Array {
  if (bent[d] === 1) return points[d]!
  const { geometry, part } = rig.drawings[d]!
  const [a, b, c, e, x, y] = affineAt(parts, 6 * part)
  return geometry.points.map((v, i) => (i % 2 === 0 ? a * v + c * geometry.points[i + 1]! + x : b * geometry.points[i - 1]! + e * v + y))
}

const first = new Float64Array(8)
const second = new Float64Array(8)

/** Fills what is painted for drawing `b` while `a` melts into it; share 0 is `a`, 1 is `b`. */
export function blendInto(frame: Frame, a: number, b: number, { shapes }: MeltPlan, share: number, melted: Melted): void {
  const [pa, pb] = [posedPoints(frame, a), posedPoints(frame, b)]
  const { points } = melted
  let at = 0
  shapes.forEach(({ a: from, b: to, outlines }, s) => {
    for (const [own, other] of outlines)
      own.stretches.forEach((stretch, k) => {
        cutCubic(stretch, pa, first)
        cutCubic(other.stretches[k]!, pb, second)
        if (k === 0) {
          for (let axis = 0; axis < 2; axis++) points[2 * at + axis] = mix(first[axis]!, second[axis]!, share)
          at++
        }
        for (let i = 2; i < 8; i++) points[2 * at + i - 2] = mix(first[i]!, second[i]!, share)
        at += 3
      })
    melted.widths[s] = to.line && from.line && to.line.width > 0 ? mix(from.line.width, to.line.width, share) / to.line.width : 1
    melted.inks[s] = mixedColour(from.ink?.paint, to.ink?.paint, share)
    melted.lines[s] = mixedColour(from.line?.paint, to.line?.paint, share)
  })
}

const mix = (a: number, b: number, share: number): number => (1 - share) * a + share * b

function cutCubic(stretch: Stretch, points: Float64Array, out: Float64Array): void {
  cubicOf(stretch, points, out)
  if (stretch.from !== 0 || stretch.until !== 1) out.set(cubicBetween([...out] as unknown as Cubic, stretch.from, stretch.until))
}

const rgb = new Float32Array(3)

function mixedColour(a: Paint | undefined, b: Paint | undefined, share: number): readonly [number, number, number] | null {
  if (a?.kind !== 'flat' || b?.kind !== 'flat' || a.colour === b.colour) return null
  const [from, to] = [labOf(a.colour), labOf(b.colour)]
  rgbOf(mix(from[0], to[0], share), mix(from[1], to[1], share), mix(from[2], to[2], share), rgb, 0)
  return [rgb[0]!, rgb[1]!, rgb[2]!]
}
