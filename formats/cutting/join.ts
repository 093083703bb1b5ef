/** Putting a piece of a picture into another picture, as one surface. */
import type { Affine, Picture } from '@marionette/core/puppet/schema'
import { apply, determinant, invert, multiply } from '@marionette/core/maths/geometry/affine'
import { mapBounds, unite, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { newRaster, padded, type Raster } from '@marionette/core/maths/geometry/raster'
import { decodePng } from '../pixels'
import { storedPicture, type StoredPicture } from '../storedPicture'
import type { AssetBytes } from './cut'

/** Nearer than this to whole pixels, pixels are copied as they are. */
const WHOLE = 1e-3

/**
 * A picture with a piece in it, under the picture's id and at its size of pixels. Where the piece and the picture share
 * the pixels of a cut between them, they add up to what was cut, so that no seam shows; elsewhere the piece lies on top.
 *
 * @param place map from the space of the piece's part to that of the picture's
 * @returns null where the bytes of one of them are not at hand, or the piece is flattened to a line
 */
export function joinedPicture(target: Picture, piece: Picture, place: Affine, assets: AssetBytes): StoredPicture | null {
  const [below, above] = [assets(target.asset), assets(piece.asset)]
  // Pixels of the piece to pixels of the picture.
  const toTarget: Affine = [1 / target.scale, 0, 0, 1 / target.scale, -target.x / target.scale, -target.y / target.scale]
  const map = multiply(toTarget, multiply(place, [piece.scale, 0, 0, piece.scale, piece.x, piece.y]))
  if (!below || !above || Math.abs(determinant(map)) < 1e-9) return null
  const [picture, bit] = [decodePng(below, 'The picture'), decodePng(above, 'The piece')]
  const box: Bounds = mapBounds({ minX: 0, minY: 0, maxX: bit.width, maxY: bit.height }, map)
  unite(box, { minX: 0, minY: 0, maxX: picture.width, maxY: picture.height })
  const [left, top] = [Math.ceil(-box.minX - WHOLE), Math.ceil(-box.minY - WHOLE)]
  const room = padded(picture, left, top, Math.ceil(box.maxX - WHOLE) - picture.width, Math.ceil(box.maxY - WHOLE) - picture.height)
  const laid = laidOut(bit, multiply([1, 0, 0, 1, left, top], map), room.width, room.height)
  const { x, y, scale } = target
  return storedPicture(target.id, together(room, laid), { x: x - left * scale, y: y - top * scale, scale })
}

/** A raster as it lies in a larger one: copied where its pixels fall on pixels, else read between them. */
function laidOut(source: Raster, map: Affine, width: number, height: number): Raster {
  const [a, b, c, d, e, f] = map
  const isCopied = [a - 1, b, c, d - 1, e - Math.round(e), f - Math.round(f)].every((off) => Math.abs(off) < WHOLE)
  if (isCopied) {
    const [left, top] = [Math.round(e), Math.round(f)]
    return padded(source, left, top, width - source.width - left, height - source.height - top)
  }
  const back = invert(map)
  const out = newRaster(width, height)
  if (!back) return out
  for (let i = 0; i < width * height; i++) {
    const { x, y } = apply(back, { x: (i % width) + 0.5, y: Math.floor(i / width) + 0.5 })
    readBetween(source, x - 0.5, y - 0.5, out, i)
  }
  return out
}

/** Writes the colour of a spot between pixels: bilinear, weighed by opacity. */
function readBetween({ width, height, data }: Raster, x: number, y: number, out: Raster, to: number): void {
  const [left, top] = [Math.floor(x), Math.floor(y)]
  if (left < -1 || top < -1 || left >= width || top >= height) return
  let alpha = 0
  const sum = [0, 0, 0]
  for (let k = 0; k < 4; k++) {
    const [px, py] = [left + (k & 1), top + (k >> 1)]
    if (px < 0 || py < 0 || px >= width || py >= height) continue
    const from = 4 * (py * width + px)
    const weight = ((k & 1 ? x - left : 1 - x + left) * (k >> 1 ? y - top : 1 - y + top) * data[from + 3]!) / 255
    alpha += weight
    for (let c = 0; c < 3; c++) sum[c]! += weight * data[from + c]!
  }
  if (alpha <= 0) return
  for (let c = 0; c < 3; c++) out.data[4 * to + c] = Math.round(sum[c]! / alpha)
  out.data[4 * to + 3] = Math.round(255 * alpha)
}

/** The piece with as much of the picture as it leaves room for. */
function together(picture: Raster, piece: Raster): Raster {
  const out = newRaster(picture.width, picture.height)
  for (let i = 0; i < out.data.length; i += 4) {
    const own = piece.data[i + 3]!
    const share = Math.min(picture.data[i + 3]!, 255 - own)
    const alpha = own + share
    if (alpha === 0) continue
    for (let c = 0; c < 3; c++) out.data[i + c] = Math.round((piece.data[i + c]! * own + picture.data[i + c]! * share) / alpha)
    out.data[i + 3] = alpha
  }
  return out
}
