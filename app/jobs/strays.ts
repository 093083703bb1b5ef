/** Pieces that hardly belong to where they are, looked for inside of a worker. */
import { foreignArea } from '@marionette/core/artwork/islands'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { mapPath } from '@marionette/core/maths/geometry/path'
import type { Affine } from '@marionette/core/kernel/numbers'
import type { Puppet } from '@marionette/core/puppet/schema'
import { findStrays, type StrayOptions, type StrayPiece } from '@marionette/authoring/strays'
import { withoutScraps, type Scrap } from '@marionette/formats/cutting/strays'
import { loadSkia } from '../skia/loadSkia'
import type { Worked } from './cutting'
import { writtenEdits } from './edits'
import { shownPixels } from './shownPixels'

type Assets = ReadonlyMap<string, Uint8Array>

const mapped = (area: Area, map: Affine): Area => ({ ...area, paths: area.paths.map((p) => mapPath(p, map)) })

/** What of a selection on the shown canvas belongs to what is beside it. */
export async function foreignIn(puppet: Puppet, source: string, area: Area, assets: Assets): Promise<Area | null> {
  const shown = shownPixels(await loadSkia(), puppet, source, assets, 1)
  const found = shown && foreignArea(shown.pixels, mapped(area, shown.toPixels))
  return found && mapped(found, shown.toCanvas)
}

/** Which parts are looked at, and in which views; all where that is left out. */
export type Where = Pick<StrayOptions, 'parts' | 'views'>

/** Stray pieces of a puppet. */
export const strays = async (puppet: Puppet, where: Where, assets: Assets): Promise<StrayPiece[]> =>
  findStrays(await loadSkia(), puppet, { ...where, assets: (hash) => assets.get(hash) })

/** Takes pieces out of their parts. */
export function removeScraps(puppet: Puppet, scraps: readonly Scrap[], assets: Assets): Worked {
  const made = withoutScraps(puppet, scraps, (hash) => assets.get(hash))
  return { edits: writtenEdits(made.edits), assets: made.assets }
}
