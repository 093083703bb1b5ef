/** Sheets: flat drawings of several figures, from which parts are cut. */
import { z } from 'zod'
import { Box } from '../artwork/records'
import { Vec } from '../kernel/numbers'
import { ArtId, PartId, ViewId } from '../kernel/ids'
import { Placement } from '../parts/records'

/**
 * A flat drawing of several figures, one in each view. `whole` [part: artwork] is what the part, and those in it, showed
 * before, `home` where it lay; boxes and spots are on the canvas as it was then.
 */
export const Sheet = z.object({
  whole: z.record(PartId, ArtId),
  home: Placement,
  cells: z.array(z.object({ view: ViewId, box: Box, spot: Vec })),
})

export type Sheet = z.infer<typeof Sheet>
