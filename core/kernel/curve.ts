/** Curves of time and of response: a way from 0 to 1. */
import { z } from 'zod'
import { finite } from './numbers'

/** A way from 0 to 1 as a cubic curve from (0, 0) to (1, 1) with two handles [x1, y1, x2, y2]; x1 and x2 within 0 to 1. */
export const Curve = z
  .tuple([finite, finite, finite, finite])
  .refine(([x1, , x2]) => x1 >= 0 && x1 <= 1 && x2 >= 0 && x2 <= 1, 'the handles of a curve must not go back')

export type Curve = z.infer<typeof Curve>
