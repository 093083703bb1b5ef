/** How much room a layer needs. */
import { affineAt } from '@marionette/core/maths/geometry/affine'
import { emptyBounds, isEmpty, mapBounds, unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { paintBounds } from '@marionette/core/puppet/probe'
import { reachOf } from './effects'
import type { Frame } from '@marionette/core/puppet/frame'

/**
 * A box on the canvas that holds all that a stretch of the paint list may paint, effects included; null where it
 * paints nothing.
 */
export function contentBox(frame: Frame, from: number, to: number): Bounds | null {
  const out = emptyBounds()
  let reach = 0
  for (const op of frame.paint.slice(from, to)) {
    if (op.op === 'draw') paintBounds(frame, op.drawing, out)
    if (op.op !== 'push' || !op.layer?.effect) continue
    const map = affineAt(frame.parts, 6 * op.part)
    reach += reachOf(op.layer.effect) * Math.hypot(map[0], map[1], map[2], map[3])
    // A flood fills the whole region.
    const region = op.layer.effect.region
    if (!region || !op.layer.effect.steps.some((s) => s.step === 'flood')) continue
    const { x, y, width, height } = region
    unite(out, mapBounds({ minX: x, minY: y, maxX: x + width, maxY: y + height }, map))
  }
  if (isEmpty(out)) return null
  const grown = emptyBounds()
  unite(grown, out, reach)
  return grown
}
