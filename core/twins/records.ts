/** Twins: parts that share the artwork of others. */
import { z } from 'zod'
import { PartId } from '../kernel/ids'

/** The original of a twin, with which it shares its artwork, and whether it is its mirror image. */
export const Twin = z.object({ of: PartId, mirrored: z.boolean() })

export type Twin = z.infer<typeof Twin>
