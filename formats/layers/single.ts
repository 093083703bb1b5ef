/** A picture without layers: one layer, named after its file. */
import { isPlainPng, isPng, decodePng, type Pixels } from '../pixels'
import { sniffPicture } from '../assets'
import { FormatError } from '../warnings'
import type { Layer } from './layers'

/** Decodes pictures other than PNG; the platform brings it. Null where the bytes cannot be decoded. */
export type DecodePicture = (bytes: Uint8Array) => Pixels | null

const KINDS = { 'image/webp': 'WebP', 'image/jpeg': 'JPEG', 'image/gif': 'GIF', 'image/png': 'PNG' } as const

/** Whether bytes are those of a picture that can be one layer. */
export const isPicture = (bytes: Uint8Array): boolean => sniffPicture(bytes) !== null

export function readPicture(bytes: Uint8Array, decode: DecodePicture | undefined): Pixels {
  if (isPng(bytes)) return decodePng(bytes, 'The picture')
  const kind = KINDS[sniffPicture(bytes)!]
  if (!decode) throw new FormatError(`${kind} pictures cannot be read here.`)
  const pixels = decode(bytes)
  if (!pixels) throw new FormatError(`The ${kind} picture is damaged or too large and cannot be decoded.`)
  return pixels
}

/** A layer at a corner of the canvas. */
export function pictureLayer(name: string, pixels: Pixels, bytes: Uint8Array): Layer {
  return {
    kind: 'pixels',
    ...{ key: null, name, visible: true, locked: false, opacity: 1, blend: 'normal', clipped: false, mask: null },
    x: 0,
    y: 0,
    load: () => ({ pixels, bytes: isPlainPng(bytes) ? bytes : null }),
  }
}
