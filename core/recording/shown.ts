/** Drawings as they are seen: posed, with what responses move of their points. */
import type { PartId } from '../kernel/ids'
import type { Drawing } from '../artwork/records'
import { poseDrawing } from '../touch/posedPaths'
import type { LaidPoint, LaidSide } from '../placement/layout'
import type { PosedMap } from '../puppet/posedMap'
import { drawingOfPart } from '../puppet/rig'
import { isReshaped, type Frame } from '../puppet/frame'

/** Distance from the third of a straight line at which a handle lies on it, px. */
const STRAIGHT = 1e-6

/**
 * The drawing of a part as it is seen in a frame: anchors and handles where they are on the canvas.
 *
 * @param map of the part in the frame
 */
export function shownDrawing(frame: Frame, part: PartId, drawing: Drawing, map: PosedMap): Drawing {
  const d = drawingOfPart(frame.rig, part)
  const reshape = frame.rig.drawings[d]?.reshape
  if (!reshape || reshape.source !== drawing || !reshape.layout || !isReshaped(frame, d)) return poseDrawing(drawing, map)
  const laid = new Map(reshape.points.map((p) => [p.id, p]))
  const points = frame.points[d]!
  const shapes = drawing.shapes.map((shape) => ({
    ...shape,
    paths: shape.paths.map((path) => ({
      ...path,
      anchors: path.ids.flatMap((id) => pointAt(points, laid.get(id)!.anchor)),
      handles: path.ids.flatMap((id) => handlesAt(points, laid.get(id)!)),
    })),
  }))
  return { ...drawing, shapes }
}

const pointAt = (points: Float64Array, i: number): [number, number] => [points[2 * i]!, points[2 * i + 1]!]

function handlesAt(points: Float64Array, { anchor, in: into, out }: LaidPoint): number[] {
  const side = (s: LaidSide | null): [number, number] => (s ? shownHandle(points, anchor, s) : [0, 0])
  return [...side(into), ...side(out)]
}

/** A handle as it is seen; none where the segment is a straight line that stayed one. */
function shownHandle(points: Float64Array, anchor: number, { control, share, straight, other }: LaidSide): [number, number] {
  const [ax, ay] = pointAt(points, anchor)
  const [cx, cy] = pointAt(points, control)
  const [x, y] = [(cx - ax) / share, (cy - ay) / share]
  if (!straight) return [x, y]
  const [bx, by] = pointAt(points, other)
  return Math.hypot(x - (bx - ax) / 3, y - (by - ay) / 3) < STRAIGHT ? [0, 0] : [x, y]
}
