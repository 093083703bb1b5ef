/** Questions to a frame: bounds, what lies under a point, where a bone's ends are. */
import type { PartId } from '../kernel/ids'
import { emptyBounds, include, intersect, isEmpty, unite, type Bounds } from '../maths/geometry/bounds'
import { pictureBounds } from '../parts/pictures'
import type { Vec } from '../kernel/numbers'
import { flattenCubic } from '../maths/geometry/path'
import { distanceToPolyline, isWithin } from '../maths/geometry/polyline'
import { CLOSE, CUBIC, LINE, MOVE, type ShapeGeometry } from '../artwork/flat/flat'
import { drawingOfPart, type Rig } from './rig'
import { partMap, type Frame } from './frame'

/** Posed points of a drawing that changes its form in a frame; null where it goes as one piece. */
export const bentPoints = (frame: Frame, d: number): Float64Array | null => (frame.bent[d] === 1 ? frame.points[d]! : null)

/** A point of a drawing in its posed place on the canvas: bent points as they are, rigid ones through their map. */
export function posedPoint(frame: Frame, d: number, i: number): Vec {
  const drawing = frame.rig.drawings[d]!
  const bent = bentPoints(frame, d)
  if (bent) return { x: bent[2 * i]!, y: bent[2 * i + 1]! }
  const m = frame.parts
  const at = 6 * drawing.part
  const x = drawing.geometry.points[2 * i]!
  const y = drawing.geometry.points[2 * i + 1]!
  return { x: m[at]! * x + m[at + 2]! * y + m[at + 4]!, y: m[at + 1]! * x + m[at + 3]! * y + m[at + 5]! }
}

/** Canvas px from which a point has moved. */
const MOVED = 0.25

/** Whether two spots are more than a quarter of a px apart along an axis. */
export const isMoved = (a: Vec, b: Vec): boolean => Math.abs(a.x - b.x) > MOVED || Math.abs(a.y - b.y) > MOVED

/** Whether as much is seen of a drawing in both frames of a rig, wherever it lies. */
export function showsAlike(before: Frame, after: Frame, d: number): boolean {
  const { part } = after.rig.drawings[d]!
  return before.shown[part] === after.shown[part] && before.opacity[part] === after.opacity[part]
}

/** Whether a drawing looks other in a frame than in another of the same rig: it lies elsewhere, or shows more or less. */
export function hasMoved(before: Frame, after: Frame, d: number): boolean {
  if (!showsAlike(before, after, d)) return true
  const { geometry } = after.rig.drawings[d]!
  for (let i = 0; i < geometry.points.length / 2; i++) if (isMoved(posedPoint(before, d, i), posedPoint(after, d, i))) return true
  return false
}

/** Factor by which a drawing's line widths are scaled in this frame. */
export function lineScaleOf(frame: Frame, d: number): number {
  const drawing = frame.rig.drawings[d]!
  if (frame.bent[d] === 1) return frame.lineScale[d]!
  const at = 6 * drawing.part
  const m = frame.parts
  return Math.sqrt(Math.abs(m[at]! * m[at + 3]! - m[at + 1]! * m[at + 2]!))
}

const TOLERANCE = 0.25

/** Polylines of a shape in its posed place, 1/4 px true at 100%; flat x,y pairs. */
export function posedOutline(frame: Frame, d: number, shape: ShapeGeometry): { points: number[]; closed: boolean }[] {
  const out: { points: number[]; closed: boolean }[] = []
  let at = shape.first
  let last: Vec = { x: 0, y: 0 }
  for (const verb of shape.verbs) {
    if (verb === MOVE) {
      last = posedPoint(frame, d, at++)
      out.push({ points: [last.x, last.y], closed: false })
    } else if (verb === LINE) {
      last = posedPoint(frame, d, at++)
      out.at(-1)!.points.push(last.x, last.y)
    } else if (verb === CUBIC) {
      const p1 = posedPoint(frame, d, at)
      const p2 = posedPoint(frame, d, at + 1)
      const p3 = posedPoint(frame, d, at + 2)
      flattenCubic(out.at(-1)!.points, last.x, last.y, p1.x, p1.y, p2.x, p2.y, p3.x, p3.y, TOLERANCE)
      last = p3
      at += 3
    } else if (verb === CLOSE) out.at(-1)!.closed = true
  }
  return out
}

