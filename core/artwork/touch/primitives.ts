/** Ready-made outlines: ovals and boxes. */
import type { Box, Path } from '../../document/schema'
import { polygonPath } from '../../geometry/path'

/** Length of the handles of a quarter circle of radius 1: the curve then strays from it by less than 0.0003. */
const QUARTER = 0.5522847498

/** A box between two corners, whichever way it was drawn. */
export function boxBetween(ax: number, ay: number, bx: number, by: number): Box {
  return { x: Math.min(ax, bx), y: Math.min(ay, by), width: Math.abs(bx - ax), height: Math.abs(by - ay) }
}

const numbered = (path: Path, firstId: number): Path => ({ ...path, ids: path.ids.map((_, i) => firstId + i) })

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

export const boxPath = ({ x, y, width, height }: Box, firstId: number): Path =>
  numbered(polygonPath([x, y, x + width, y, x + width, y + height, x, y + height]), firstId)
