/** What stands around a puppet: the shadow that it casts. */
import { z } from 'zod'
import { Colour, finite } from '../kernel/numbers'

/**
 * A flat copy of all that the puppet shows, in one colour, under it: laid on the ground, or shifted behind it. It follows every pose.
 */
export const Shadow = z.object({
  on: z.enum(['ground', 'behind']),
  /** Of the ground line, canvas px down. */
  ground: finite,
  /** Shift, canvas px. */
  x: finite,
  y: finite,
  /** Of a shadow on the ground: its length as a share of the figure's height, below 0 towards whoever looks. */
  length: z.number().min(-4).max(4),
  /** Of a shadow on the ground: how far it leans, degrees to the right of the figure's own direction. */
  skew: z.number().min(-80).max(80),
  colour: Colour,
  /** Width of its edge, canvas px. */
  softness: z.number().min(0).max(200),
  opacity: z.number().min(0).max(1),
})
export type Shadow = z.infer<typeof Shadow>
