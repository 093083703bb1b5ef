/** Gives each part its own space at its centre, with its pivot there, or where the file says. */
import type { Affine, Drawing, Part, Path } from '@marionette/core/puppet/schema'
import { drawingBounds } from '@marionette/core/parts/tree'
import { apply, IDENTITY, invert, multiply, placementOf, translation } from '@marionette/core/maths/geometry/affine'
import { emptyBounds, isEmpty, mapBounds, unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { mapShape } from '@marionette/core/maths/geometry/shape'
import type { Context } from './context'

/** Brings the parts and drawings of an import into their final spaces; nothing moves on the canvas. */
export function settle(context: Context): void {
  const boxes = ownBoxes(context)
  const centres = new Map<string, { x: number; y: number }>()
  for (const part of context.parts) {
    const box = boxes.get(part.id)!
    const centre = isEmpty(box) ? { x: 0, y: 0 } : { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 }
    centres.set(part.id, centre)
    const above = part.parent === null ? { x: 0, y: 0 } : centres.get(part.parent)!
    const old = context.maps.get(part.id)!
    const map = multiply(translation(-above.x, -above.y), multiply(old, translation(centre.x, centre.y)))
    part.pivot = pivotOf(context, part, old, centre)
    part.home = placementOf(map, part.pivot)
    if (part.effect?.region)
      part.effect.region = { ...part.effect.region, x: part.effect.region.x - centre.x, y: part.effect.region.y - centre.y }
    const shift = translation(-centre.x, -centre.y)
    for (const id of Object.values(part.art)) context.drawings.set(id, moved(context.drawings.get(id)!, shift, box))
  }
}

function pivotOf(context: Context, part: Part, map: Affine, centre: { x: number; y: number }): { x: number; y: number } {
  const given = context.pivots.get(part.id)
  if (!given) return { x: 0, y: 0 }
  const own = apply(invert(map) ?? IDENTITY, given)
  return { x: own.x - centre.x, y: own.y - centre.y }
}

/** Box of what each part and all in it shows, in its own space. What masks a part lies within it and does not count. */
function ownBoxes(context: Context): Map<string, Bounds> {
  const out = new Map<string, Bounds>(context.parts.map((p) => [p.id, emptyBounds()]))
  const masks = new Set(context.parts.flatMap((p) => p.masks.map((m) => m.shape)))
  // Children come after their parents, so that walking backwards meets them first.
  for (let i = context.parts.length - 1; i >= 0; i--) {
    const part = context.parts[i]!
    const box = out.get(part.id)!
    for (const id of Object.values(part.art)) unite(box, drawingBounds(context.drawings.get(id)!))
    if (part.parent === null || isEmpty(box) || masks.has(part.id)) continue
    unite(out.get(part.parent)!, mapBounds(box, context.maps.get(part.id)!))
  }
  return out
}

/** A drawing under a shift, its numbers rounded to a ten-millionth of its size: finer than anything that shows. */
function moved(drawing: Drawing, shift: Affine, box: Bounds): Drawing {
  const size = Math.max(box.maxX - box.minX, box.maxY - box.minY)
  const steps = size > 0 ? 10 ** (7 - Math.ceil(Math.log10(size))) : 1e7
  const shapes = shift === IDENTITY ? drawing.shapes : drawing.shapes.map((s) => mapShape(s, shift))
  return { ...drawing, shapes: shapes.map((s) => ({ ...s, paths: s.paths.map((p) => rounded(p, steps)) })) }
}

const rounded = (path: Path, steps: number): Path => ({
  ...path,
  anchors: path.anchors.map((v) => Math.round(v * steps) / steps),
  handles: path.handles.map((v) => Math.round(v * steps) / steps),
})
