/** Drawings that change their form: their samples go their way, their points follow, and what moves points alone is laid onto that. */
import { expandBend } from '../artwork/flat/pieces'
import type { Stage } from '../kernel/stage'
import { isActing, isDeformed, runDeformChain, type Fixed } from './deformChain'
import type { DeformFrame } from './deformStage'
import type { RigDrawing } from './drawing'
import type { PartsFrame } from './partsStage'
import { layShifts, placeRigid } from './reshape'

/** Drawings of a rig. */
export interface DrawingsRig {
  /** Bottom to top; what is hidden, masks nothing and cannot be shown is left out. */
  readonly drawings: readonly RigDrawing[]
}

/** Points of drawings as they are posed. */
export interface DrawingsFrame {
  /** Posed points [2n] of each drawing that changes its form, null for rigid ones; canvas px */
  readonly points: readonly (Float64Array | null)[]
  /** Posed samples [2m] of each drawing that changes its form, from which its points follow */
  readonly samples: readonly (Float64Array | null)[]
  /** [d] 1 where a drawing changes its form in this frame; else it goes as one piece, by the map of its part */
  readonly bent: Uint8Array
  /** [d] 1 where a drawing changes its form by bones or deformers; else what moves its points alone does */
  readonly flexed: Uint8Array
  /** [d] factor on line widths of drawings that change their form */
  readonly lineScale: Float64Array
}

/** Buffers of drawings. */
export const makeDrawingsFrame = ({ drawings }: DrawingsRig): DrawingsFrame => ({
  points: drawings.map((d) => (d.tessellation || d.reshape ? new Float64Array(d.geometry.points.length) : null)),
  samples: drawings.map((d) => (d.tessellation ? new Float64Array(d.tessellation.bent.samples.length) : null)),
  bent: new Uint8Array(drawings.length),
  flexed: new Uint8Array(drawings.length),
  lineScale: new Float64Array(drawings.length).fill(1),
})

/** What bends drawings, and what they become. */
export type Bending = DrawingsFrame & DeformFrame & PartsFrame

/** Bends drawings: from points at rest to points on the canvas. */
export const bendStage: Stage<DrawingsRig, object, Bending, object> = {
  name: 'bending',
  run({ drawings }, frame) {
    for (let d = 0; d < drawings.length; d++) bendDrawing(drawings[d]!, d, frame)
  },
}

/** Poses one drawing that changes its form: its samples go their course, its path points follow from them. */
function bendDrawing(drawing: RigDrawing, d: number, frame: Bending): void {
  const { tessellation: soft } = drawing
  frame.bent[d] = 0
  if (!soft) return
  frame.flexed[d] = frame.bent[d] = Number(isActing(frame.evaluation, soft.chain))
  if (frame.bent[d] === 0) return
  const samples = frame.samples[d]!
  runDeformChain(frame.evaluation, soft.chain, soft.fixed, soft.bent.samples, samples)
  expandBend(soft.bent, samples, frame.points[d]!)
  scaleLines(drawing, d, frame)
}

/** Where shifts of the points of a drawing stand among what answers to a pose. */
export interface ShiftPlace {
  readonly drawing: number
  readonly base: number
  readonly length: number
}

interface Shifted {
  readonly responses: { readonly reshapes: readonly ShiftPlace[] }
}

type Shifting = Bending & { readonly values: Float64Array }

/** Lays what moves points alone onto what the pose has made of them. */
export const reshapeStage: Stage<DrawingsRig & Shifted, object, Shifting, object> = {
  name: 'reshaping',
  run({ drawings, responses: { reshapes } }, frame) {
    for (let k = 0; k < reshapes.length; k++) {
      const { drawing: d, base, length } = reshapes[k]!
      if (isAny(frame.values, base, length)) reshapeDrawing(drawings[d]!, d, base, frame)
    }
  },
}

function reshapeDrawing(drawing: RigDrawing, d: number, base: number, frame: Shifting): void {
  const { part, geometry, reshape } = drawing
  const points = frame.points[d]!
  if (frame.flexed[d] === 0) {
    placeRigid(geometry, frame.parts, 6 * part, points)
    const m = 6 * part
    frame.lineScale[d] = Math.sqrt(Math.abs(frame.parts[m]! * frame.parts[m + 3]! - frame.parts[m + 1]! * frame.parts[m + 2]!))
    frame.bent[d] = 1
  }
  layShifts(frame, drawing, d, reshape!, base, points)
}

/** Whether any number of a stretch is other than nothing. */
export function isAny(values: Float64Array, from: number, length: number): boolean {
  for (let i = from; i < from + length; i++) if (values[i] !== 0) return true
  return false
}

/**
 * Sets the factor on line widths: the square root of what became of the drawing's area. Where bones alone bend it, they keep
 * its area, and the part's own placement says it.
 */
function scaleLines(
  { tessellation: soft, part, geometry }: RigDrawing,
  d: number,
  { world, points, evaluation, lineScale }: Bending,
): void {
  const w = 6 * part
  lineScale[d] = Math.sqrt(Math.abs(world[w]! * world[w + 3]! - world[w + 1]! * world[w + 2]!))
  if (!isDeformed(evaluation, soft!.chain)) return
  areas[REST] = 0
  areas[POSED] = 0
  for (let k = 0; k < geometry.shapes.length; k++) {
    const { first, count } = geometry.shapes[k]!
    addArea(geometry.points, first, count, REST)
    addArea(points[d]!, first, count, POSED)
  }
  if (areas[REST]! > 1) lineScale[d] = Math.sqrt(Math.min(100, areas[POSED]! / areas[REST]!))
}

const areas = new Float64Array(2)
const REST = 0
const POSED = 1

/** Adds the area inside a run of points. */
function addArea(points: Float64Array, first: number, count: number, at: number): void {
  let sum = 0
  for (let i = first, j = first + count - 1; i < first + count; j = i++)
    sum += points[2 * j]! * points[2 * i + 1]! - points[2 * i]! * points[2 * j + 1]!
  areas[at]! += Math.abs(sum) / 2
}

/**
 * Poses points of the space of a drawing that changes its form.
 *
 * @param points [2n] in the part's own space
 * @param fixed what the drawing's `fix` made of them
 * @param out [2n] on the canvas; overwritten
 */
export function posePoints(
  { evaluation }: DeformFrame,
  { tessellation: soft }: RigDrawing,
  points: Float64Array,
  fixed: Fixed,
  out: Float64Array,
): void {
  runDeformChain(evaluation, soft!.chain, fixed, points, out)
}

/** Drawings where they are in a frame. */
export type PosedDrawings = DrawingsFrame & PartsFrame & { readonly rig: DrawingsRig }
