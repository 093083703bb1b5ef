/** The spot of a path that is nearest to another spot. */
import type { Path } from '../../artwork/records'
import { cubicAt, segmentAt, segmentCount } from './pathCut'

const COARSE = 12
const ROUNDS = 24

/** Segment and position in it of the spot nearest to x, y: the best of a coarse walk, then halved down. */
export function nearestOnPath(
  path: Path,
  x: number,
  y: number,
): { readonly segment: number; readonly share: number; readonly distance: number } {
  let best = { segment: 0, share: 0, distance: Infinity }
  for (let segment = 0; segment < segmentCount(path); segment++) {
    const c = segmentAt(path, segment)
    const off = (t: number): number => {
      const p = cubicAt(c, t)
      return Math.hypot(p.x - x, p.y - y)
    }
    let at = 0
    for (let k = 1; k <= COARSE; k++) if (off(k / COARSE) < off(at)) at = k / COARSE
    let step = 1 / COARSE
    for (let round = 0; round < ROUNDS; round++) {
      step /= 2
      for (const t of [Math.max(0, at - step), Math.min(1, at + step)]) if (off(t) < off(at)) at = t
    }
    const distance = off(at)
    if (distance < best.distance) best = { segment, share: at, distance }
  }
  return best
}