/** Bounds of one drawing in this frame, lines included. */
export function drawingFrameBounds(frame: Frame, d: number, into: Bounds = emptyBounds()): Bounds {
  const { picture, part } = frame.rig.drawings[d]!
  if (picture && frame.bent[d] === 0) {
    unite(into, pictureBounds(picture, partMap(frame, part)))
    return into
  }
  const scale = lineScaleOf(frame, d)
  for (const shape of frame.rig.drawings[d]!.geometry.shapes) {
    const own = emptyBounds()
    for (const { points } of posedOutline(frame, d, shape))
      for (let i = 0; i < points.length; i += 2) include(own, points[i]!, points[i + 1]!)
    unite(into, own, shape.shape.line ? (shape.shape.line.width / 2) * scale : 0)
  }
  return into
}

/**
 * A box that surely holds a drawing's paint: its control points widened by the longest reach of its lines. Cheap,
 * and never too small.
 */
export function paintBounds(frame: Frame, d: number, into: Bounds = emptyBounds()): Bounds {
  const drawing = frame.rig.drawings[d]!
  const own = emptyBounds()
  for (let i = 0; i < drawing.geometry.points.length / 2; i++) {
    const p = posedPoint(frame, d, i)
    include(own, p.x, p.y)
  }
  const at = 6 * drawing.part
  const m = frame.parts
  const stretch = frame.bent[d] === 1 ? frame.lineScale[d]! * 2 : Math.hypot(m[at]!, m[at + 1]!, m[at + 2]!, m[at + 3]!)
  const widest = drawing.geometry.shapes.reduce(
    (w, { shape: { line } }) => Math.max(w, line ? line.width * (line.join === 'miter' ? line.miter : 1.5) : 0),
    0,
  )
  const morphed = frame.morphs.drawn[d]?.points ?? frame.morphs.warped[d]
  if (morphed) for (let i = 0; i < morphed.length; i += 2) include(own, morphed[i]!, morphed[i + 1]!)
  unite(into, own, widest * stretch)
  return into
}

/** Bounds of each shown drawing in this frame, cut down to what masks let through; empty where nothing is left. */
function shownBounds(frame: Frame, wanted: (part: number) => boolean): Bounds[] {
  const { drawings, shown } = frame.rig
  const masks = masksOf(frame.rig).map((mask) => ({ ...mask, box: boxOf(frame, mask) }))
  return drawings.slice(0, shown).map((drawing, d) => {
    if (!wanted(drawing.part)) return emptyBounds()
    const own = drawingFrameBounds(frame, d)
    for (const { keep, part, box } of masks) if (keep === 'inside' && isInPart(frame.rig, drawing.part, part)) intersect(own, box)
    return own
  })
}

/** Bounds in this frame of parts (all shown ones without a list); null where nothing shows. */
export function frameBounds(frame: Frame, parts?: ReadonlySet<PartId>): Bounds | null {
  const out = emptyBounds()
  const { ids } = frame.rig.parts
  for (const own of shownBounds(frame, (part) => !parts || parts.has(ids[part]!))) unite(out, own)
  return isEmpty(out) ? null : out
}

/** Bounds in this frame of every part with all that is in it, in the order of the part table; null where it shows nothing. */
export function boundsOfParts(frame: Frame): (Bounds | null)[] {
  const { drawings, parts } = frame.rig
  const out = parts.ids.map(emptyBounds)
  for (const [d, own] of shownBounds(frame, () => true).entries()) unite(out[drawings[d]!.part]!, own)
  // Parents come first, so that walking backwards hands everything up.
  for (let p = out.length - 1; p > 0; p--) unite(out[parts.parent[p]!]!, out[p]!)
  return out.map((box) => (isEmpty(box) ? null : box))
}

/** A mask of a part: what it keeps, and the drawings of its shape. */
interface RigMask {
  readonly part: number
  readonly keep: 'inside' | 'outside'
  readonly drawings: readonly number[]
}

const MASKS = new WeakMap<Rig, readonly RigMask[]>()

/** All masks of what is shown; found once for each rig, since the pointer asks for them with every move. */
function masksOf(rig: Rig): readonly RigMask[] {
  const known = MASKS.get(rig)
  if (known) return known
  const { paint, painted } = rig
  const out: RigMask[] = []
  for (const op of paint.slice(0, painted)) {
    if (op.op !== 'push' || !op.layer) continue
    for (const { keep, range } of op.layer.masks) {
      const drawings = paint.slice(range.from, range.to).flatMap((m) => (m.op === 'draw' ? [m.drawing] : []))
      out.push({ part: op.part, keep, drawings })
    }
  }
  MASKS.set(rig, out)
  return out
}

