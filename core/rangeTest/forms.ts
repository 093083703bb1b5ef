/** What poses do to the forms of drawings and meshes: folds, lost area, outlines that lie over themselves. */
import { emptyBounds, include, type Bounds } from '../maths/geometry/bounds'
import { determinant } from '../maths/geometry/affine'
import type { PartId } from '../kernel/ids'
import type { Shape } from '../artwork/records'
import { isTransparent, posedOutline } from '../puppet/probe'
import { partMap, type Frame } from '../puppet/frame'
import { windingsOf, type Windings } from './windings'

/** A form in a pose, shares of its area at rest. */
export interface FormMeasure {
  readonly part: PartId
  /** Turned inside out. */
  readonly folded: number
  /** Lying over itself that does not at rest. */
  readonly overlap: number
  /** Area that it has now. */
  readonly area: number
}

/** Whether a drawing is seen in a frame. */
export const isSeen = (frame: Frame, d: number): boolean => d < frame.rig.shown && !isTransparent(frame, frame.rig.drawings[d]!.part)

/** Outlines as they are posed, with the box that holds them; flat x,y pairs. */
export interface PosedOutlines {
  readonly lines: readonly (readonly number[])[]
  readonly box: Bounds
}

/** The outlines of a drawing in a frame: of its shapes, or of those alone that a test lets through. */
export function outlinesOf(frame: Frame, d: number, isMeant: (shape: Shape) => boolean = () => true): PosedOutlines {
  const shapes = frame.rig.drawings[d]!.geometry.shapes.filter(({ shape }) => isMeant(shape))
  const lines = shapes.flatMap((shape) => posedOutline(frame, d, shape).map(({ points }) => points))
  const box = emptyBounds()
  for (const points of lines) for (let i = 0; i < points.length; i += 2) include(box, points[i]!, points[i + 1]!)
  return { lines, box }
}

function inkWindings(frame: Frame, d: number): Windings {
  const { lines, box } = outlinesOf(frame, d, ({ ink }) => ink !== null)
  return windingsOf(lines, box)
}

/** Areas of a mesh: what lies as it was drawn, and what was turned over. */
function meshAreas(points: ArrayLike<number>, triangles: readonly number[]): { kept: number; turned: number } {
  let [plus, minus] = [0, 0]
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    const area =
      ((points[b]! - points[a]!) * (points[c + 1]! - points[a + 1]!) - (points[c]! - points[a]!) * (points[b + 1]! - points[a + 1]!)) / 2
    if (area > 0) plus += area
    else minus -= area
  }
  return { kept: Math.max(plus, minus), turned: Math.min(plus, minus) }
}

/** Areas smaller than this are too small to be looked at, px². */
const SMALL = 60

/** Compares the forms of a rig in its poses with those at rest. */
export class FormWatch {
  private readonly atRest = new Map<number, Windings>()

  /** @param rest a frame at rest, which is not evaluated again */
  constructor(private readonly rest: Frame) {}

  /** Measures all drawings that change their form in a frame of the same rig and are seen in it. */
  measure(frame: Frame): FormMeasure[] {
    const { drawings, parts } = frame.rig
    return drawings.flatMap((drawing, d): FormMeasure[] => {
      if (frame.bent[d] === 0 || !isSeen(frame, d)) return []
      const measured = drawing.picture ? this.picture(frame, d, drawing.picture.mesh.triangles) : this.outlines(frame, d)
      return measured ? [{ part: parts.ids[drawing.part]!, ...measured }] : []
    })
  }

  private picture(frame: Frame, d: number, triangles: readonly number[]): Omit<FormMeasure, 'part'> | null {
    const { tessellation, part } = frame.rig.drawings[d]!
    const samples = frame.samples[d]
    if (!tessellation || !samples) return null
    const whole = meshAreas(tessellation.bent.samples, triangles).kept * Math.abs(determinant(partMap(this.rest, part)))
    if (whole < SMALL) return null
    const { kept, turned } = meshAreas(samples, triangles)
    return { folded: turned / whole, overlap: 0, area: (kept - turned) / whole }
  }

  private outlines(frame: Frame, d: number): Omit<FormMeasure, 'part'> | null {
    let rest = this.atRest.get(d)
    if (!rest) this.atRest.set(d, (rest = inkWindings(this.rest, d)))
    if (rest.once < SMALL) return null
    const now = inkWindings(frame, d)
    const folded = Math.max(0, now.against - rest.against) / rest.once
    return { folded, overlap: Math.max(0, now.twice - rest.twice) / rest.once, area: now.once / rest.once }
  }
}
