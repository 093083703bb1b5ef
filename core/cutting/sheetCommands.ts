/** Sheets: flat drawings of several figures, one in each view, from which parts are cut. */
import { z } from 'zod'
import { PartId, ViewId } from '../kernel/ids'
import { Vec, type Affine } from '../kernel/numbers'
import type { Part, Puppet } from '../puppet/schema'
import { IDENTITY, invert } from '../maths/geometry/affine'
import { restMatrix } from '../parts/tree'
import { Artwork, fileArt } from './commands'
import { partOf } from '../parts/lookup'
import { dropUnusedArt } from '../parts/commands'
import { fileView } from '../views/commands'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import type { Placement } from '../parts/records'
import { Sheet } from './records'
import { View } from '../views/records'

/**
 * Makes a part a sheet, or gives a sheet other cells: it shows one cell in each view, and the spots of all cells come to
 * lie on one spot of the canvas.
 *
 * `sheet` is what it was before and where its cells are, `pieces` what the part and those in it show of each cell;
 * `canvas` is the new size of the canvas, null where it stays.
 */
export const splitSheet = command(
  'sheet.split',
  'Split into views',
  z.object({
    part: PartId,
    sheet: Sheet,
    views: z.array(View),
    pieces: z.array(z.object({ part: PartId, view: ViewId, art: Artwork })),
    spot: Vec,
    canvas: z.object({ width: z.number().min(1).max(32768), height: z.number().min(1).max(32768) }).nullable(),
  }),
  (puppet, { part, sheet, views, pieces, spot, canvas }) => {
    const top = partOf(puppet, part)
    if (new Set(sheet.cells.map((c) => c.view)).size < sheet.cells.length) throw new EditError('Each cell needs a view of its own.')
    for (const view of views) if (!puppet.views.some((v) => v.id === view.id)) fileView(puppet, view)
    for (const { view } of sheet.cells)
      if (!puppet.views.some((v) => v.id === view)) throw new EditError(`There is no view "${view}" in this puppet.`)
    takeSheet(puppet, top, sheet)
    for (const piece of pieces) partOf(puppet, piece.part).art[piece.view] = fileArt(puppet, piece.art)
    alignCells(puppet, top, sheet, spot)
    if (canvas) Object.assign(puppet.canvas, canvas)
  },
)

/** Makes a part the sheet, and takes away what it and those in it showed: the whole artwork, or that of earlier cells. */
function takeSheet(puppet: Puppet, top: Part, sheet: Sheet): void {
  const gone: string[] = []
  for (const [id, whole] of Object.entries(sheet.whole)) {
    const part = puppet.parts[id]
    if (!part) continue
    for (const [view, art] of Object.entries(part.art)) {
      const isOfCell = art === whole || (top.sheet?.cells.some((c) => c.view === view) ?? false)
      if (!isOfCell) continue
      delete part.art[view]
      gone.push(art)
    }
  }
  top.sheet = sheet
  dropUnusedArt(puppet, gone)
}

/** Puts the part of each view so that the spot of its cell lies where all spots lie. */
function alignCells(puppet: Puppet, top: Part, { cells, home }: Sheet, spot: Vec): void {
  const parent: Affine = top.parent === null ? IDENTITY : restMatrix(puppet, top.parent)
  const back = invert(parent)
  if (!back) throw new EditError(`"${top.name}" hangs from something that is flattened to a line.`)
  const order = top.parent === null ? 0 : partOf(puppet, top.parent).children.indexOf(top.id)
  for (const cell of cells) {
    const [dx, dy] = [spot.x - cell.spot.x, spot.y - cell.spot.y]
    const moved: Placement = { ...home, x: home.x + back[0] * dx + back[2] * dy, y: home.y + back[1] * dx + back[3] * dy }
    if (cell.view === puppet.view) top.home = moved
    else top.inViews[cell.view] = { pivot: { ...top.pivot }, order, ...top.inViews[cell.view], home: moved }
  }
}
