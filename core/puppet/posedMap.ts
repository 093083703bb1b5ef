/**
 * Where spots of a part are in a pose, and back: what is drawn on the posed puppet is written to its rest through this.
 *
 * The way back is Newton's with the derivative of the bend, damped, begun at the sample that is posed nearest to the
 * spot. It exists wherever the bend does not fold.
 */
import type { PartId } from '../kernel/ids'
import type { Affine, Vec } from '../kernel/numbers'
import { apply, determinant, invert } from '../maths/geometry/affine'
import { drawingOfPart } from './rig'
import { partMap, type Frame } from './frame'
import { posePoints } from '../placement/bendStage'

/** Derivative of a map at a spot: where the steps (1, 0) and (0, 1) go. */
export type Jacobian = readonly [number, number, number, number]

/** Where a pose takes spots of a part, and back. */
export interface PosedMap {
  /** From the part's own space to the canvas as it is posed. */
  toCanvas(at: Vec): Vec
  derivative(at: Vec): Jacobian
  /** From the posed canvas to the part's own space, near a known spot where there is one; null where it cannot be told. */
  toPart(spot: Vec, near?: Vec): Vec | null
}

/** Area below which a derivative counts as flat. */
const SINGULAR = 1e-4

/** The step that a derivative takes to a given one; null where its area is less than `least`. */
export function stepBack([a, b, c, d]: Jacobian, x: number, y: number, least = SINGULAR): [number, number] | null {
  const det = a * d - b * c
  return Math.abs(det) < least ? null : [(d * x - c * y) / det, (a * y - b * x) / det]
}

/** The map of a part in a frame. A part that shows nothing, or is rigid, goes as one piece. */
export function posedMap(frame: Frame, part: PartId): PosedMap {
  const { rig } = frame
  const d = drawingOfPart(rig, part)
  return d >= 0 && frame.flexed[d] === 1 ? bentMap(frame, d) : rigidMap(partMap(frame, rig.parts.index.get(part)!))
}

/** Area below which a placement counts as flattened. */
export const FLAT = 1e-9

/** A map that is the same everywhere. */
export function rigidMap(m: Affine): PosedMap {
  const back = Math.abs(determinant(m)) < FLAT ? null : invert(m)
  return {
    toCanvas: (at) => apply(m, at),
    derivative: () => [m[0], m[1], m[2], m[3]],
    toPart: (spot) => back && apply(back, spot),
  }
}

/** Step of the derivative, px of the part's own space; between spots this near a bend is smooth. */
const STEP = 0.02
const ROUNDS = 40
/** Distance at which a spot counts as reached, and the farthest at which the nearest one still does, px. */
const REACHED = 1e-6
const NEAR = 1e-3
/** Samples from which the way back is begun, the nearest first. */
const STARTS = 4

function bentMap(frame: Frame, d: number): PosedMap {
  const drawing = frame.rig.drawings[d]!
  const { tessellation: soft } = drawing
  const one = new Float64Array(2)
  const four = new Float64Array(8)
  const out = new Float64Array(8)
  const toCanvas = ({ x, y }: Vec): Vec => {
    one[0] = x
    one[1] = y
    posePoints(frame, drawing, one, soft!.fix(one), out)
    return { x: out[0]!, y: out[1]! }
  }
  const derivative = ({ x, y }: Vec): Jacobian => {
    four.set([x - STEP, y, x + STEP, y, x, y - STEP, x, y + STEP])
    posePoints(frame, drawing, four, soft!.fix(four), out)
    const by = 2 * STEP
    return [(out[2]! - out[0]!) / by, (out[3]! - out[1]!) / by, (out[6]! - out[4]!) / by, (out[7]! - out[5]!) / by]
  }
  const newton = (spot: Vec, start: Vec): Vec | null => solveBack(toCanvas, derivative, spot, start)
  return {
    toCanvas,
    derivative,
    toPart(spot, near) {
      const starts = [...(near ? [near] : []), ...nearestSamples(soft!.bent.samples, frame.samples[d]!, spot)]
      for (const start of starts) {
        const found = newton(spot, start)
        if (found) return found
      }
      return null
    },
  }
}

/** A spot that a map takes to another, from a start; null where the way is lost, or ends where the map is flat. */
export function solveBack(toCanvas: (at: Vec) => Vec, derivative: (at: Vec) => Jacobian, spot: Vec, start: Vec): Vec | null {
  let at = start
  let here = toCanvas(at)
  let off = Math.hypot(here.x - spot.x, here.y - spot.y)
  for (let round = 0; round < ROUNDS && off > REACHED; round++) {
    const step = stepBack(derivative(at), spot.x - here.x, spot.y - here.y)
    if (!step) return null
    const [sx, sy] = step
    let share = 1
    let next = at
    let there = here
    let less = Infinity
    for (; share > 1e-3 && less >= off; share /= 2) {
      next = { x: at.x + share * sx, y: at.y + share * sy }
      there = toCanvas(next)
      less = Math.hypot(there.x - spot.x, there.y - spot.y)
    }
    if (less >= off) break
    at = next
    here = there
    off = less
  }
  return off <= NEAR && stepBack(derivative(at), 0, 0) ? at : null
}

function nearestSamples(rest: Float64Array, posed: Float64Array, spot: Vec): Vec[] {
  const best: { i: number; far: number }[] = []
  for (let i = 0; i < posed.length / 2; i++) {
    const far = (posed[2 * i]! - spot.x) ** 2 + (posed[2 * i + 1]! - spot.y) ** 2
    if (best.length === STARTS && far >= best.at(-1)!.far) continue
    best.push({ i, far })
    best.sort((a, b) => a.far - b.far)
    if (best.length > STARTS) best.pop()
  }
  return best.map(({ i }) => ({ x: rest[2 * i]!, y: rest[2 * i + 1]! }))
}
