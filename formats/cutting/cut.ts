/** Cutting the artwork of a part along an area of its own space: drawings as vectors, pictures by their pixels. */
import { cutDrawing } from '@marionette/core/artwork/cutDrawing'
import { cutRaster } from '@marionette/core/artwork/cutPicture'
import type { Drawing, Path, Picture, Puppet } from '@marionette/core/puppet/schema'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { emptyBounds, pathBounds } from '@marionette/core/maths/geometry/bounds'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { padded, type Raster } from '@marionette/core/maths/geometry/raster'
import type { ArtPiece } from '@marionette/core/cutting/commands'
import { decodePng } from '../pixels'
import { storedPicture, type StoredPicture } from '../storedPicture'

/** Both sides of a cut, and the bytes of pictures that it made. */
export interface CutArt {
  /** What lies in the area; null where nothing does. */
  readonly piece: ArtPiece | null
  /** What is left, under the id of the source; null where nothing is. */
  readonly rest: ArtPiece | null
  readonly assets: ReadonlyMap<string, Uint8Array>
}

export type AssetBytes = (hash: string) => Uint8Array | undefined

/**
 * Cuts a part's artwork.
 *
 * @param art id of the drawing or picture
 * @param area in the part's own space
 * @param id of the piece
 * @param keep whether the source stays whole, so that what is left of it is not asked for
 */
export function cutArt(puppet: Puppet, art: string, area: Area, id: string, assets: AssetBytes, keep = false): CutArt {
  const [drawing, picture] = [puppet.drawings[art], puppet.pictures[art]]
  if (drawing) return cutVector(drawing, area, id)
  if (picture) return cutPixels(picture, area, id, assets, keep)
  return { piece: null, rest: null, assets: new Map() }
}

function cutVector(drawing: Drawing, area: Area, id: string): CutArt {
  const { inside, outside } = cutDrawing(drawing, area)
  return {
    piece: inside.length > 0 ? { drawing: { id, shapes: [...inside] } } : null,
    rest: outside.length > 0 ? { drawing: { ...drawing, shapes: [...outside] } } : null,
    assets: new Map(),
  }
}

function cutPixels(picture: Picture, area: Area, id: string, assets: AssetBytes, keep: boolean): CutArt {
  const bytes = assets(picture.asset)
  if (!bytes) return { piece: null, rest: null, assets: new Map() }
  const pixels = decodePng(bytes, 'The picture')
  const { x, y, scale } = picture
  const toPixels = (path: Path): Path => mapPath(path, [1 / scale, 0, 0, 1 / scale, -x / scale, -y / scale])
  const paths = area.paths.map(toPixels)
  if (keep) {
    const piece = cutWindow(pixels, { ...area, paths }, id, picture)
    return { piece: piece && { picture: piece.picture }, rest: null, assets: new Map(piece ? [[piece.picture.asset, piece.png]] : []) }
  }
  const { inside, outside } = cutRaster(pixels, { ...area, paths })
  const [piece, rest] = [storedPicture(id, inside, picture), storedPicture(picture.id, outside, picture)]
  return {
    piece: piece && { picture: piece.picture },
    rest: rest && { picture: rest.picture },
    assets: new Map([piece, rest].flatMap((made) => (made ? [[made.picture.asset, made.png] as const] : []))),
  }
}

/** The piece of a picture in an area of its pixels; only what the area reaches is looked at. */
function cutWindow(pixels: Raster, area: Area, id: string, { x, y, scale }: Picture): StoredPicture | null {
  const box = emptyBounds()
  for (const path of area.paths) pathBounds(path, box)
  const [left, top] = [Math.floor(box.minX) - 1, Math.floor(box.minY) - 1]
  const window = padded(pixels, -left, -top, Math.ceil(box.maxX) + 1 - pixels.width, Math.ceil(box.maxY) + 1 - pixels.height)
  const { inside } = cutRaster(window, { ...area, paths: area.paths.map((p) => mapPath(p, [1, 0, 0, 1, -left, -top])) })
  return storedPicture(id, inside, { x: x + left * scale, y: y + top * scale, scale })
}
