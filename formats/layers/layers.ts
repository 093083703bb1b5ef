/** A layered picture as every raster format is read into: groups and pixels with how they are laid down. */
import type { BlendMode, Guide } from '@marionette/core/puppet/schema'
import { FormatError, type Warning } from '../warnings'
import type { Pixels } from '../pixels'

interface LayerBase {
  /** What the file itself knows the layer by, stable over renaming; null where it has no such thing. */
  readonly key: string | null
  readonly name: string
  readonly visible: boolean
  readonly locked: boolean
  readonly opacity: number
  readonly blend: BlendMode
  /** Whether it shows only where the first layer below that is not clipped itself shows. */
  readonly clipped: boolean
  readonly mask: LayerMask | null
}

/** A grey picture that lets a layer through where it is bright. */
export interface LayerMask {
  readonly x: number
  readonly y: number
  /** Whether the layer shows beyond the edge of the mask's picture. */
  readonly showsBeyond: boolean
  /** The brightness is in the red channel. */
  readonly load: () => Pixels | null
}

export interface GroupLayer extends LayerBase {
  readonly kind: 'group'
  /** Whether blend modes inside see only what is inside. */
  readonly isolated: boolean
  /** Bottom to top. */
  readonly children: readonly Layer[]
}

export interface PixelLayer extends LayerBase {
  readonly kind: 'pixels'
  /** Where the corner of its pixels lies on the canvas; may be off it. */
  readonly x: number
  readonly y: number
  /** Decodes the pixels; called once, when it is their turn. Null where there are none. `bytes` may be stored as they are if nothing is cut off. */
  readonly load: () => { readonly pixels: Pixels; readonly bytes: Uint8Array | null } | null
}

export type Layer = GroupLayer | PixelLayer

export interface LayeredFile {
  readonly width: number
  readonly height: number
  /** Bottom to top. */
  readonly layers: readonly Layer[]
  readonly guides: readonly Guide[]
  readonly warnings: readonly Warning[]
}

/** Most layers, groups included, that one file may have. */
export const MOST_LAYERS = 5000
/** Deepest nesting of groups. */
export const DEEPEST = 200

/** Throws FormatError where a file has too many layers. */
export function checkCount(count: number): void {
  if (count > MOST_LAYERS) throw new FormatError(`The file has ${count} layers; the limit is ${MOST_LAYERS}.`)
}

const LONGEST_NAME = 200

/** A name that can stand in a list: without control characters, on one line, of bearable length. */
export function cleanName(text: string, fallback: string): string {
  const clean = text
    .replace(/[\s\p{Cc}\p{Cf}]+/gu, ' ')
    .trim()
    .slice(0, LONGEST_NAME)
    .trim()
  return clean === '' ? fallback : clean
}

/** Says that a name was cut, where it was. */
export function nameWarnings(text: string, place: string): Warning[] {
  return text.length > LONGEST_NAME
    ? [{ code: 'layer.name', place, message: `its name of ${text.length} letters was cut to ${LONGEST_NAME}` }]
    : []
}
