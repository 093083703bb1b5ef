/** Whether a drawing shows what a template shows, or its mirror image: near and far the other way round, an animal that looks to the other side. */
import type { Vec } from '../kernel/numbers'

/** Spots of the figure with where they lie in the drawing. */
export interface Placed {
  readonly figure: Vec
  readonly at: Vec
}

/** A mirror image has to fit this much better before it is believed: a figure seen from the side is nearly as good either way. */
const CLEARLY = 1.05

/**
 * Whether spots lie as the figure's mirror image does rather than as the figure itself, whatever they are turned, moved and scaled by: the
 * better of both orthogonal fits (Procrustes analysis in the plane; Kabsch 1976, Umeyama 1991).
 */
export function isMirrored(spots: readonly Placed[]): boolean {
  const n = Math.max(1, spots.length)
  const mean = (pick: (s: Placed) => Vec): Vec =>
    spots.reduce((sum, s) => ({ x: sum.x + pick(s).x / n, y: sum.y + pick(s).y / n }), { x: 0, y: 0 })
  const [f, d] = [mean((s) => s.figure), mean((s) => s.at)]
  let [xx, xy, yx, yy] = [0, 0, 0, 0]
  for (const { figure, at } of spots) {
    const [ux, uy, vx, vy] = [figure.x - f.x, figure.y - f.y, at.x - d.x, at.y - d.y]
    xx += ux * vx
    xy += ux * vy
    yx += uy * vx
    yy += uy * vy
  }
  return Math.hypot(xx - yy, xy + yx) > CLEARLY * Math.hypot(xx + yy, xy - yx)
}
