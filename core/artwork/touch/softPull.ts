/** Soft pull: a spot is moved, and what is near goes along, the less the farther away. */
import type { Path } from '../records'
import type { Vec } from '../../kernel/numbers'

/** How a soft pull grows weaker with the distance. */
export type Falloff = 'smooth' | 'linear' | 'sharp' | 'even'

/** Share of the pull at a distance, 0 to 1 of the radius. */
export function pullAt(share: number, falloff: Falloff): number {
  const s = Math.max(0, 1 - share)
  if (s === 0) return 0
  if (falloff === 'even') return 1
  if (falloff === 'linear') return s
  if (falloff === 'sharp') return s * s
  return s * s * (3 - 2 * s)
}

/** A path pulled by a shift about a spot; ends of handles are pulled as the spots are on which they lie. */
export function softPull(path: Path, centre: Vec, radius: number, falloff: Falloff, dx: number, dy: number): Path {
  const weigh = (x: number, y: number): number => pullAt(Math.hypot(x - centre.x, y - centre.y) / radius, falloff)
  const anchors = [...path.anchors]
  const handles = [...path.handles]
  let isMoved = false
  for (let i = 0; i < path.ids.length; i++) {
    const [x, y] = [path.anchors[2 * i]!, path.anchors[2 * i + 1]!]
    const own = weigh(x, y)
    anchors[2 * i] = x + own * dx
    anchors[2 * i + 1] = y + own * dy
    if (own > 0) isMoved = true
    for (const side of [0, 2]) {
      const [hx, hy] = [path.handles[4 * i + side]!, path.handles[4 * i + side + 1]!]
      if (hx === 0 && hy === 0) continue
      const more = weigh(x + hx, y + hy) - own
      handles[4 * i + side] = hx + more * dx
      handles[4 * i + side + 1] = hy + more * dy
      if (more !== 0) isMoved = true
    }
  }
  return isMoved ? { ...path, anchors, handles } : path
}
