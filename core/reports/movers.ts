/** What some poses move. */
import { emptyBounds, include, isEmpty, unite, type Bounds } from '../maths/geometry/bounds'
import { poseRig } from '../puppet/evaluate'
import { drawingFrameBounds, isMoved, posedPoint, showsAlike } from '../puppet/probe'
import type { Rig } from '../puppet/rig'
import type { Frame } from '../puppet/frame'

/** The box around all that has moved from one frame to another of the same rig, before and after; null where nothing has. */
export function movedBounds(rest: Frame, frame: Frame): Bounds | null {
  const box = emptyBounds()
  frame.rig.drawings.forEach((_, d) => includeMoved(rest, frame, d, box))
  return isEmpty(box) ? null : box
}

/** The box around all that moves in some pose, before and after, with room around it as a share of its size; null where nothing does. */
export function movedRegion(rig: Rig, poses: readonly Readonly<Record<string, number>>[], room: number): Bounds | null {
  const rest = poseRig(rig, {})
  const box = emptyBounds()
  for (const values of poses) unite(box, movedBounds(rest, poseRig(rig, values)) ?? emptyBounds())
  if (isEmpty(box)) return null
  const out = emptyBounds()
  unite(out, box, room * Math.max(box.maxX - box.minX, box.maxY - box.minY))
  return out
}

function includeMoved(rest: Frame, frame: Frame, d: number, box: Bounds): void {
  const { geometry, part } = frame.rig.drawings[d]!
  if (!showsAlike(rest, frame, d)) drawingFrameBounds(frame.shown[part] ? frame : rest, d, box)
  for (let i = 0; i < geometry.points.length / 2; i++) {
    const [a, b] = [posedPoint(rest, d, i), posedPoint(frame, d, i)]
    if (!isMoved(a, b)) continue
    include(box, a.x, a.y)
    include(box, b.x, b.y)
  }
}
