/** Artwork files built byte by byte from their specifications, for tests. */
import { strToU8, zipSync } from 'fflate'
import { encode } from 'fast-png'

/** A PNG of one colour [r, g, b, a], or of what a function says of each pixel. */
export function png(width: number, height: number, colour: readonly number[] | ((x: number, y: number) => readonly number[])): Uint8Array {
  const data = new Uint8Array(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(typeof colour === 'function' ? colour(x, y) : colour, 4 * (y * width + x))
  return encode({ width, height, data, channels: 4, depth: 8 })
}

/** An OpenRaster file from its stack and pictures by name. */
export const ora = (stack: string, pictures: Record<string, Uint8Array> = {}): Uint8Array =>
  zipSync({ mimetype: [strToU8('image/openraster'), { level: 0 }], 'stack.xml': strToU8(stack), ...pictures })

const u16 = (v: number): number[] => [(v >> 8) & 255, v & 255]
const u32 = (v: number): number[] => [(v >>> 24) & 255, (v >> 16) & 255, (v >> 8) & 255, v & 255]
const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0))
/** A block with its length before it, padded to an even or other multiple. */
const block = (bytes: readonly number[], multiple = 1): number[] => {
  const padded = [...bytes, ...new Array<number>((multiple - (bytes.length % multiple)) % multiple).fill(0)]
  return [...u32(padded.length), ...padded]
}
const pascal = (text: string, multiple: number): number[] => {
  const bytes = [text.length, ...ascii(text)]
  return [...bytes, ...new Array<number>((multiple - (bytes.length % multiple)) % multiple).fill(0)]
}

export interface PsdLayer {
  readonly name: string
  readonly box?: readonly [left: number, top: number, width: number, height: number]
  /** Each pixel [r, g, b, a]. */
  readonly colour?: readonly [number, number, number, number]
  readonly blend?: string
  readonly opacity?: number
  readonly clipped?: boolean
  readonly hidden?: boolean
  readonly id?: number
  /** Beginning or end of a group, as the specification numbers them: 1 opens, 3 closes. */
  readonly section?: 1 | 2 | 3
  /** A mask of one grey value over a box; outside of it `beyond`. */
  readonly mask?: { readonly box: readonly [number, number, number, number]; readonly grey: number; readonly beyond: number }
}

export interface PsdOptions {
  readonly depth?: 8 | 16
  /** 1 grey, 3 RGB, 4 CMYK */
  readonly mode?: number
  /** Upright guides, px. */
  readonly guides?: readonly number[]
}

/** A PSD file; layers bottom to top, groups from their closing divider to their opening one. */
export function psd(
  width: number,
  height: number,
  layers: readonly PsdLayer[],
  { depth = 8, mode = 3, guides = [] }: PsdOptions = {},
): Uint8Array {
  const header = [
    ...ascii('8BPS'),
    ...u16(1),
    0,
    0,
    0,
    0,
    0,
    0,
    ...u16(mode === 1 ? 1 : 3),
    ...u32(height),
    ...u32(width),
    ...u16(depth),
    ...u16(mode),
  ]
  const guideList = guides.flatMap((at) => [...u32(at * 32), 0])
  const resource = [
    ...ascii('8BIM'),
    ...u16(1032),
    0,
    0,
    ...block([...u32(1), ...u32(576), ...u32(576), ...u32(guides.length), ...guideList], 2),
  ]
  const channelsOf = (layer: PsdLayer): { id: number; data: number[] }[] => {
    const [, , w, h] = layer.box ?? [0, 0, 0, 0]
    const plane = (value: number, count: number): number[] => [
      ...u16(0),
      ...new Array<number>(count).fill(0).flatMap(() => (depth === 16 ? u16(value * 257) : [value])),
    ]
    const [r = 0, g = 0, b = 0, a = 255] = layer.colour ?? []
    const colours = mode === 1 ? [{ id: 0, v: r }] : [r, g, b].map((v, id) => ({ id, v }))
    const planes = [{ id: -1, v: a }, ...colours].map(({ id, v }) => ({ id, data: plane(v, w * h) }))
    return layer.mask ? [...planes, { id: -2, data: plane(layer.mask.grey, layer.mask.box[2] * layer.mask.box[3]) }] : planes
  }
  const rect = ([left, top, w, h]: readonly number[]): number[] => [...u32(top!), ...u32(left!), ...u32(top! + h!), ...u32(left! + w!)]
  const tagged = (key: string, bytes: readonly number[]): number[] => [...ascii('8BIM'), ...ascii(key), ...block(bytes, 2)]
  const record = (layer: PsdLayer): number[] => {
    const channels = channelsOf(layer)
    const mask = layer.mask ? [...rect(layer.mask.box), layer.mask.beyond, 0, 0, 0] : []
    const extra = [
      ...block(mask),
      ...block([]),
      ...pascal(layer.name.slice(0, 31), 4),
      ...tagged('luni', [...u32(layer.name.length), ...[...layer.name].flatMap((c) => u16(c.charCodeAt(0)))]),
      ...(layer.id === undefined ? [] : tagged('lyid', u32(layer.id))),
      ...(layer.section ? tagged('lsct', [...u32(layer.section), ...ascii('8BIM'), ...ascii(layer.blend ?? 'pass')]) : []),
    ]
    return [
      ...rect(layer.box ?? [0, 0, 0, 0]),
      ...u16(channels.length),
      ...channels.flatMap(({ id, data }) => [...u16(id), ...u32(data.length)]),
      ...ascii('8BIM'),
      ...ascii(layer.blend ?? 'norm'),
      Math.round(255 * (layer.opacity ?? 1)),
      layer.clipped ? 1 : 0,
      layer.hidden ? 2 : 0,
      0,
      ...block(extra),
    ]
  }
  const info = [...u16(layers.length), ...layers.flatMap(record), ...layers.flatMap((l) => channelsOf(l).flatMap((c) => c.data))]
  const whole = new Array<number>(width * height * (depth / 8) * (mode === 1 ? 1 : 3)).fill(255)
  return Uint8Array.from([...header, ...block([]), ...block(resource), ...block([...block(info, 2), ...block([])]), ...u16(0), ...whole])
}
