/**
 * The way of a part's points from its own space to the posed canvas, for parts that do more than move as one piece:
 *
 *     own space -> deformers before bones -> placement -> ... up to the canvas at rest -> bones -> deformers after them
 *
 * Deformers of groups act on all that is in them, each in the space of its own part. Where a part is fused with
 * another one, the other's whole way takes the place of the bones.
 */
import type { Affine } from '../kernel/numbers'
import { apply, IDENTITY, invert, multiply } from '../maths/geometry/affine'
import type { Prepared, Shape } from '../deformers/shape'
import { samplerOf } from '../binds/field'
import { INFLUENCES, skinLinear, skinVolume } from '../binds/skin'
import type { Bind } from '../binds/records'

/** Blended bones: who pulls, and how strongly at any point. */
export interface Blend {
  readonly mode: 'volume' | 'linear'
  /** [k] bone table indices of the bind */
  readonly bones: Int32Array
  readonly weigh: Weigh
}

/** Weights of points: which bones, how much, and about which centres they turn. */
export interface Weights {
  /** [4m] for each point six times the position in `bones` */
  readonly offsets: Int32Array
  /** [4m] */
  readonly weights: Float64Array
  /** [2m] centres of rotation, in the part's own space */
  readonly centres: Float64Array
}

/** Finds the weights of points, [2n] at rest on the canvas. */
export type Weigh = (points: Float64Array) => Weights

/** Deformers of one part, then the placements that lead from it to the next part with deformers, or to the canvas. */
export interface Level {
  readonly shapes: readonly number[]
  /** Parts from the one with the deformers outwards. */
  readonly parts: Int32Array
  /** From the space of the part whose course it is to the space of this one, at rest. */
  readonly rest: Affine
}

/** A deformer after bones: it acts in the space of its part as it was at rest, carried along by a bone. */
export interface Later {
  readonly shape: number
  readonly bone: number
  /** From that space to the canvas at rest, and back. */
  readonly place: Affine
  readonly back: Affine
}

/** All that acts on the points of one part, in order. */
export interface DeformChain {
  readonly part: number
  /** To the canvas at rest. */
  readonly rest: Affine
  readonly levels: readonly Level[]
  readonly blend: Blend | null
  /** The part that holds an attached bind, or -1. */
  readonly anchor: number
  readonly bone: number
  /** The way of the part that it is fused with, from the canvas at rest. */
  readonly fused: { readonly back: Affine; readonly deformChain: DeformChain } | null
  readonly later: readonly Later[]
}

/** Whether a part goes as one piece: a single map says where everything of it is. */
export const isRigid = ({ levels, blend, fused, later }: DeformChain): boolean =>
  levels.length === 0 && blend === null && fused === null && later.length === 0

/** Whether a deformer moves anything of a course in a frame. */
export function isDeformed(evaluation: EvaluationState, deformChain: DeformChain): boolean {
  if (isRaised(evaluation, deformChain)) return true
  for (let k = 0; k < deformChain.later.length; k++) if (evaluation.acting[deformChain.later[k]!.shape]! === 1) return true
  return false
}

/** Whether a course changes the form of what goes along it in a frame; else it goes as one piece. */
export const isActing = (evaluation: EvaluationState, deformChain: DeformChain): boolean =>
  deformChain.blend !== null ||
  (deformChain.fused !== null && isActing(evaluation, deformChain.fused.deformChain)) ||
  isDeformed(evaluation, deformChain)

/** What is remembered of points at rest, so that a frame poses them quickly. */
export interface Fixed {
  readonly weights: Weights | null
  /** For each level, each of its shapes: points, and centres where bones blend by volume. */
  readonly shapes: readonly (readonly Prepared[])[]
  readonly centres: readonly (readonly Prepared[])[]
  readonly fused: Fixed | null
  readonly later: readonly Prepared[]
}

/** What a course looks at in a frame. */
export interface EvaluationState {
  /** [6p] placement of each part in its parent's space; to the canvas at rest; to the posed canvas where it goes as one piece */
  readonly local: Float64Array
  readonly world: Float64Array
  /** [6p] motion of each part that holds an attached bind */
  readonly anchors: Float64Array
  readonly motion: Float64Array
  readonly rigid: Float64Array
  readonly stretch: Float64Array
  readonly drawn: Float64Array
  readonly shapes: readonly Shape[]
  /** [s] 1 where a shape moves anything */
  readonly acting: Uint8Array
  /** Scratch of maps, and of centres by how many numbers they are. */
  readonly maps: Float64Array
  readonly scratch: Map<number, Float64Array>
}

/** Points under a map, in an array of their own. */
export function mapped(m: Affine, points: Float64Array): Float64Array {
  const out = new Float64Array(points.length)
  place(Float64Array.from(m), 0, points, out)
  return out
}

