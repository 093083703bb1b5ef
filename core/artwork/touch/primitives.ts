/** Ready-made outlines: ovals and boxes. */
import type { Box, Path } from '../records'
import { polygonPath } from '../../maths/geometry/path'

/** Length of the handles of a quarter circle of radius 1: the curve then strays from it by less than 0.0003. */
const QUARTER = 0.5522847498

/** A box between two corners, whichever way it was drawn. */
export function boxBetween(ax: number, ay: number, bx: number, by: number): Box {
  return { x: Math.min(ax, bx), y: Math.min(ay, by), width: Math.abs(bx - ax), height: Math.abs(by - ay) }
}

const numbered = (path: Path, firstId: number): Path => ({ ...path, ids: path.ids.map((_, i) => firstId + i) })

/** An oval that fills a box, in four cubic stretches; ids of its points count from `firstId`. */
export function ovalPath({ x, y, width, height }: Box, firstId: number): Path {
  const [rx, ry] = [width / 2, height / 2]
  const [cx, cy] = [x + rx, y + ry]
  const [hx, hy] = [rx * QUARTER, ry * QUARTER]
  return numbered(
    {
      closed: true,
      ids: [0, 1, 2, 3],
      anchors: [cx + rx, cy, cx, cy + ry, cx - rx, cy, cx, cy - ry],
      handles: [0, -hy, 0, hy, hx, 0, -hx, 0, 0, hy, 0, -hy, -hx, 0, hx, 0],
    },
    firstId,
  )
}

/** A box as a path of four corners; ids of its points count from `firstId`. */
export const boxPath = ({ x, y, width, height }: Box, firstId: number): Path =>
  numbered(polygonPath([x, y, x + width, y, x + width, y + height, x, y + height]), firstId)
