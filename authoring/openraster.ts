/** A puppet's artwork at rest as OpenRaster: parts become layers, groups become groups. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { PartId } from '@marionette/core/kernel/ids'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { drawingOf, restBounds, maskingParts } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { writeOpenRaster, type WrittenGroup, type WrittenLayer } from '@marionette/formats/openraster/write'
import { cropped, encodePng, opaqueBox, type Pixels } from '@marionette/formats/pixels'
import { expectedName } from '@marionette/formats/starter'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import type { Frame } from '@marionette/core/puppet/frame'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

/** `artwork` writes what is there; `starter` the same places in one pale tone under the names that templates look for. */
export type OpenRasterKind = 'artwork' | 'starter'

/** Largest side of the small picture in a file, as its specification has it. */
const THUMBNAIL = 256

/** Writes a puppet. Masks and effects of a part are drawn into its layer; bones are not part of the format. */
export function exportOpenRaster(CK: CanvasKit, puppet: Puppet, assets: AssetSource, kind: OpenRasterKind = 'artwork'): Uint8Array {
  const writer = new LayerWriter(CK, puppet, assets, kind)
  const { width, height } = puppet.canvas
  const frame = poseRig(compile(puppet), {})
  const region = { minX: 0, minY: 0, maxX: width, maxY: height }
  const small = Math.min(1, THUMBNAIL / Math.max(width, height))
  return writeOpenRaster({
    width: Math.round(width),
    height: Math.round(height),
    layers: writer.children(partOf(puppet, puppet.root)),
    merged: renderPixels(CK, frame, { region, scale: 1, assets }),
    thumbnail: renderPixels(CK, frame, { region, scale: small, assets }),
  })
}

class LayerWriter {
  private readonly frame: Frame
  private readonly masking: ReadonlySet<PartId>

  constructor(
    private readonly CK: CanvasKit,
    private readonly puppet: Puppet,
    private readonly assets: AssetSource,
    private readonly kind: OpenRasterKind,
  ) {
    this.masking = new Set([...maskingParts(puppet)].filter((id) => !partOf(puppet, id).visible))
    this.frame = poseRig(compile({ ...puppet, parts: this.plainOutside(partOf(puppet, puppet.root)) }), {})
  }

  /** Opacity, visibility and blend modes of layers are said beside the pixels; what lies inside a layer is drawn as it is. */
  private plainOutside(group: Part, parts: Record<PartId, Part> = { ...this.puppet.parts }): Record<PartId, Part> {
    // Of a swap all alternates are written, those that do not show at rest as hidden layers.
    parts[group.id] = { ...recordOf(parts, group.id), swap: null }
    for (const part of group.children.map((id) => partOf(this.puppet, id))) {
      if (this.masking.has(part.id)) continue
      parts[part.id] = { ...part, visible: true, opacity: 1, blend: 'normal' }
      if (!this.isWhole(part)) this.plainOutside(part, parts)
    }
    return parts
  }

  /** Whether a part and all that is in it become one layer. */
  private isWhole(part: Part): boolean {
    return drawingOf(this.puppet, part) !== null || part.masks.length > 0 || part.effect !== null
  }

  /** Layers of what is in a group, bottom to top. */
  children(group: Part): (WrittenLayer | WrittenGroup)[] {
    return group.children.flatMap((id) => this.part(partOf(this.puppet, id)))
  }

  private part(part: Part): (WrittenLayer | WrittenGroup)[] {
    if (this.masking.has(part.id)) return []
    const { opacity, blend } = part
    const swap = this.puppet.parts[part.parent ?? '']?.swap
    const visible = part.visible && (!swap || part.alternate === swap.initial)
    const base = { name: this.kind === 'starter' ? expectedName(this.puppet, part) : part.name, visible, opacity, blend }
    if (!this.isWhole(part)) return [{ ...base, children: this.children(part) }]
    const layer = this.layer(part)
    return layer ? [{ ...base, ...layer }] : []
  }

  private layer(part: Part): Pick<WrittenLayer, 'x' | 'y' | 'png'> | null {
    const box = restBounds(this.puppet, part.id)
    if (!box) return null
    const air = part.effect ? 64 : 8
    const [minX, minY] = [Math.floor(box.minX - air), Math.floor(box.minY - air)]
    const region = { minX, minY, maxX: Math.ceil(box.maxX + air), maxY: Math.ceil(box.maxY + air) }
    const drawn = renderPixels(this.CK, this.frame, { region, scale: 1, only: this.indicesOf(part), assets: this.assets })
    const opaque = opaqueBox(drawn)
    if (!opaque) return null
    const kept = cropped(drawn, opaque)
    return { x: minX + opaque.x, y: minY + opaque.y, png: encodePng(this.kind === 'starter' ? paled(kept) : kept) }
  }

  private indicesOf(part: Part): ReadonlySet<number> {
    const ids: PartId[] = [part.id]
    for (const id of ids) ids.push(...partOf(this.puppet, id).children)
    return new Set(ids.map((id) => sure(this.frame.rig.parts.index.get(id))))
  }
}

/** One pale tone where something shows, to be painted over. */
function paled({ width, height, data }: Pixels): Pixels {
  const out = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    out[i] = 214
    out[i + 1] = 203
    out[i + 2] = 182
    out[i + 3] = nth(data, i + 3)
  }
  return { width, height, data: out }
}
