/** Layered PSD and PSB, read by ag-psd; pixels are decoded layer by layer. */
import {
  getCompositeImageData,
  getLayerImageData,
  getLayerMaskImageData,
  initializeCanvas,
  readPsd,
  type Layer as PsdLayer,
  type PixelData,
  type Psd,
} from 'ag-psd'
import { BlendMode, type Guide } from '@marionette/core/puppet/schema'
import { checkCount, cleanName, DEEPEST, nameWarnings, type Layer, type LayeredFile, type LayerMask } from '../layers/layers'
import { checkCanvas, checkSize, type Pixels } from '../pixels'
import { FormatError, type Warning } from '../warnings'
import { withMendedModes } from './mend'

export const isPsd = (bytes: Uint8Array): boolean => bytes[0] === 0x38 && bytes[1] === 0x42 && bytes[2] === 0x50 && bytes[3] === 0x53

const CANVASLESS = (): never => {
  throw new Error('pictures are not drawn while reading')
}
initializeCanvas(CANVASLESS, (width, height) => ({ width, height, data: new Uint8ClampedArray(4 * width * height) }) as ImageData)

const MODES: Readonly<Record<number, string>> = { 4: 'CMYK', 7: 'multichannel', 8: 'duotone', 9: 'Lab' }
const HEADER = 26

/** Reads the structure. Throws FormatError with the reason. */
export function readLayeredPsd(bytes: Uint8Array): LayeredFile {
  checkHeader(bytes)
  const psd = parse(bytes) ?? parse(withMendedModes(bytes))
  if (!psd) throw new FormatError('The PSD file is damaged or cut off: its layers cannot be read.')
  const reader = new PsdReader()
  if (!psd.children?.length) return { width: psd.width, height: psd.height, layers: [flat(psd)], guides: [], warnings: [] }
  checkCount(reader.count(psd.children, 0))
  const layers = psd.children.map((l) => reader.layer(l))
  return { width: psd.width, height: psd.height, layers, guides: guidesOf(psd), warnings: reader.warnings }
}

/** The structure, or null where it cannot be read. */
function parse(bytes: Uint8Array | null): Psd | null {
  try {
    return bytes && readPsd(bytes, { useImageData: true, useRawData: true, skipThumbnail: true, skipLinkedFilesData: true })
  } catch {
    return null
  }
}

/** Refuses what is known to be out of reach before anything is read. */
function checkHeader(bytes: Uint8Array): void {
  if (bytes.length < HEADER) throw new FormatError('The PSD file is cut off: it ends within its first lines.')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const mode = view.getUint16(24)
  const depth = view.getUint16(22)
  checkCanvas('The canvas of the PSD file', view.getUint32(18), view.getUint32(14))
  if (MODES[mode])
    throw new FormatError(`The PSD file is in ${MODES[mode]} colours, whose look on screen depends on a printer; save it as RGB.`)
  if (depth === 32) throw new FormatError('The PSD file has 32 bits for each colour; save it with 8 or 16.')
}

/** A file without layers: one layer with the whole picture. */
function flat(psd: Psd): Layer {
  return {
    kind: 'pixels',
    ...{ key: null, name: 'Picture', visible: true, locked: false, opacity: 1, blend: 'normal', clipped: false, mask: null },
    x: 0,
    y: 0,
    load: () => decoded('Picture', () => psd.imageData ?? getCompositeImageData(psd)),
  }
}

function guidesOf(psd: Psd): Guide[] {
  const found = psd.imageResources?.gridAndGuidesInformation?.guides ?? []
  return found.slice(0, 200).map((g) => ({ axis: g.direction === 'vertical' ? 'x' : 'y', at: g.location }))
}

class PsdReader {
  readonly warnings: Warning[] = []

  count(layers: readonly PsdLayer[], depth: number): number {
    if (depth > DEEPEST) throw new FormatError(`The file is nested deeper than ${DEEPEST} groups.`)
    return layers.reduce((sum, l) => sum + 1 + (l.children ? this.count(l.children, depth + 1) : 0), 0)
  }

  layer(layer: PsdLayer): Layer {
    const name = cleanName(layer.name ?? '', layer.children ? 'Group' : 'Layer')
    const warn = (message: string): number => this.warnings.push({ code: 'psd', place: `layer "${name}"`, message })
    this.warnings.push(...nameWarnings(layer.name ?? '', `layer "${name.slice(0, 40)}…"`))
    if (layer.adjustment) warn('is an adjustment, which is not applied')
    if (layer.effects && !layer.effects.disabled) warn('has layer effects, which are not drawn')
    if (layer.vectorMask && !layer.vectorMask.disable) warn('has a vector mask, which is not applied')
    const base = {
      key: layer.id === undefined ? null : String(layer.id),
      name,
      visible: !layer.hidden,
      locked: layer.protected?.position === true,
      opacity: layer.opacity ?? 1,
      blend: blendOf(layer.blendMode, (mode) => warn(`its blend mode "${mode}" is not known here; it is laid over plainly`)),
      clipped: layer.clipping === true,
      mask: maskOf(layer, name),
    }
    if (layer.children) {
      const isolated = layer.blendMode !== 'pass through'
      return { kind: 'group', ...base, isolated, children: layer.children.map((l) => this.layer(l)) }
    }
    const load = (): ReturnType<typeof decoded> => decoded(name, () => getLayerImageData(layer))
    return { kind: 'pixels', ...base, x: layer.left ?? 0, y: layer.top ?? 0, load }
  }
}

function blendOf(mode: string | undefined, unknown: (mode: string) => void): BlendMode {
  if (!mode || mode === 'pass through') return 'normal'
  const known = BlendMode.safeParse(mode === 'linear dodge' ? 'plus-lighter' : mode.replace(/ /g, '-'))
  if (!known.success) unknown(mode)
  return known.data ?? 'normal'
}

function maskOf(layer: PsdLayer, name: string): LayerMask | null {
  const { mask } = layer
  if (!mask || mask.disabled || mask.fromVectorData) return null
  const shift = mask.positionRelativeToLayer ? { x: layer.left ?? 0, y: layer.top ?? 0 } : { x: 0, y: 0 }
  return {
    x: shift.x + (mask.left ?? 0),
    y: shift.y + (mask.top ?? 0),
    showsBeyond: (mask.defaultColor ?? 0) > 127,
    load: () => decoded(`${name} mask`, () => getLayerMaskImageData(layer))?.pixels ?? null,
  }
}

/** Decodes pixels and brings them to 8 bits. */
function decoded(name: string, read: () => PixelData | undefined): { pixels: Pixels; bytes: null } | null {
  let found: PixelData | undefined
  try {
    found = read()
  } catch {
    throw new FormatError(`The PSD file is damaged: the pixels of the layer "${name.slice(0, 60)}" cannot be read.`)
  }
  if (!found || found.width === 0 || found.height === 0) return null
  checkSize(`The layer "${name.slice(0, 60)}"`, found.width, found.height)
  return { pixels: { width: found.width, height: found.height, data: toBytes(found.data) }, bytes: null }
}

/** 16-bit colours (0 to 65535) to 8 bits. */
function toBytes(data: PixelData['data']): Uint8Array | Uint8ClampedArray {
  if (data instanceof Uint8Array || data instanceof Uint8ClampedArray) return data
  return Uint8Array.from(data as ArrayLike<number>, (v) => Math.round(v / 257))
}
