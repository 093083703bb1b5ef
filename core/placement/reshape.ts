/**
 * Drawings whose points responses move. What is added to their points is summed in the part's own space and laid onto what the
 * pose makes of them: each point takes its shift the way the pose turns and stretches the drawing there. Weights of bones
 * stay those of the drawing at rest, as skin keeps its own.
 */
import type { ChangeOf } from '../responses/records'
import type { Drawing } from '../artwork/records'
import { fixPoints, place, runDeformChain, type DeformChain, type Fixed, type EvaluationState } from './deformChain'
import type { RigDrawing, Reshape, Turns } from './drawing'
import type { Shape } from '../deformers/shape'
import { drawnForm } from '../artwork/flat/drawnForm'
import { rigidGeometry, type Geometry, type ShapeGeometry } from '../artwork/flat/flat'
import type { Tessellation } from './tessellate'
import { curvedGeometry, laidPoints, layoutOf, shiftPoints } from './layout'

/** What of a frame says where a drawing is. */
interface Posed {
  readonly flexed: Uint8Array
  readonly parts: Float64Array
  readonly samples: readonly (Float64Array | null)[]
  readonly evaluation: EvaluationState
}

type Shifting = Posed & { readonly values: Float64Array }

/** Step to the points beside an anchor, px of the part's own space. */
const STEP = 0.5

const kept = new WeakMap<Drawing, Map<string, Geometry>>()

/**
 * The geometry of a part that is changed by responses: its own, since parts that share a drawing may be changed apart.
 *
 * @param base what it is a copy of; without it the drawing with all of its segments as curves
 */
export function ownGeometry(drawing: Drawing, part: string, base: Geometry | null): Geometry {
  const known = kept.get(drawing) ?? new Map<string, Geometry>()
  kept.set(drawing, known)
  const key = base ? part : `${part} curved`
  let own = known.get(key)
  if (!own || (base && own.points !== base.points)) {
    const form = drawnForm(drawing)
    const from = base ?? (form === drawing ? curvedGeometry(drawing) : rigidGeometry(form))
    own = { points: from.points, shapes: from.shapes.map((s): ShapeGeometry => ({ ...s })) }
    known.set(key, own)
  }
  return own
}

/** Where each point of a drawing stands in its tessellated form, so that moves of points can act before it is deformed. */
export function makeReshape(source: Drawing, tessellation: Tessellation | null, shapes: readonly Shape[]): Reshape {
  const isPlain = drawnForm(source) === source
  if (!isPlain) return { source, layout: null, points: [], turns: null }
  const layout = layoutOf(source, tessellation ? (k) => tessellation.bent.splits[k]! : undefined)
  return { source, layout, points: laidPoints(layout), turns: tessellation && makeTurns(tessellation, shapes) }
}

function makeTurns({ bent, chain: deformChain }: Tessellation, shapes: readonly Shape[]): Turns {
  const samples = [...new Set(bent.anchor)]
  const index = new Map(samples.map((s, k) => [s, k]))
  const own = new Float64Array(2 * samples.length)
  samples.forEach((s, k) => own.set(bent.samples.subarray(2 * s, 2 * s + 2), 2 * k))
  const beside = [0, 1].map((axis) => own.map((v, k) => (k % 2 === axis ? v + STEP : v))) as [Float64Array, Float64Array]
  return {
    anchorOf: bent.anchor.map((s) => index.get(s)!),
    samples: Int32Array.from(samples),
    beside,
    fixed: [fixBeside(deformChain, shapes, beside[0], own), fixBeside(deformChain, shapes, beside[1], own)],
    posed: [new Float64Array(own.length), new Float64Array(own.length)],
  }
}

/** Points fixed with the weights of others: deformers see them where they are, bones as if they were there. */
function fixBeside(deformChain: DeformChain, shapes: readonly Shape[], points: Float64Array, as: Float64Array): Fixed {
  const [own, other] = [fixPoints(deformChain, shapes, points), fixPoints(deformChain, shapes, as)]
  return {
    ...own,
    weights: other.weights,
    centres: other.centres,
    fused: own.fused && other.fused && { ...own.fused, weights: other.fused.weights },
  }
}

/**
 * Shifts of painted points by a change of the drawing's points.
 *
 * @param into receives the number of each moved point with its shift, in the part's own space
 */
export function shiftsOf(reshape: Reshape, change: ChangeOf<'points'>, into: (point: number, x: number, y: number) => void): void {
  if (reshape.layout) return shiftPoints(reshape.layout, change, into)
  // What is painted has points of its own: what became of them is told by making the form anew.
  const [before, after] = [drawnForm(reshape.source), drawnForm(movedDrawing(reshape.source, change))].map((f) => rigidGeometry(f).points)
  if (before!.length !== after!.length) return
  for (let i = 0; i < before!.length / 2; i++) {
    const [x, y] = [after![2 * i]! - before![2 * i]!, after![2 * i + 1]! - before![2 * i + 1]!]
    if (x !== 0 || y !== 0) into(i, x, y)
  }
}

