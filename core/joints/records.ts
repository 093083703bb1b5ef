/** Joints: where two parts meet and turn. */
import { z } from 'zod'
import { size, Vec } from '../kernel/numbers'
import { JointId, PartId, ViewId } from '../kernel/ids'

/** Where two parts meet and one turns against the other: a disc on the canvas at rest. `over` is painted above `under`. */
export const Joint = z.object({
  id: JointId,
  under: PartId,
  over: PartId,
  at: Vec,
  radius: size,
  /** Its disc in the views that are not shown; as in the shown one where a view is not listed. */
  inViews: z.record(ViewId, z.object({ at: Vec, radius: size })),
})

export type Joint = z.infer<typeof Joint>
