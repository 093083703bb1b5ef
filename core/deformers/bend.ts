/**
 * Bends: what lies along a curve bends with it. Every point keeps its place along the curve and its distance from it;
 * beyond the ends it goes on straight. Thickness along the curve comes from the scale of its points.
 */
import { Spline } from '../maths/geometry/spline'
import type { Prepared, Shape, ShapeSlots } from './shape'
import { z } from 'zod'
import { HandleId } from '../kernel/ids'
import { Vec } from '../kernel/numbers'
import { deformerFields, isOneSpot, type DeformerKind } from './kind'

/** A curve through points; what lies along it bends with it. */
export const Bend = z.object({
  kind: z.literal('bend'),
  ...deformerFields,
  points: z
    .array(z.object({ id: HandleId, at: Vec }))
    .min(2)
    .max(64),
  /** Whether what lies along the curve is drawn out with it, or keeps its length from the first point on. */
  stretch: z.boolean(),
  /** Ends at which the curve keeps the direction that it has at rest. */
  holdStart: z.boolean(),
  holdEnd: z.boolean(),
})
export type Bend = z.infer<typeof Bend>

/** Steps in which lengths along a curve are measured, a stretch between two points. */
const STEPS = 12
/** Looks at the curve at rest to find where a point is nearest, a stretch between two points. */
const LOOKS = 16

/** A bend, compiled. */
export class BendShape implements Shape {
  readonly cell: number
  private readonly rest: Spline
  private readonly posed: Spline
  /** [n] thickness at each point */
  private readonly widths: Float64Array
  /** Lengths along the curve from its start, at even steps of the parameter. */
  private readonly restLengths: Float64Array
  private readonly posedLengths: Float64Array

  constructor(private readonly bend: Bend) {
    const n = bend.points.length
    this.rest = new Spline(n)
    this.posed = new Spline(n)
    this.widths = new Float64Array(n).fill(1)
    this.rest.count = n
    this.posed.count = n
    bend.points.forEach(({ at }, i) => this.rest.points.set([at.x, at.y], 2 * i))
    this.rest.space()
    this.rest.fit()
    this.posed.knots.set(this.rest.knots)
    this.restLengths = new Float64Array((n - 1) * STEPS + 1)
    this.posedLengths = new Float64Array((n - 1) * STEPS + 1)
    measure(this.rest, this.restLengths)
    this.cell = Math.max(4, this.rest.end / (2 * (n - 1)))
  }

  pose(pose: Float64Array, { own, handles, stride }: ShapeSlots): boolean {
    const { rest, posed, widths, bend } = this
    const amount = pose[own]! >= 0.5 ? pose[own + 1]! : 0
    let isMoved = false
    for (let i = 0; i < posed.count; i++) {
      const slot = handles + i * stride
      posed.points[2 * i] = rest.points[2 * i]! + amount * pose[slot]!
      posed.points[2 * i + 1] = rest.points[2 * i + 1]! + amount * pose[slot + 1]!
      widths[i] = 1 + amount * (pose[slot + 3]! - 1)
      if (amount !== 0 && (pose[slot] !== 0 || pose[slot + 1] !== 0 || pose[slot + 3] !== 1)) isMoved = true
    }
    if (!isMoved) return false
    const { slopes, count } = rest
    const k = 2 * count - 2
    posed.fit(
      bend.holdStart ? slopes[0] : NaN,
      bend.holdStart ? slopes[1] : NaN,
      bend.holdEnd ? slopes[k] : NaN,
      bend.holdEnd ? slopes[k + 1] : NaN,
    )
    if (!bend.stretch) measure(posed, this.posedLengths)
    return true
  }

  /** For each point the parameter of the curve at rest that is nearest to it. */
  prepare(points: Float64Array): Prepared {
    const { rest } = this
    const looks = (rest.count - 1) * LOOKS
    const out = new Float64Array(points.length / 2)
    for (let i = 0; i < out.length; i++) {
      let best = Infinity
      for (let k = 0; k <= looks; k++) {
        const t = (rest.end * k) / looks
        rest.at(t)
        const far = (rest.out[0]! - points[2 * i]!) ** 2 + (rest.out[1]! - points[2 * i + 1]!) ** 2
        if (far >= best) continue
        best = far
        out[i] = t
      }
      out[i] = this.foot(points[2 * i]!, points[2 * i + 1]!, out[i]!)
    }
    return out
  }

  /** The parameter near another one at which the curve at rest is square to the way to a spot (Gauss and Newton). */
  private foot(x: number, y: number, from: number): number {
    const { rest } = this
    let t = from
    for (let round = 0; round < 8; round++) {
      rest.at(t)
      const [cx, cy, dx, dy] = [rest.out[0]!, rest.out[1]!, rest.out[2]!, rest.out[3]!]
      const size = dx * dx + dy * dy
      if (size < 1e-12) return t
      const step = ((x - cx) * dx + (y - cy) * dy) / size
      t += step
      if (Math.abs(step) < 1e-6) return t
    }
    return t
  }

