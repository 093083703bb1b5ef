/**
 * Morphing one picture into another: both are warped to an outline between theirs, and one fades over the other. What lies inside goes
 * along with the outline by mean value coordinates (Floater 2003; for any spot of the plane Hormann and Floater 2006).
 */
import type { Affine } from '../kernel/numbers'
import type { Picture } from '../artwork/records'
import { posedPoints, plansFor } from './morph'
import { matchedSpots } from './likeness'
import { bestStart, cutAt, cutCubic, lengthsOf, outlinesOf, corrected, type Correction, type Outline, type Stretch } from './outlines'
import type { RigDrawing } from '../placement/drawing'
import type { PosedDrawings as Frame } from '../placement/bendStage'

/** Spots of each outline that are matched. */
const SPOTS = 80

/** One picture's side of a warp. */
interface Side {
  /** Matched spots along the outline. */
  readonly stretches: readonly Stretch[]
  /** [vertices times spots] how much each vertex of the mesh goes along with each spot. */
  readonly weights: Float64Array
}

/** How two pictures morph into each other: each warped towards the other, and faded. */
export interface WarpPlan {
  readonly a: Side
  readonly b: Side
}

const plans = new WeakMap<Picture, WeakMap<Picture, Map<string, WarpPlan | null>>>()

/**
 * How one picture morphs into another; null where one of them is none or has no outline. Found once for each two.
 *
 * @param homes maps from their own spaces to the canvas at rest
 */
export function warpOf(a: RigDrawing, b: RigDrawing, correction: Correction | null, homes: readonly [Affine, Affine]): WarpPlan | null {
  if (!a.picture || !b.picture) return null
  return plansFor(plans, a.picture, b.picture, correction, () => planOf(a, b, correction, homes))
}

function planOf(
  a: RigDrawing,
  b: RigDrawing,
  correction: Correction | null,
  [home, otherHome]: readonly [Affine, Affine],
): WarpPlan | null {
  const [own, other] = [longestOutline(a), longestOutline(b)]
  if (!own || !other) return null
  const [pa, pb] = [a.geometry.points, b.geometry.points]
  if (correction) {
    // As it was set by hand: even shares of both lengths from there on.
    const [even, others] = [spotsAlong(corrected(own, correction, pa), pa), spotsAlong(other, pb)]
    return { a: sideOf(even, pa, a.picture!), b: sideOf(others, pb, b.picture!) }
  }
  const [even, others] = [spotsAlong(bestStart(own, other, pa, pb), pa), spotsAlong(other, pb)]
  const pairs = matchedSpots(onCanvas(spots(even, pa), home), onCanvas(spots(others, pb), otherHome))
  const side = (all: readonly Stretch[], which: 0 | 1): Stretch[] => pairs.map((pair) => all[pair[which]]!)
  return { a: sideOf(side(even, 0), pa, a.picture!), b: sideOf(side(others, 1), pb, b.picture!) }
}

const onCanvas = (points: Float64Array, [a, b, c, d, x, y]: Affine): Float64Array =>
  points.map((v, i) => (i % 2 === 0 ? a * v + c * points[i + 1]! + x : b * points[i - 1]! + d * v + y))

function longestOutline({ geometry }: RigDrawing): Outline | null {
  const all = geometry.shapes.flatMap((shape) => outlinesOf(shape, geometry.points)).filter((o) => o.closed)
  const box = ({ stretches }: Outline): number => {
    const xs = stretches.map((s) => geometry.points[2 * s.at]!)
    const ys = stretches.map((s) => geometry.points[2 * s.at + 1]!)
    return Math.max(...xs) - Math.min(...xs) + Math.max(...ys) - Math.min(...ys)
  }
  return all.reduce<Outline | null>((best, o) => (best && box(best) >= box(o) ? best : o), null)
}

/** Stretches that begin at even shares of an outline's length, its sharpest corners among them. */
function spotsAlong(outline: Outline, points: Float64Array): Stretch[] {
  const ends = lengthsOf(outline, points)
  const cuts = Array.from({ length: SPOTS }, (_, k) => (k + 1) / SPOTS)
  // The last cut is where it began.
  for (const { share } of cornersOf(outline, ends, points)) {
    const nearest = Math.min(SPOTS - 2, Math.max(0, Math.round(share * SPOTS) - 1))
    cuts[nearest] = share
  }
  return [
    ...cutAt(
      outline,
      ends,
      cuts.sort((a, b) => a - b),
    ).stretches,
  ]
}

/** Cosine of the turn from which an outline has a corner. */
const CORNER = 0.5

/** Where an outline turns sharply, in shares of its length, gentler turns first. */
function cornersOf({ stretches }: Outline, ends: readonly number[], points: Float64Array): { share: number; turn: number }[] {
  const direction = (k: number): [number, number] => {
    cutCubic(stretches[k]!, points, cubic)
    const [dx, dy] = [cubic[6]! - cubic[0]!, cubic[7]! - cubic[1]!]
    const length = Math.hypot(dx, dy) || 1
    return [dx / length, dy / length]
  }
  return stretches
    .flatMap((_, k) => {
      const [[ax, ay], [bx, by]] = [direction(k), direction((k + 1) % stretches.length)]
      const turn = ax * bx + ay * by
      return turn < CORNER && ends[k]! < 1 ? [{ share: ends[k]!, turn }] : []
    })
    .sort((p, q) => q.turn - p.turn)
}

