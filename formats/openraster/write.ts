/** Writing OpenRaster 0.0.6. */
import { strToU8, zipSync, type Zippable } from 'fflate'
import type { BlendMode } from '@marionette/core/puppet/schema'
import { encodePng, type Pixels } from '../pixels'

interface Written {
  readonly name: string
  readonly visible: boolean
  readonly opacity: number
  readonly blend: BlendMode
}

export interface WrittenLayer extends Written {
  readonly x: number
  readonly y: number
  /** PNG bytes. */
  readonly png: Uint8Array
}

export interface WrittenGroup extends Written {
  /** Bottom to top. */
  readonly children: readonly (WrittenLayer | WrittenGroup)[]
}

export interface WrittenImage {
  readonly width: number
  readonly height: number
  /** Bottom to top. */
  readonly layers: readonly (WrittenLayer | WrittenGroup)[]
  /** The whole picture as it looks. */
  readonly merged: Pixels
  /** At most 256 px on a side. */
  readonly thumbnail: Pixels
}

/** A fixed date, so that equal pictures give equal files. */
const STAMP = new Date('2000-01-01T00:00:00Z')
export const OPENRASTER_TYPE = 'image/openraster'

/** Writes a file; equal layers share one picture in it. */
export function writeOpenRaster({ width, height, layers, merged, thumbnail }: WrittenImage): Uint8Array {
  const pictures = new Map<Uint8Array, string>()
  const stack = layers.map((l) => element(l, pictures, 2)).reverse()
  const xml = `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.6" w="${width}" h="${height}">\n <stack>\n${stack.join('\n')}\n </stack>\n</image>\n`
  // The type comes first and unpacked, so that programs find it at a fixed place.
  const files: Zippable = { mimetype: [strToU8(OPENRASTER_TYPE), { level: 0 }], 'stack.xml': strToU8(xml) }
  for (const [png, name] of pictures) files[name] = [png, { level: 0 }]
  files['mergedimage.png'] = [encodePng(merged), { level: 0 }]
  files['Thumbnails/thumbnail.png'] = [encodePng(thumbnail), { level: 0 }]
  return zipSync(files, { mtime: STAMP })
}

function element(layer: WrittenLayer | WrittenGroup, pictures: Map<Uint8Array, string>, depth: number): string {
  const pad = ' '.repeat(depth)
  const isGroup = 'children' in layer
  const attributes = {
    name: layer.name,
    opacity: String(layer.opacity),
    visibility: layer.visible ? 'visible' : 'hidden',
    'composite-op': operatorOf(layer.blend),
  }
  if (isGroup) {
    const inside = layer.children.map((c) => element(c, pictures, depth + 1)).reverse()
    return `${pad}<stack${written({ ...attributes, isolation: 'isolate' })}>\n${inside.map((l) => `${l}\n`).join('')}${pad}</stack>`
  }
  const src = pictures.get(layer.png) ?? `data/layer${pictures.size}.png`
  pictures.set(layer.png, src)
  return `${pad}<layer${written({ ...attributes, x: String(layer.x), y: String(layer.y), src })}/>`
}

const operatorOf = (blend: BlendMode): string => `svg:${blend === 'normal' ? 'src-over' : blend === 'plus-lighter' ? 'plus' : blend}`

const written = (attributes: Record<string, string>): string =>
  Object.entries(attributes)
    .map(([name, value]) => ` ${name}="${escaped(value)}"`)
    .join('')

/** Text inside of an attribute. */
export const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)
