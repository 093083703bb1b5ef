/** Idle life: what a body does while it does nothing. It breathes, shifts its weight, glances and blinks. */
import { z } from 'zod'
import { BoneId, ChannelAddress, IdleId } from '../kernel/ids'
import { finite, Name } from '../kernel/numbers'

/** Seconds between two of its kind, on average. */
const Every = z.number().min(0.2).max(600)

/** Breathing: what rises, and what grows. */
export const Breath = z.object({
  /** Breaths a minute, and how deep they are: 1 is at rest. */
  rate: z.number().min(1).max(120),
  depth: z.number().min(0).max(4),
  /** Bones that are drawn out as it breathes in, the belly a little later than the chest; null for none. */
  chest: BoneId.nullable(),
  belly: BoneId.nullable(),
  /** Bones whose starts are lifted, as shoulders are. */
  shoulders: z.array(BoneId).max(16),
})
export type Breath = z.infer<typeof Breath>

export const Idle = z.object({
  id: IdleId,
  name: Name,
  /** How much of it shows; a channel. */
  amount: z.number().min(0).max(1),
  /** What it does by chance follows from this. */
  seed: z.number().int().min(0).max(99_999),
  breath: Breath,
  /** Shifts of weight: how far the body goes aside over its feet, px, and how often; where a stride knows the legs. */
  shift: z.object({ far: z.number().min(0).max(500), every: Every }),
  /** Blinks: the channel of the lids, and its value where they are shut. */
  blink: z.object({ channel: ChannelAddress.nullable(), shut: finite, every: Every }),
  /** Glances: channels that lead the eyes, and how far they go at most. */
  glance: z.object({ x: ChannelAddress.nullable(), y: ChannelAddress.nullable(), far: finite, every: Every }),
})
export type Idle = z.infer<typeof Idle>