/** Fixes points [2n] of the part's own space. */
export function fixPoints(deformChain: DeformChain, shapes: readonly Shape[], points: Float64Array): Fixed {
  const weights = deformChain.blend?.weigh(points) ?? null
  const prepare = (of: Float64Array): Prepared[][] =>
    deformChain.levels.map((level) => {
      const there = mapped(level.rest, of)
      return level.shapes.map((s) => shapes[s]!.prepare(there))
    })
  const onCanvas = deformChain.fused || deformChain.later.length > 0 ? mapped(deformChain.rest, points) : points
  return {
    weights,
    shapes: prepare(points),
    centres: weights && deformChain.blend!.mode === 'volume' && deformChain.levels.length > 0 ? prepare(weights.centres) : [],
    fused: deformChain.fused && fixPoints(deformChain.fused.deformChain, shapes, mapped(deformChain.fused.back, onCanvas)),
    later: deformChain.later.map(({ shape, back }) => shapes[shape]!.prepare(mapped(back, onCanvas))),
  }
}

const one = new Float64Array(6)
const two = new Float64Array(6)
const STILL = Float64Array.from(IDENTITY)

/**
 * Poses points.
 *
 * @param points [2n] in the part's own space
 * @param fixed what `fixPoints` made of them
 * @param out [2n] on the posed canvas; overwritten, may be `points`
 */
export function runDeformChain(
  evaluation: EvaluationState,
  deformChain: DeformChain,
  fixed: Fixed,
  points: Float64Array,
  out: Float64Array,
): void {
  const isPlaced = isRaised(evaluation, deformChain)
  if (isPlaced) rise(evaluation, deformChain, fixed.shapes, points, out)
  if (deformChain.blend) blendPoints(evaluation, deformChain, fixed, points, out, isPlaced)
  else {
    if (!isPlaced) place(evaluation.world, 6 * deformChain.part, points, out)
    if (deformChain.fused) {
      one.set(deformChain.fused.back)
      place(one, 0, out, out)
      runDeformChain(evaluation, deformChain.fused.deformChain, fixed.fused!, out, out)
    } else if (deformChain.anchor >= 0) place(evaluation.anchors, 6 * deformChain.anchor, out, out)
    else if (deformChain.bone >= 0) place(evaluation.motion, 6 * deformChain.bone, out, out)
  }
  for (let k = 0; k < deformChain.later.length; k++) later(evaluation, deformChain.later[k]!, fixed.later[k]!, out)
}

/** A buffer of a length; the same one each time. */
function scratchOf({ scratch }: EvaluationState, length: number): Float64Array {
  let buffer = scratch.get(length)
  if (!buffer) scratch.set(length, (buffer = new Float64Array(length)))
  return buffer
}

/** Whether a deformer before bones moves anything. */
function isRaised({ acting }: EvaluationState, { levels }: DeformChain): boolean {
  for (let l = 0; l < levels.length; l++) {
    const { shapes } = levels[l]!
    for (let k = 0; k < shapes.length; k++) if (acting[shapes[k]!]! === 1) return true
  }
  return false
}

/** Deforms and places points up to the canvas at rest. */
function rise(
  evaluation: EvaluationState,
  { levels }: DeformChain,
  prepared: readonly (readonly Prepared[])[],
  points: Float64Array,
  out: Float64Array,
): void {
  if (out !== points) out.set(points)
  for (let l = 0; l < levels.length; l++) {
    const { shapes, parts } = levels[l]!
    for (let k = 0; k < shapes.length; k++)
      if (evaluation.acting[shapes[k]!]! === 1) evaluation.shapes[shapes[k]!]!.apply(out, prepared[l]![k]!)
    if (parts.length === 0) continue
    one.set(STILL)
    for (let p = 0; p < parts.length; p++) {
      compose(evaluation.local, 6 * parts[p]!, one, 0, two, 0)
      one.set(two)
    }
    place(one, 0, out, out)
  }
}

/** Skins points; those that were not placed yet are placed on the way. */
function blendPoints(
  evaluation: EvaluationState,
  deformChain: DeformChain,
  fixed: Fixed,
  points: Float64Array,
  out: Float64Array,
  isPlaced: boolean,
): void {
  const { bones, mode } = deformChain.blend!
  const { maps, world, motion, rigid, stretch } = evaluation
  const { offsets, weights, centres } = fixed.weights!
  const w = 6 * deformChain.part
  if (mode === 'linear') {
    // The bones' motions are joined with the part's placement first, so that each point is mapped once.
    for (let k = 0; k < bones.length; k++) compose(motion, 6 * bones[k]!, isPlaced ? STILL : world, isPlaced ? 0 : w, maps, 6 * k)
    skinLinear(isPlaced ? out : points, offsets, weights, maps, out)
    return
  }
  let isDrawn = false
  for (let k = 0; k < bones.length; k++) isDrawn ||= evaluation.drawn[bones[k]!]! !== 1
  if (!isPlaced && !isDrawn) {
    for (let k = 0; k < bones.length; k++) copyMap(rigid, 6 * bones[k]!, maps, 6 * k)
    skinVolume(points, centres, offsets, weights, maps, world, w, out)
    return
  }
  // Centres go the same way as points: deformed, placed, drawn out. Then both turn with the bones.
  const middles = scratchOf(evaluation, points.length)
  if (isPlaced) rise(evaluation, deformChain, fixed.centres, centres, middles)
  else {
    place(world, w, points, out)
    place(world, w, centres, middles)
  }
  if (isDrawn) {
    for (let k = 0; k < bones.length; k++) copyMap(stretch, 6 * bones[k]!, maps, 6 * k)
    skinLinear(out, offsets, weights, maps, out)
    skinLinear(middles, offsets, weights, maps, middles)
  }
  for (let k = 0; k < bones.length; k++) copyMap(rigid, 6 * bones[k]!, maps, 6 * k)
  skinVolume(out, middles, offsets, weights, maps, STILL, 0, out)
}

