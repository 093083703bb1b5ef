/** Areas that are selected on the posed canvas, in the space of a part that may bend. */
import type { PartId } from '../kernel/ids'
import { combine, type Area } from '../maths/geometry/booleans'
import { polygonPath } from '../maths/geometry/path'
import { posedMap } from '../puppet/posedMap'
import { posedOutline } from '../puppet/probe'
import { offsetSelection } from '../artwork/selection'
import { restPath } from './posedPaths'
import { drawingOfPart } from '../puppet/rig'
import type { Frame } from '../puppet/frame'

/** Room left around what a part shows, px: the breadth of an antialiased edge, and of half a thin line. */
const ROOM = 3

/**
 * What an area of the shown canvas is in a part's own space. Of an area over a part that bends only what lies about the
 * part counts: farther away its space may be folded. Null where nothing of the part is near. Throws FoldedError
 */
export function areaInPart(frame: Frame, part: PartId, area: Area): Area | null {
  const map = posedMap(frame, part)
  const d = drawingOfPart(frame.rig, part)
  const near = frame.bent[d] === 1 ? aroundPart(frame, d, area) : area
  if (!near) return null
  let next = 1 + near.paths.reduce((most, p) => Math.max(most, ...p.ids), -1)
  return { ...near, paths: near.paths.map((p) => restPath(p, map, () => next++)) }
}

function aroundPart(frame: Frame, d: number, area: Area): Area | null {
  const { geometry } = frame.rig.drawings[d]!
  const widest = Math.max(0, ...geometry.shapes.map(({ shape }) => (shape.line?.width ?? 0) * frame.lineScale[d]!))
  const outlines = geometry.shapes.flatMap((shape) => posedOutline(frame, d, shape).map(({ points }) => polygonPath(points)))
  if (outlines.length === 0) return null
  const about = offsetSelection({ paths: outlines, rule: 'nonzero' }, ROOM + widest / 2)
  const paths = about ? combine(area, about, 'intersect') : []
  return paths.length > 0 ? { paths, rule: 'nonzero' } : null
}
