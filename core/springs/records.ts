/** Springs: bones that answer by themselves to what carries them, and what keeps them from where they must not go. */
import { z } from 'zod'
import { BoneId, ColliderId, SpringId } from '../kernel/ids'
import { Colour, finite, Name } from '../kernel/numbers'

/** What of a spring is set in numbers. */
export const SpringNature = z.object({
  /** Share of the driving motion that shows: 1 is what the spring does, 0 nothing of it. */
  throw: z.number().min(0).max(3),
  /** Swings a second; 0 comes back without a swing. */
  tempo: z.number().min(0).max(20),
  /** Seconds until 2% of the swing is left. */
  settle: z.number().min(0.05).max(30),
  /** Share of the throw at the root of a chain; it grows to all of it at the tip. */
  root: z.number().min(0).max(1),
  /** How it grows: 1 evenly, above 1 late, near the tip, below 1 soon. */
  bend: z.number().min(0.2).max(5),
  /** How much a turned chain hangs down: 1 as under gravity, where the drawing shows it hanging at rest. */
  gravity: z.number().min(-2).max(2),
  /** How much of the wind it catches. */
  wind: z.number().min(0).max(3),
  /** How much air it pushes away: 1 loses its swing to the air alone, and lags behind what moves evenly. */
  drag: z.number().min(0).max(1),
  /** How much it is drawn out and pushed together. */
  stretch: z.number().min(0).max(1),
})
export type SpringNature = z.infer<typeof SpringNature>

/** Bones that swing alike. */
export const SpringGroup = z.object({
  id: SpringId,
  name: Name,
  colour: Colour,
  bones: z.array(BoneId).min(1).max(500),
  ...SpringNature.shape,
  /** How much of its motion shows; a channel. */
  amount: z.number().min(0).max(1),
  muted: z.boolean(),
  /** Whether it keeps out of what may not be gone through, and how thick it is there, px. */
  collides: z.boolean(),
  girth: z.number().min(0).max(500),
})
export type SpringGroup = z.infer<typeof SpringGroup>

/** What springs do not go through: the body about a bone, or the ground. */
export const Collider = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('capsule'), id: ColliderId, name: Name, bone: BoneId, radius: z.number().min(0.5).max(5000) }),
  /** Nothing goes below this line, canvas px down. */
  z.object({ kind: z.literal('ground'), id: ColliderId, name: Name, y: finite }),
])
export type Collider = z.infer<typeof Collider>

/** The wind that blows on all springs. */
export const Wind = z.object({
  /** Where it blows to, degrees: 0 to the right, 90 up. */
  direction: finite,
  /** 1 lays a limp spring half way over. */
  strength: z.number().min(0).max(5),
  /** How much it comes and goes: 0 blows evenly. */
  gusts: z.number().min(0).max(1),
  seed: z.number().int().min(0).max(99_999),
})
export type Wind = z.infer<typeof Wind>