/** The box around a mask's shape in this frame. */
function boxOf(frame: Frame, mask: RigMask): Bounds {
  const box = emptyBounds()
  for (const d of mask.drawings) drawingFrameBounds(frame, d, box)
  return box
}

/** Whether a part is another one or in it. */
function isInPart(rig: Rig, part: number, ancestor: number): boolean {
  for (let p = part; p >= 0; p = rig.parts.parent[p]!) if (p === ancestor) return true
  return false
}

/** Parts whose paint lies within `reach` px of a spot on the canvas, top to bottom. */
export function partsAt(frame: Frame, x: number, y: number, reach = 0): PartId[] {
  const out: PartId[] = []
  for (let d = frame.rig.shown - 1; d >= 0; d--) {
    const { part, geometry } = frame.rig.drawings[d]!
    const box = paintBounds(frame, d)
    if (x < box.minX - reach || x > box.maxX + reach || y < box.minY - reach || y > box.maxY + reach) continue
    if (isTransparent(frame, part)) continue
    const scale = lineScaleOf(frame, d)
    if (!geometry.shapes.some((shape) => covers(frame, d, shape, x, y, reach, scale))) continue
    if (!isMaskedAway(frame, part, x, y)) out.push(frame.rig.parts.ids[part]!)
  }
  return out
}

/** Whether a mask of the part, or of one above it, hides this spot. */
const isMaskedAway = (frame: Frame, part: number, x: number, y: number): boolean =>
  masksOf(frame.rig).some((mask) => {
    if (!isInPart(frame.rig, part, mask.part)) return false
    const isInside = mask.drawings.some((d) =>
      frame.rig.drawings[d]!.geometry.shapes.some((shape) => covers(frame, d, shape, x, y, 0, lineScaleOf(frame, d))),
    )
    return isInside !== (mask.keep === 'inside')
  })

/** Whether nothing is seen of a part in a frame: it, or something that it is in, is hidden or clear. */
export function isTransparent({ rig, opacity, shown }: Frame, part: number): boolean {
  for (let p = part; p >= 0; p = rig.parts.parent[p]!) if (opacity[p] === 0 || shown[p] === 0) return true
  return false
}

function covers(
  frame: Frame,
  d: number,
  { shape, ...geometry }: ShapeGeometry,
  x: number,
  y: number,
  reach: number,
  scale: number,
): boolean {
  const outline = posedOutline(frame, d, { shape, ...geometry })
  if (
    shape.ink &&
    isWithin(
      outline.map((o) => o.points),
      x,
      y,
      shape.ink.rule,
    )
  )
    return true
  const near = shape.line ? (shape.line.width / 2) * scale + reach : shape.ink ? reach : 0
  return near > 0 && outline.some(({ points, closed }) => distanceToPolyline(points, closed, x, y) <= near)
}

/** The topmost shape of a part's own drawing under a spot, within `reach` px; null where none is. */
export function shapeAt(frame: Frame, part: PartId, x: number, y: number, reach = 0): ShapeSpot | null {
  const d = drawingOfPart(frame.rig, part)
  if (d < 0) return null
  const found = frame.rig.drawings[d]!.geometry.shapes.findLast((shape) => covers(frame, d, shape, x, y, reach, lineScaleOf(frame, d)))
  return found ? { drawing: d, shape: found } : null
}

/** The shape that is painted at a spot. */
export interface ShapeSpot {
  /** Number of the drawing in the rig. */
  readonly drawing: number
  readonly shape: ShapeGeometry
}

/** A spot of a bone in this frame: `at` 0 is its start, 1 its end. */
export function bonePoint(frame: Frame, bone: number, at: number): Vec {
  const { start, end } = frame.rig.bones
  const x = start[2 * bone]! + at * (end[2 * bone]! - start[2 * bone]!)
  const y = start[2 * bone + 1]! + at * (end[2 * bone + 1]! - start[2 * bone + 1]!)
  const m = frame.bones
  const k = 6 * bone
  return { x: m[k]! * x + m[k + 2]! * y + m[k + 4]!, y: m[k + 1]! * x + m[k + 3]! * y + m[k + 5]! }
}