function later(
  { shapes, acting, rigid }: EvaluationState,
  { shape, bone, place: own, back }: Later,
  prepared: Prepared,
  points: Float64Array,
): void {
  if (acting[shape]! === 0) return
  one.set(own)
  two.set(back)
  if (bone >= 0) {
    compose(rigid, 6 * bone, one, 0, one, 0)
    unmove(rigid, 6 * bone, points)
  }
  place(two, 0, points, points)
  shapes[shape]!.apply(points, prepared)
  place(one, 0, points, points)
}

/** Takes points back by a turn with a shift. */
function unmove(m: Float64Array, k: number, points: Float64Array): void {
  for (let i = 0; i < points.length; i += 2) {
    const x = points[i]! - m[k + 4]!
    const y = points[i + 1]! - m[k + 5]!
    points[i] = m[k]! * x + m[k + 1]! * y
    points[i + 1] = m[k + 2]! * x + m[k + 3]! * y
  }
}

/** Maps points by the affine at a place. */
export function place(m: Float64Array, k: number, points: Float64Array, out: Float64Array): void {
  const a = m[k]!
  const b = m[k + 1]!
  const c = m[k + 2]!
  const d = m[k + 3]!
  const e = m[k + 4]!
  const f = m[k + 5]!
  for (let i = 0; i < points.length; i += 2) {
    const x = points[i]!
    const y = points[i + 1]!
    out[i] = a * x + c * y + e
    out[i + 1] = b * x + d * y + f
  }
}

function copyMap(from: Float64Array, at: number, to: Float64Array, there: number): void {
  for (let i = 0; i < 6; i++) to[there + i] = from[at + i]!
}

/*
 * Maps are handed on in arrays with their places, never as numbers: a call that is not inlined would put each number
 * into an object of its own, and a frame would allocate.
 */

/** out[at] = base[from] · map[of]; a negative `from` stands for no base. `out` may be `base` or `map`. */
export function compose(base: Float64Array, from: number, map: Float64Array, of: number, out: Float64Array, at: number): void {
  const a = map[of]!
  const b = map[of + 1]!
  const c = map[of + 2]!
  const d = map[of + 3]!
  const e = map[of + 4]!
  const f = map[of + 5]!
  if (from < 0) {
    out[at] = a
    out[at + 1] = b
    out[at + 2] = c
    out[at + 3] = d
    out[at + 4] = e
    out[at + 5] = f
    return
  }
  const m0 = base[from]!
  const m1 = base[from + 1]!
  const m2 = base[from + 2]!
  const m3 = base[from + 3]!
  const m4 = base[from + 4]!
  const m5 = base[from + 5]!
  out[at] = m0 * a + m2 * b
  out[at + 1] = m1 * a + m3 * b
  out[at + 2] = m0 * c + m2 * d
  out[at + 3] = m1 * c + m3 * d
  out[at + 4] = m0 * e + m2 * f + m4
  out[at + 5] = m1 * e + m3 * f + m5
}

/**
 * Reads weights and centres of points in a part's own space from the field of the part that holds the bind.
 *
 * @param rest of the part, to the canvas
 * @param holder of the part that holds the bind
 */
export function weigher(rest: Affine, holder: Affine, bind: Extract<Bind, { kind: 'blended' }>): Weigh {
  const sampler = samplerOf(bind.field, bind.bones.length)
  const toHolder = multiply(invert(holder) ?? IDENTITY, rest)
  const back = invert(toHolder) ?? IDENTITY
  return (points) => {
    const n = points.length / 2
    const offsets = new Int32Array(INFLUENCES * n)
    const weights = new Float64Array(INFLUENCES * n)
    const centres = new Float64Array(2 * n)
    for (let i = 0; i < n; i++) {
      const p = apply(toHolder, { x: points[2 * i]!, y: points[2 * i + 1]! })
      sampler.sample(p.x, p.y, i, offsets, weights, centres)
      const centre = apply(back, { x: centres[2 * i]!, y: centres[2 * i + 1]! })
      centres[2 * i] = centre.x
      centres[2 * i + 1] = centre.y
    }
    for (let i = 0; i < offsets.length; i++) offsets[i]! *= 6
    return { offsets, weights, centres }
  }
}
