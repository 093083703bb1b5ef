/** Pixels as a picture of a puppet: trimmed, encoded, named by content, with a mesh. */
import { meshPicture, placeMesh } from '@marionette/core/artwork/pictureMesh'
import type { Picture } from '@marionette/core/puppet/schema'
import { assetHash } from './assets'
import { alphaOf, cropped, encodePng, opaqueBox, type Pixels } from './pixels'

export interface StoredPicture {
  readonly picture: Picture
  /** Bytes of its asset. */
  readonly png: Uint8Array
}

/**
 * Stores what shows of some pixels; null where nothing does.
 *
 * @param place where the corner of the pixels lies in the part's own space, and how wide a pixel is there
 */
export function storedPicture(id: string, pixels: Pixels, place: { x: number; y: number; scale: number }): StoredPicture | null {
  const box = opaqueBox(pixels)
  if (!box) return null
  const kept = cropped(pixels, box)
  const png = encodePng(kept)
  const { scale } = place
  const [x, y] = [place.x + box.x * scale, place.y + box.y * scale]
  const mesh = placeMesh(meshPicture({ width: kept.width, height: kept.height, alpha: alphaOf(kept) }), x, y, scale)
  return { picture: { id, asset: assetHash(png), width: kept.width, height: kept.height, x, y, scale, mesh }, png }
}
