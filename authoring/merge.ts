/** A group as one picture. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { PartId } from '@marionette/core/kernel/ids'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { partsBelow, restBounds } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { storedPicture, type StoredPicture } from '@marionette/formats/storedPicture'
import { RenderError } from '@marionette/render/surface'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import { atHome } from '@marionette/core/parts/new'
import { recordOf } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

export type Merged = StoredPicture

/**
 * Draws all that is in a group, at rest, as one picture in the group's own space.
 *
 * @param scale pixels of the picture for each unit of the group's space
 * @param id of the picture
 * Throws RenderError where the group shows nothing, or the picture would be too large.
 */
export function mergeToPicture(CK: CanvasKit, puppet: Puppet, group: PartId, scale: number, id: string, assets: AssetSource): Merged {
  const alone = groupAlone(puppet, group)
  const box = restBounds(alone, alone.root)
  if (!box) throw new RenderError(`"${partOf(puppet, group).name}" shows nothing that could be merged.`)
  // Whole pixels, with room for what lies beyond the outlines: blurs and sharp corners of lines.
  const air = 8
  const region = {
    minX: Math.floor(box.minX - air),
    minY: Math.floor(box.minY - air),
    maxX: Math.ceil(box.maxX + air),
    maxY: Math.ceil(box.maxY + air),
  }
  const pixels = renderPixels(CK, poseRig(compile(alone), {}), { region, scale, assets })
  const stored = storedPicture(id, pixels, { x: region.minX, y: region.minY, scale: 1 / scale })
  if (!stored) throw new RenderError(`"${partOf(puppet, group).name}" shows nothing that could be merged.`)
  return stored
}

/** A puppet in which the group is all there is, its own space that of the canvas, laid down plainly. */
function groupAlone(puppet: Puppet, group: PartId): Puppet {
  const parts = Object.fromEntries(partsBelow(puppet, group).map((p): [string, Part] => [p.id, { ...p, bind: null }]))
  const inside = new Set(Object.keys(parts))
  const top: Part = {
    ...recordOf(parts, group),
    parent: null,
    home: atHome(),
    merged: null,
    opacity: 1,
    visible: true,
    masks: [],
    blend: 'normal',
    effect: null,
  }
  const masked = Object.fromEntries(
    Object.entries(parts).map(([id, p]) => [id, { ...p, masks: p.masks.filter((m) => inside.has(m.shape)) }]),
  )
  return { ...puppet, parts: { ...masked, [group]: top }, root: group, pose: {}, bones: {}, skeleton: [] }
}