  apply(points: Float64Array, prepared: Prepared): void {
    const { rest, posed, bend } = this
    for (let i = 0; i < prepared.length; i++) {
      const x = points[2 * i]!
      const y = points[2 * i + 1]!
      const t = this.foot(x, y, prepared[i]!)
      rest.at(t)
      const size = Math.sqrt(rest.out[2]! ** 2 + rest.out[3]! ** 2)
      // What is not square to the curve, where it turns too sharply for a foot, goes along with it.
      const along = ((x - rest.out[0]!) * rest.out[2]! + (y - rest.out[1]!) * rest.out[3]!) / Math.max(size, 1e-9)
      const off = ((y - rest.out[1]!) * rest.out[2]! - (x - rest.out[0]!) * rest.out[3]!) / Math.max(size, 1e-9)
      posed.at(bend.stretch ? t : this.sameLength(t))
      const there = Math.sqrt(posed.out[2]! ** 2 + posed.out[3]! ** 2)
      const ux = there > 1e-9 ? posed.out[2]! / there : 1
      const uy = there > 1e-9 ? posed.out[3]! / there : 0
      const thick = off * this.widthAt(t)
      points[2 * i] = posed.out[0]! + along * ux - thick * uy
      points[2 * i + 1] = posed.out[1]! + along * uy + thick * ux
    }
  }

  private widthAt(t: number): number {
    const { rest, widths } = this
    const inside = Math.min(rest.end, Math.max(0, t))
    const i = rest.spanAt(inside)
    const s = (inside - rest.knots[i]!) / (rest.knots[i + 1]! - rest.knots[i]!)
    const eased = s * s * (3 - 2 * s)
    return widths[i]! + eased * (widths[i + 1]! - widths[i]!)
  }

  /** The parameter of the posed curve at the length from its start that the curve at rest has at t. */
  private sameLength(t: number): number {
    const { rest, posed, restLengths, posedLengths } = this
    const last = restLengths.length - 1
    const at = place(rest, t)
    const k = Math.min(last - 1, Math.max(0, Math.floor(at)))
    const inside = t < 0 || t > rest.end
    const length = inside
      ? (t < 0 ? 0 : restLengths[last]!) + (t < 0 ? t : t - rest.end) * slopeSize(rest, t < 0 ? 0 : rest.end)
      : restLengths[k]! + (at - k) * (restLengths[k + 1]! - restLengths[k]!)
    if (length <= 0) return length / Math.max(slopeSize(posed, 0), 1e-9)
    if (length >= posedLengths[last]!) return posed.end + (length - posedLengths[last]!) / Math.max(slopeSize(posed, posed.end), 1e-9)
    let low = 0
    let high = last
    while (high - low > 1) {
      const middle = (low + high) >> 1
      if (posedLengths[middle]! <= length) low = middle
      else high = middle
    }
    const share = (length - posedLengths[low]!) / Math.max(posedLengths[high]! - posedLengths[low]!, 1e-9)
    return parameter(posed, low + share)
  }
}

/** Steps from the start of a curve to a parameter, and back: every stretch between two points has as many. */
function place(curve: Spline, t: number): number {
  const i = curve.spanAt(Math.min(curve.end, Math.max(0, t)))
  return STEPS * (i + (t - curve.knots[i]!) / (curve.knots[i + 1]! - curve.knots[i]!))
}

function parameter(curve: Spline, steps: number): number {
  const i = Math.min(curve.count - 2, Math.floor(steps / STEPS))
  return curve.knots[i]! + (steps / STEPS - i) * (curve.knots[i + 1]! - curve.knots[i]!)
}

function slopeSize(curve: Spline, t: number): number {
  curve.at(t)
  return Math.sqrt(curve.out[2]! ** 2 + curve.out[3]! ** 2)
}

/** Lengths along a curve by Simpson's rule on every step. */
function measure(curve: Spline, out: Float64Array): void {
  out[0] = 0
  for (let k = 1; k < out.length; k++) {
    const from = parameter(curve, k - 1)
    // A step that ends at a point belongs to the stretch before it.
    const to = from + (parameter(curve, k - 0.5) - from) * 2
    const mean = (slopeSize(curve, from) + 4 * slopeSize(curve, (from + to) / 2) + slopeSize(curve, to)) / 6
    out[k] = out[k - 1]! + mean * (to - from)
  }
}

/** Deforming along a curve: what the table of deformers knows of it. */
export const bendKind: DeformerKind<Bend> = {
  label: 'bend',
  schema: Bend,
  filesHandles: true,
  isSmooth: true,
  handles: ({ points }) => points.map((p) => p.id),
  places: ({ points }) => points.map((p) => p.at),
  handleName: ({ name }, at) => `${name}, point ${at + 1}`,
  // Points of a bend have a thickness.
  hasField: (_, __, field) => field === 'scale',
  underId: (d, id) => ({ ...d, id, points: d.points.map((p, k) => ({ ...p, id: `${id}.${k + 1}` })) }),
  shape: (d) => new BendShape(d),
  fault: ({ points }) =>
    points.some((p, i) => i > 0 && isOneSpot(p.at, points[i - 1]!.at)) ? 'has a bend with two points on one spot' : null,
}
