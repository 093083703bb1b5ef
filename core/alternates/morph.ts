/**
 * Morphing one drawing into another, point by point. Both outlines are cut at the same shares of their length, which changes
 * neither, so that each point of one has its partner on the other; what lies between is exact at both ends.
 */
import { labOf, rgbOf } from '../maths/solve/oklab'
import type { Paint, Shape } from '../artwork/records'
import { affineAt } from '../maths/geometry/affine'
import { CLOSE, CUBIC, MOVE, type Geometry, type ShapeGeometry } from '../artwork/flat/flat'
import { cutCubic, matched, outlinesOf, type Correction, type Outline } from './outlines'
import type { RigDrawing } from '../placement/drawing'
import type { PosedDrawings as Frame } from '../placement/bendStage'

/** What is painted in place of a drawing while it morphs. */
export interface Morphed {
  readonly geometry: Geometry
  /** [2n] on the canvas */
  readonly points: Float64Array
  /** Of each shape: factor on the width of its line, and colours (red, green, blue from 0 to 1) of its ink and line; null for its own. */
  readonly widths: Float64Array
  readonly inks: (readonly [number, number, number] | null)[]
  readonly lines: (readonly [number, number, number] | null)[]
}

/** How two drawings morph into each other: which outlines go together, with as many stretches on both sides. */
export interface MorphPlan {
  readonly geometry: Geometry
  /** For each shape its outlines on both sides, with as many stretches each. */
  readonly shapes: readonly { readonly a: Shape; readonly b: Shape; readonly outlines: readonly (readonly [Outline, Outline])[] }[]
}

const plans = new WeakMap<Geometry, WeakMap<Geometry, Map<string, MorphPlan | null>>>()

/** How one drawing morphs into another; null where they are pictures or have other shapes. Found once for each two. */
export function morphOf(a: RigDrawing, b: RigDrawing, correction: Correction | null): MorphPlan | null {
  if (a.picture || b.picture) return null
  return plansFor(plans, a.geometry, b.geometry, correction, () => planOf(a.geometry, b.geometry, correction))
}

/** What is kept for two drawings and a correction. */
export function plansFor<K extends object, Plan>(
  plans: WeakMap<K, WeakMap<K, Map<string, Plan | null>>>,
  a: K,
  b: K,
  correction: Correction | null,
  make: () => Plan | null,
): Plan | null {
  const others = plans.get(a) ?? new WeakMap<K, Map<string, Plan | null>>()
  plans.set(a, others)
  const known = others.get(b) ?? new Map<string, Plan | null>()
  others.set(b, known)
  const key = correction ? `${correction.turn} ${correction.runsBack}` : ''
  let plan = known.get(key)
  if (plan === undefined) known.set(key, (plan = make()))
  return plan
}

function planOf(a: Geometry, b: Geometry, correction: Correction | null): MorphPlan | null {
  if (a.shapes.length !== b.shapes.length) return null
  const shapes = b.shapes.map((shape, s) => {
    const [own, other] = [outlinesOf(a.shapes[s]!, a.points), outlinesOf(shape, b.points)]
    if (own.length !== other.length || own.some((o, k) => o.closed !== other[k]!.closed)) return null
    const outlines = own.map((o, k) => matched(o, other[k]!, a.points, b.points, correction))
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

/** Room for what is painted in place of one drawing: two that morph alike, as twins do, are painted apart. */
export const roomFor = ({ geometry: { points, shapes } }: MorphPlan): Morphed => ({
  geometry: { points, shapes: shapes.map((s) => ({ ...s })) },
  points: new Float64Array(points.length),
  widths: new Float64Array(shapes.length).fill(1),
  inks: shapes.map(() => null),
  lines: shapes.map(() => null),
})

/** Posed points of a drawing on the canvas, whether it bends or goes as one piece. */
export function posedPoints({ rig, bent, points, parts }: Frame, d: number): Float64Array {
  if (bent[d] === 1) return points[d]!
  const { geometry, part } = rig.drawings[d]!
  const [a, b, c, e, x, y] = affineAt(parts, 6 * part)
  return geometry.points.map((v, i) => (i % 2 === 0 ? a * v + c * geometry.points[i + 1]! + x : b * geometry.points[i - 1]! + e * v + y))
}

const first = new Float64Array(8)
const second = new Float64Array(8)

/** Fills what is painted for drawing `b` while `a` morphs into it; share 0 is `a`, 1 is `b`. */
export function blendInto(frame: Frame, a: number, b: number, { shapes }: MorphPlan, share: number, morphed: Morphed): void {
  const [pa, pb] = [posedPoints(frame, a), posedPoints(frame, b)]
  const { points } = morphed
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
    morphed.widths[s] = to.line && from.line && to.line.width > 0 ? mix(from.line.width, to.line.width, share) / to.line.width : 1
    morphed.inks[s] = mixedColour(from.ink?.paint, to.ink?.paint, share)
    morphed.lines[s] = mixedColour(from.line?.paint, to.line?.paint, share)
  })
}

const mix = (a: number, b: number, share: number): number => (1 - share) * a + share * b

const rgb = new Float32Array(3)

function mixedColour(a: Paint | undefined, b: Paint | undefined, share: number): readonly [number, number, number] | null {
  if (a?.kind !== 'flat' || b?.kind !== 'flat' || a.colour === b.colour) return null
  const [from, to] = [labOf(a.colour), labOf(b.colour)]
  rgbOf(mix(from[0], to[0], share), mix(from[1], to[1], share), mix(from[2], to[2], share), rgb, 0)
  return [rgb[0]!, rgb[1]!, rgb[2]!]
}
