/** A layered picture to a puppet: each layer a part, its pixels trimmed without moving, meshed and stored once. */
import { meshPicture, placeMesh } from '@marionette/core/artwork/pictureMesh'
import type { IdSource } from '@marionette/core/kernel/ids'
import { FRONT_VIEW, newPuppet } from '@marionette/core/puppet/new'
import type { Part, Picture, Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { setGuides } from '@marionette/core/puppet/puppetCommands'
import { IDENTITY } from '@marionette/core/maths/geometry/affine'
import { assetHash } from '../assets'
import { withSources } from '../sources'
import { alphaOf, checkCanvas, cropped, encodePng, opaqueBox, type Pixels } from '../pixels'
import type { Warning } from '../warnings'
import { cleanName, type GroupLayer, type Layer, type LayeredFile, type LayerMask, type PixelLayer } from './layers'
import { newPart } from '@marionette/core/parts/new'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

export interface LayerImport {
  readonly puppet: Puppet
  readonly warnings: readonly Warning[]
  /** PNG bytes by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

/** Told of every layer as it is read: 0 to 1, and its name. */
export type Progress = (done: number, what: string) => void

/**
 * Reads the layers of a file into a new puppet. One layer's pixels are in memory at a time.
 *
 * @param file name of the file, kept with each part so that a later version finds it
 * Throws FormatError where a layer is damaged; nothing is half read.
 */
export function importLayers(layered: LayeredFile, name: string, file: string, ids: IdSource, progress: Progress = () => {}): LayerImport {
  checkCanvas('The canvas', layered.width, layered.height)
  const empty = newPuppet(ids('puppet'), cleanName(name, 'Untitled'), { width: layered.width, height: layered.height })
  const reader = new LayerReader(ids, countOf(layered.layers), progress)
  reader.children(layered.layers, null)
  const { parts, pictures, assets } = reader
  const warnings = [...layered.warnings, ...reader.warnings]
  if (parts.length === 0)
    return {
      puppet: empty,
      warnings: [...warnings, { code: 'layer.empty', place: 'the whole file', message: 'there is nothing in it that can be shown' }],
      assets,
    }
  const filled = withSources(run(empty, addArtwork, { parent: empty.root, parts, drawings: [], pictures }), file)
  const puppet = layered.guides.length === 0 ? filled : run(filled, setGuides, { guides: [...layered.guides] })
  return { puppet, warnings, assets }
}

const countOf = (layers: readonly Layer[]): number =>
  layers.reduce((sum, layer) => sum + 1 + (layer.kind === 'group' ? countOf(layer.children) : 0), 0)

class LayerReader {
  readonly parts: Part[] = []
  readonly pictures: Picture[] = []
  readonly assets = new Map<string, Uint8Array>()
  readonly warnings: Warning[] = []
  /** Pictures by asset, so that equal pixels are stored and meshed once. */
  private readonly known = new Map<string, Picture['mesh']>()
  private done = 0

  constructor(
    private readonly ids: IdSource,
    private readonly count: number,
    private readonly progress: Progress,
  ) {}

  /** Reads layers, bottom to top, into a part (null: the top). */
  children(layers: readonly Layer[], parent: string | null): void {
    let base: Part | null = null
    for (const layer of layers) {
      this.progress(this.done++ / this.count, layer.name)
      const part = this.layer(layer, parent)
      if (!layer.clipped) base = part
      else if (!base) this.warn(layer, 'is clipped to a layer below, but there is none')
      else {
        part.masks.push({ shape: base.id, keep: 'inside', by: 'paint' })
        // What is clipped goes with its base.
        if (!base.visible) part.visible = false
      }
    }
  }

  private warn(layer: Layer, message: string): void {
    this.warnings.push({ code: 'layer', place: `layer "${layer.name}"`, message })
  }

  private layer(layer: Layer, parent: string | null): Part {
    const part = newPart(this.ids('part'), layer.name)
    Object.assign(part, {
      parent,
      visible: layer.visible,
      locked: layer.locked,
      opacity: layer.opacity,
      blend: layer.blend,
      source: { file: '', key: layer.key, path: [], place: [...IDENTITY] },
    })
    this.parts.push(part)
    if (layer.kind === 'group') this.group(part, layer)
    else this.pixels(part, layer)
    return part
  }

  private group(part: Part, layer: GroupLayer): void {
    part.isolated = layer.isolated
    this.children(layer.children, part.id)
    if (layer.mask) this.mask(part, layer, layer.mask)
  }

  private pixels(part: Part, layer: PixelLayer): void {
    const loaded = layer.load()
    if (!loaded) return this.warn(layer, 'holds no pixels')
    const picture = this.picture(loaded.pixels, loaded.bytes, layer.x, layer.y)
    if (!picture) return this.warn(layer, 'is wholly transparent')
    if (!layer.mask) return show(part, picture)
    // The mask is a part beside the pixels, so both hang from the layer.
    const inner = newPart(this.ids('part'), `${layer.name} picture`.slice(0, 200))
    inner.parent = part.id
    show(inner, picture)
    this.parts.push(inner)
    this.mask(part, layer, layer.mask)
  }

  /** Hangs a hidden picture under a part and lets it mask the part. */
  private mask(part: Part, layer: Layer, mask: LayerMask): void {
    const grey = mask.load()
    if (!grey) return
    // Where a layer shows beyond its mask, the mask is what hides: its dark.
    const picture = this.picture(coverage(grey, mask.showsBeyond), null, mask.x, mask.y)
    if (!picture) {
      if (!mask.showsBeyond) part.visible = false
      return this.warn(layer, mask.showsBeyond ? 'has a mask that hides nothing' : 'has a mask that hides all of it')
    }
    const shape = newPart(this.ids('part'), `${layer.name} mask`.slice(0, 200))
    shape.parent = part.id
    shape.visible = false
    show(shape, picture)
    this.parts.push(shape)
    part.masks.push({ shape: shape.id, keep: mask.showsBeyond ? 'outside' : 'inside', by: 'paint' })
  }

  /** Stores what shows of some pixels; null where nothing does. `bytes` are kept as they are where nothing is cut off. */
  private picture(pixels: Pixels, bytes: Uint8Array | null, x: number, y: number): Picture | null {
    const box = opaqueBox(pixels)
    if (!box) return null
    const isWhole = box.width === pixels.width && box.height === pixels.height
    const kept = isWhole ? pixels : cropped(pixels, box)
    const png = isWhole && bytes ? bytes : encodePng(kept)
    const asset = assetHash(png)
    this.assets.set(asset, png)
    const mesh = this.known.get(asset) ?? meshPicture({ width: kept.width, height: kept.height, alpha: alphaOf(kept) })
    this.known.set(asset, mesh)
    const place = { x: x + box.x, y: y + box.y, scale: 1 }
    const id = this.ids('picture')
    const picture = { id, asset, width: box.width, height: box.height, ...place, mesh: placeMesh(mesh, place.x, place.y, 1) }
    this.pictures.push(picture)
    return picture
  }
}

function show(part: Part, { id, x, y, width, height }: Picture): void {
  part.content = { kind: 'picture' }
  part.art = { [FRONT_VIEW]: id }
  part.pivot = { x: x + width / 2, y: y + height / 2 }
}

/** Black with the brightness (or darkness) of a grey picture as its alpha. */
function coverage({ width, height, data }: Pixels, isDark: boolean): Pixels {
  const out = new Uint8Array(4 * width * height)
  for (let i = 0; i < out.length; i += 4) out[i + 3] = isDark ? 255 - data[i]! : data[i]!
  return { width, height, data: out }
}
