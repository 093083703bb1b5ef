/** Artwork of a sheet, cut into the cells of its views. */
import { withoutPaper } from '@marionette/core/artwork/paper'
import type { ViewId } from '@marionette/core/kernel/ids'
import type { Box, Picture, Puppet, Vec } from '@marionette/core/puppet/schema'
import { wholeSheet } from '@marionette/core/cutting/sheets'
import { partsBelow, restMatrix } from '@marionette/core/parts/tree'
import type { ArtPiece } from '@marionette/core/cutting/commands'
import { invert } from '@marionette/core/maths/geometry/affine'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { mapPath, polygonPath } from '@marionette/core/maths/geometry/path'
import { decodePng } from '../pixels'
import { storedPicture } from '../storedPicture'
import { cutArt, type AssetBytes } from './cut'
import { EditError } from '@marionette/core/kernel/errors'
import type { Sheet } from '@marionette/core/cutting/records'
import { pictureBy } from '@marionette/core/artwork/art'

export interface Cell {
  readonly view: ViewId
  /** On the canvas as it is at rest. */
  readonly box: Box
  readonly spot: Vec
}

export interface CutSheet {
  readonly sheet: Sheet
  readonly pieces: readonly { readonly part: string; readonly view: ViewId; readonly art: ArtPiece }[]
  readonly assets: ReadonlyMap<string, Uint8Array>
}

/**
 * Cuts what a part, and all in it, show into cells.
 *
 * @param prefix ids of the pieces begin with it
 * @param paper whether the paper of pictures is taken away first
 * Throws EditError where a part is flattened or a cell is empty.
 */
export function cutSheet(
  puppet: Puppet,
  part: string,
  cells: readonly Cell[],
  assets: AssetBytes,
  prefix: string,
  paper: boolean,
): CutSheet {
  const source = wholeSheet(puppet, part)
  const made = new Map<string, Uint8Array>()
  const pieces: CutSheet['pieces'][number][] = []
  const whole: Record<string, string> = {}
  const find: AssetBytes = (hash) => made.get(hash) ?? assets(hash)
  for (const p of partsBelow(source, part)) {
    const art = p.art[source.view]
    if (art === undefined) continue
    whole[p.id] = art
    const back = invert(restMatrix(source, p.id))
    if (!back) throw new EditError(`"${p.name}" is flattened to a line and cannot be cut.`)
    const shown = paper ? pictureBy(source, art) : undefined
    const bare = shown ? bareSheet(shown, find, made) : null
    const from = bare ? { ...source, pictures: { ...source.pictures, [art]: bare } } : source
    for (const { view, box } of cells) {
      const area: Area = { paths: [mapPath(polygonPath(cornersOf(box)), back)], rule: 'nonzero' }
      const cut = cutArt(from, art, area, `${prefix}-${pieces.length + 1}`, find, true)
      if (!cut.piece) continue
      pieces.push({ part: p.id, view, art: cut.piece })
      if ('picture' in cut.piece) made.set(cut.piece.picture.asset, cut.assets.get(cut.piece.picture.asset)!)
    }
  }
  for (const { view } of cells)
    if (!pieces.some((p) => p.view === view)) throw new EditError('A cell is empty: move its box over a figure, or take it away.')
  const used = new Set(pieces.flatMap(({ art }) => ('picture' in art ? [art.picture.asset] : [])))
  const home = source.parts[part]!.home
  return { sheet: { whole, home, cells: [...cells] }, pieces, assets: new Map([...made].filter(([hash]) => used.has(hash))) }
}

/** A picture without its paper. */
function bareSheet(picture: Picture, assets: AssetBytes, made: Map<string, Uint8Array>): Picture | null {
  const bytes = assets(picture.asset)
  const stored = bytes && storedPicture(picture.id, withoutPaper(decodePng(bytes, 'The sheet')), picture)
  if (!stored) return null
  made.set(stored.picture.asset, stored.png)
  return stored.picture
}

const cornersOf = ({ x, y, width, height }: Box): number[] => [x, y, x + width, y, x + width, y + height, x, y + height]
