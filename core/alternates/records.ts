/** Swaps: groups of which one child, an alternate, shows; and flipbooks, which show values of a channel in turn. */
import { z } from 'zod'
import { count, finite, Name } from '../kernel/numbers'
import { ChannelAddress, FlipbookId, PartId } from '../kernel/ids'
import { VISEMES } from '../speech/visemes'

/** How one alternate goes over into the next: point by point, as a cross-fade, or at once. */
export const Morph = z.object({
  how: z.enum(['morph', 'fade', 'cut']),
  seconds: z.number().min(0).max(10),
  /** Whether it sets off and arrives gently. */
  eases: z.boolean(),
})
export type Morph = z.infer<typeof Morph>

/** Number of an alternate among those of its swap; it stays when they are put in another order. 0 shows none. */
export const AlternateNumber = z.number().int().min(0).max(10000)

/** Which alternates stand for which sounds, in one mood. */
export const SoundSet = z.object({ name: Name, sounds: z.partialRecord(z.enum(VISEMES), AlternateNumber) })
export type SoundSet = z.infer<typeof SoundSet>

/**
 * How two drawn parts of two alternates morph into each other, as it was corrected by hand. `turn` is the share of the outline by which
 * `a` begins later than proposed, `runsBack` whether it runs the other way round.
 */
export const Match = z.object({
  a: PartId,
  /** Null where `a` morphs into nothing, and fades. */
  b: PartId.nullable(),
  turn: z.number().min(0).lt(1),
  runsBack: z.boolean(),
})
export type Match = z.infer<typeof Match>

/** How a part shows its alternates: the first one, morphing, sets of mouth shapes. */
export const Swap = z.object({
  /** The alternate that shows at rest. */
  initial: AlternateNumber,
  morph: Morph,
  /** Sets of sounds, the usual one first; none where it does not speak. */
  sets: z.array(SoundSet).max(24),
  /** Pairs that were corrected; what is not listed is matched by role, name and likeness. */
  matches: z.array(Match).max(2000),
})
export type Swap = z.infer<typeof Swap>

/** Values of a channel that are shown in turn, by a timer or by a channel. */
export const Flipbook = z.object({
  id: FlipbookId,
  name: Name,
  /** The channel whose pages it turns: which alternate a swap shows, or any other, as a lid that closes. */
  channel: ChannelAddress,
  /** Values of the channel in turn, of a swap the numbers of its alternates, and seconds for which each shows. */
  pictures: z.array(finite).min(1).max(400),
  hold: z.number().min(0.005).max(60),
  way: z.enum(['forward', 'back', 'both']),
  /** At the end it begins anew, gives way to what was shown before, or stays. */
  ends: z.enum(['loop', 'once', 'hold']),
  /** Begins by itself every so many seconds, give or take a share, as a seed has it; null where it is begun by hand. */
  timer: z.object({ every: z.number().min(0.1).max(3600), vary: z.number().min(0).max(0.95), seed: count }).nullable(),
})
export type Flipbook = z.infer<typeof Flipbook>