function sideOf(stretches: readonly Stretch[], points: Float64Array, { mesh }: Picture): Side {
  const polygon = spots(stretches, points)
  const [count, n] = [mesh.vertices.length / 2, stretches.length]
  const weights = new Float64Array(count * n)
  for (let v = 0; v < count; v++)
    meanValueWeights(mesh.vertices[2 * v]!, mesh.vertices[2 * v + 1]!, polygon, weights.subarray(v * n, (v + 1) * n))
  return { stretches, weights }
}

const cubic = new Float64Array(8)

/** Where the spots of an outline are, from the points of its drawing. */
function spots(stretches: readonly Stretch[], points: Float64Array, out = new Float64Array(2 * stretches.length)): Float64Array {
  for (let k = 0; k < stretches.length; k++) {
    cutCubic(stretches[k]!, points, cubic)
    out[2 * k] = cubic[0]!
    out[2 * k + 1] = cubic[1]!
  }
  return out
}

/** Nearer than this to a corner or an edge a spot lies on it, canvas px. */
const ON = 1e-7

/** Mean value coordinates of a spot in a closed polygon; they sum to 1 and give the spot itself. */
export function meanValueWeights(x: number, y: number, polygon: Float64Array, out: Float64Array): void {
  const n = polygon.length / 2
  out.fill(0)
  const dx = (k: number): number => polygon[2 * (k % n)]! - x
  const dy = (k: number): number => polygon[2 * (k % n) + 1]! - y
  let sum = 0
  for (let k = 0; k < n; k++) {
    const [ax, ay, bx, by] = [dx(k), dy(k), dx(k + 1), dy(k + 1)]
    const [ra, rb] = [Math.hypot(ax, ay), Math.hypot(bx, by)]
    if (ra < ON) {
      out.fill(0)
      out[k] = 1
      return
    }
    const [cross, dot] = [ax * by - ay * bx, ax * bx + ay * by]
    if (Math.abs(cross) < ON * (ra + rb) && dot < 0) {
      out.fill(0)
      out[k] = rb / (ra + rb)
      out[(k + 1) % n] = ra / (ra + rb)
      return
    }
    // The tangent of half the angle under which the edge is seen.
    const half = cross / (ra * rb + dot)
    out[k]! += half / ra
    out[(k + 1) % n]! += half / Math.max(rb, ON)
    sum += half / ra + half / Math.max(rb, ON)
  }
  for (let k = 0; k < n; k++) out[k]! /= sum
}

/** Vertices of a picture's mesh on the canvas, whether it bends or goes as one piece. */
function poseVertices({ rig, bent, samples, parts }: Frame, d: number, out: Float64Array): void {
  if (bent[d] === 1) return out.set(samples[d]!)
  const { picture, part } = rig.drawings[d]!
  const { vertices } = picture!.mesh
  const at = 6 * part
  for (let v = 0; v < out.length; v += 2) {
    const [x, y] = [vertices[v]!, vertices[v + 1]!]
    out[v] = parts[at]! * x + parts[at + 2]! * y + parts[at + 4]!
    out[v + 1] = parts[at + 1]! * x + parts[at + 3]! * y + parts[at + 5]!
  }
}

/** Room for the most spots that two outlines of one once round can be matched by. */
const from = new Float64Array(4 * SPOTS)
const to = new Float64Array(4 * SPOTS)

/**
 * Warps both pictures to the outline at a share of the way; at 0 the first is as it is posed, at 1 the second.
 *
 * @param warped [2n] for each, filled with the vertices of its mesh on the canvas
 */
export function warpInto(
  frame: Frame,
  a: number,
  b: number,
  plan: WarpPlan,
  share: number,
  warped: { readonly a: Float64Array; readonly b: Float64Array },
): void {
  spots(plan.a.stretches, posedPoints(frame, a), from)
  spots(plan.b.stretches, posedPoints(frame, b), to)
  poseVertices(frame, a, warped.a)
  poseVertices(frame, b, warped.b)
  warpSide(plan.a.weights, from, to, share, warped.a)
  warpSide(plan.b.weights, to, from, 1 - share, warped.b)
}

/** Moves vertices along with their outline, by a share of its way to another. */
function warpSide(weights: Float64Array, own: Float64Array, other: Float64Array, share: number, out: Float64Array): void {
  const n = (2 * weights.length) / out.length
  for (let v = 0; v < out.length / 2; v++) {
    let x = 0
    let y = 0
    for (let k = 0; k < n; k++) {
      const w = weights[v * n + k]!
      x += w * (other[2 * k]! - own[2 * k]!)
      y += w * (other[2 * k + 1]! - own[2 * k + 1]!)
    }
    out[2 * v]! += share * x
    out[2 * v + 1]! += share * y
  }
}
