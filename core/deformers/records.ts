/** Deformers: cages, bends, pins. They stand in a stack on a part and act on all that is in it. */
import { z } from 'zod'
import { finite, Name } from '../kernel/numbers'

export { Bend } from './bend'
export { Cage, cageHandle } from './cage'
export { Deformer, handleName, handlesOf, ownHandles, type DeformerOf } from './kinds'
export { Pin, Pins } from './pins'

/** A form of cages to use again: moves of its points as shares of the box, row by row. */
export const CagePreset = z
  .object({
    name: Name,
    columns: z.number().int().min(1).max(24),
    rows: z.number().int().min(1).max(24),
    form: z.array(finite),
  })
  .refine((c) => c.form.length === 2 * (c.columns + 1) * (c.rows + 1), 'the form of a cage holds two numbers for each of its points')
export type CagePreset = z.infer<typeof CagePreset>
