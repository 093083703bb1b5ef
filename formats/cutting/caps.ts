/** Round ends at a joint, for whatever artwork meets there, and what was hidden filled in. */
import { capPicture } from '@marionette/core/joints/capPicture'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import { cappedDrawings, cappedEndings, type CapPieces, type Ending } from '@marionette/core/joints/jointCaps'
import type { Drawing, Picture, Puppet } from '@marionette/core/puppet/schema'
import { decodePng } from '../pixels'
import { storedPicture } from '../storedPicture'
import type { AssetBytes } from './cut'
import type { Joint } from '@marionette/core/joints/records'

export interface CappedArt {
  readonly drawings: readonly Drawing[]
  readonly pictures: readonly Picture[]
  readonly assets: ReadonlyMap<string, Uint8Array>
}

export interface CapOptions {
  /** Lightness below which a pixel of a picture belongs to a line. */
  readonly threshold?: number
  /** Which pieces get a round end; where one is a cuff or a hem, the other alone. */
  readonly pieces?: CapPieces
  readonly progress?: (done: number) => void
}

/** The artwork of a joint with its caps, each under the id that it had; empty where nothing ends at the joint. */
export function cappedArt(puppet: Puppet, joint: Joint, assets: AssetBytes, options: CapOptions = {}): CappedArt {
  const { threshold = LINE_THRESHOLD, pieces = 'both', progress } = options
  const { under, over } = cappedEndings(puppet, joint, pieces)
  const made = [under, over].flatMap((ending, i) => {
    const capped = ending?.picture && cappedPicture(ending, ending.picture, assets, threshold, (done) => progress?.((i + done) / 2))
    return capped ? [capped] : []
  })
  return {
    drawings: cappedDrawings(puppet, joint, pieces),
    pictures: made.map((m) => m.picture),
    assets: new Map(made.map((m) => [m.picture.asset, m.png])),
  }
}

function cappedPicture(ending: Ending, picture: Picture, assets: AssetBytes, threshold: number, progress: (done: number) => void) {
  const bytes = assets(picture.asset)
  if (!bytes) return null
  const { x, y, scale } = picture
  const { centre, radius } = ending.disc
  const disc = { centre: { x: (centre.x - x) / scale, y: (centre.y - y) / scale }, radius: radius / scale }
  const { raster, left, top } = capPicture(decodePng(bytes, 'The picture'), disc, ending.layering, { threshold, progress })
  return storedPicture(picture.id, raster, { x: x - left * scale, y: y - top * scale, scale })
}