/** A drawing with its points moved by a change. */
export function movedDrawing(drawing: Drawing, { ids, by, widths }: Pick<ChangeOf<'points'>, 'ids' | 'by' | 'widths'>): Drawing {
  const at = new Map(ids.map((id, k) => [id, k]))
  const shapes = drawing.shapes.map((shape) => ({
    ...shape,
    paths: shape.paths.map((path) => {
      const moved = path.ids.map((id) => at.get(id))
      if (moved.every((k) => k === undefined)) return path
      const added = (k: number | undefined, n: number): number => (k === undefined ? 0 : by[6 * k + n]!)
      return {
        ...path,
        anchors: path.anchors.map((v, n) => v + added(moved[n >> 1], n & 1)),
        handles: path.handles.map((v, n) => v + added(moved[n >> 2], 2 + (n & 3))),
        ...(path.widths &&
          widths && { widths: path.widths.map((w, n) => Math.max(0, w + (moved[n] === undefined ? 0 : widths[moved[n]]!))) }),
      }
    }),
  }))
  return { ...drawing, shapes }
}

/**
 * Lays shifts onto posed points.
 *
 * @param base where the shifts [2n] stand among the answers, in the part's own space
 * @param points [2n] posed; changed
 */
export function layShifts(frame: Shifting, drawing: RigDrawing, d: number, { turns }: Reshape, base: number, points: Float64Array): void {
  const { values } = frame
  if (frame.flexed[d] === 0 || !turns) return layRigidly(values, base, frame.parts, 6 * drawing.part, points)
  const samples = frame.samples[d]!
  const { beside, fixed, posed, anchorOf } = turns
  const { chain: deformChain } = drawing.tessellation!
  runDeformChain(frame.evaluation, deformChain, fixed[0], beside[0], posed[0])
  runDeformChain(frame.evaluation, deformChain, fixed[1], beside[1], posed[1])
  for (let i = 0; i < points.length / 2; i++) {
    const x = values[base + 2 * i]!
    const y = values[base + 2 * i + 1]!
    if (x === 0 && y === 0) continue
    const k = 2 * anchorOf[i]!
    const s = 2 * turns.samples[anchorOf[i]!]!
    points[2 * i]! += ((posed[0][k]! - samples[s]!) * x + (posed[1][k]! - samples[s]!) * y) / STEP
    points[2 * i + 1]! += ((posed[0][k + 1]! - samples[s + 1]!) * x + (posed[1][k + 1]! - samples[s + 1]!) * y) / STEP
  }
}

function layRigidly(shifts: Float64Array, at: number, map: Float64Array, m: number, points: Float64Array): void {
  for (let i = 0; i < points.length / 2; i++) {
    const x = shifts[at + 2 * i]!
    const y = shifts[at + 2 * i + 1]!
    if (x === 0 && y === 0) continue
    points[2 * i]! += map[m]! * x + map[m + 2]! * y
    points[2 * i + 1]! += map[m + 1]! * x + map[m + 3]! * y
  }
}

/** How the pose turns and stretches a drawing at a painted point: where (1, 0) and (0, 1) go. */
export function turnAt(
  frame: Posed,
  { part, tessellation: soft }: RigDrawing,
  d: number,
  { turns }: Reshape,
  point: number,
): [number, number, number, number] {
  if (frame.flexed[d] === 0 || !turns) {
    const m = frame.parts
    return [m[6 * part]!, m[6 * part + 1]!, m[6 * part + 2]!, m[6 * part + 3]!]
  }
  const { beside, fixed, posed } = turns
  for (const axis of [0, 1] as const) runDeformChain(frame.evaluation, soft!.chain, fixed[axis], beside[axis], posed[axis])
  const samples = frame.samples[d]!
  const k = 2 * turns.anchorOf[point]!
  const s = 2 * turns.samples[turns.anchorOf[point]!]!
  const [a, b] = posed
  return [
    (a[k]! - samples[s]!) / STEP,
    (a[k + 1]! - samples[s + 1]!) / STEP,
    (b[k]! - samples[s]!) / STEP,
    (b[k + 1]! - samples[s + 1]!) / STEP,
  ]
}

/** Points of a drawing that moves as one piece, posed. */
export const placeRigid = (geometry: Geometry, parts: Float64Array, at: number, out: Float64Array): void =>
  place(parts, at, geometry.points, out)
