/** Embedded pictures. Only what stands in the file itself is read; nothing is fetched. */
import { imageSize } from 'image-size'
import type { Affine, Shape } from '@marionette/core/puppet/schema'
import { multiply } from '@marionette/core/maths/geometry/affine'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { assetHash, sniffPicture } from '../assets'
import { hrefOf, type Context, type Scope } from './context'
import { parseLength } from './numbers'
import type { PointIds } from './outline'
import type { Style } from './style'
import type { SvgElement } from './tree'
import { fitOrCentre } from './viewport'

/** Most pixels of one picture. */
const MOST_PIXELS = 64 * 1024 * 1024

/** The shape of an `<image>`: a box painted with the picture. */
export function pictureShape(
  context: Context,
  element: SvgElement,
  style: Style,
  scope: Scope,
  points: PointIds,
  place: Affine,
  alpha: number,
): Shape[] {
  const picture = readPicture(context, element)
  if (!picture) return []
  const a = context.cascade.attributes(element)
  const givenWidth = parseLength(a['width'], scope.view.width)
  const givenHeight = parseLength(a['height'], scope.view.height)
  const room = {
    x: parseLength(a['x'], scope.view.width) ?? 0,
    y: parseLength(a['y'], scope.view.height) ?? 0,
    width: givenWidth ?? (givenHeight === null ? picture.width : (givenHeight * picture.width) / picture.height),
    height: givenHeight ?? (givenWidth === null ? picture.height : (givenWidth * picture.height) / picture.width),
  }
  if (!(room.width > 0 && room.height > 0)) return []
  const fit = fitOrCentre({ x: 0, y: 0, width: picture.width, height: picture.height }, room, a['preserveAspectRatio'])
  // What shows is the picture, cut off at the room where it is larger.
  const left = Math.max(room.x, fit[4])
  const top = Math.max(room.y, fit[5])
  const right = Math.min(room.x + room.width, fit[4] + fit[0] * picture.width)
  const bottom = Math.min(room.y + room.height, fit[5] + fit[3] * picture.height)
  const path = {
    closed: true,
    ids: [0, 1, 2, 3].map((k) => points.next + k),
    anchors: [left, top, right, top, right, bottom, left, bottom],
    handles: new Array<number>(16).fill(0),
  }
  points.next += 4
  const { asset, width, height } = picture
  const smooth = !/pixelated|crisp-edges|optimizeSpeed/.test(style['image-rendering']!)
  const paint = { kind: 'picture' as const, asset, width, height, smooth, map: multiply(place, fit) }
  return [{ id: 0, paths: [mapPath(path, place)], ink: { paint, alpha: 1, rule: 'nonzero' }, line: null, alpha, lineFirst: false }]
}

interface StoredPicture {
  readonly asset: string
  readonly width: number
  readonly height: number
}

/** Decodes the picture's bytes and keeps them under their hash; null, with a warning, where there is nothing to show. */
function readPicture(context: Context, element: SvgElement): StoredPicture | null {
  const href = hrefOf(element)?.trim() ?? ''
  if (!href.startsWith('data:')) {
    const where = href === '' ? 'it names no picture' : `it lies outside of the file ("${href.slice(0, 60)}"), and nothing is fetched`
    context.warn(href === '' ? 'svg.image' : 'svg.external', element, where)
    return null
  }
  const bytes = decodeData(href)
  const kind = bytes && sniffPicture(bytes)
  if (!bytes || !kind) {
    context.warn(
      'svg.image',
      element,
      /^data:image\/svg/i.test(href)
        ? 'an SVG drawing inside a picture is not drawn'
        : 'its picture is not PNG, JPEG, WebP or GIF, or is damaged',
    )
    return null
  }
  const size = sizeOf(bytes)
  if (!size || size.width * size.height > MOST_PIXELS) {
    context.warn(
      'svg.image',
      element,
      size ? `its picture has more than ${MOST_PIXELS / 1024 / 1024} million pixels` : 'its picture is damaged',
    )
    return null
  }
  const asset = assetHash(bytes)
  context.assets.set(asset, bytes)
  return { asset, ...size }
}

/** Bytes of a data URI, or null where it cannot be decoded. */
function decodeData(uri: string): Uint8Array | null {
  const match = /^data:([^,]*?)(;base64)?,(.*)$/s.exec(uri)
  if (!match) return null
  try {
    const text = match[2] ? atob(decodeURIComponent(match[3]!).replace(/\s+/g, '')) : decodeURIComponent(match[3]!)
    return Uint8Array.from(text, (c) => c.charCodeAt(0))
  } catch {
    return null
  }
}

function sizeOf(bytes: Uint8Array): { width: number; height: number } | null {
  try {
    const { width, height } = imageSize(bytes)
    return width > 0 && height > 0 ? { width, height } : null
  } catch {
    return null
  }
}
