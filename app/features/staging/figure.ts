/** How large the figure is that casts a shadow. */
import { drawnParts, restBounds } from '@marionette/core/parts/tree'
import { emptyBounds, isEmpty, unite } from '@marionette/core/maths/geometry/bounds'
import { meansStill } from '@marionette/core/roles/match'
import type { Puppet } from '@marionette/core/puppet/schema'

/** The lowest spot of a figure at rest and its height, px; scenery and painted shadows do not count. */
export function figureBox(puppet: Puppet): { feet: number; height: number } {
  const box = emptyBounds()
  for (const part of drawnParts(puppet, puppet.root)) {
    const own = part.visible && !meansStill(part.name) ? restBounds(puppet, part.id) : null
    if (own) unite(box, own)
  }
  return isEmpty(box) ? { feet: puppet.canvas.height, height: puppet.canvas.height } : { feet: box.maxY, height: box.maxY - box.minY }
}
