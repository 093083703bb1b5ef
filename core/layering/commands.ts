/** Commands on how a part is laid over what lies below it: masks, blend mode, effects. */
import { z } from 'zod'
import { PartId } from '../kernel/ids'
import { BlendMode, Effect, Mask } from './records'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'

/** Most parts by which one may be masked. */
export const MOST_MASKS = 16

/** Sets the masks of a part. Refused where a part is not there. */
export const setMasks = command(
  'part.masks',
  'Change masks',
  z.object({ part: PartId, masks: z.array(Mask).max(MOST_MASKS) }),
  (puppet, { part, masks }) => {
    const masked = partOf(puppet, part)
    for (const { shape } of masks) partOf(puppet, shape)
    masked.masks = masks
  },
)

/** Sets how parts are laid over what lies below them. */
export const setBlend = command(
  'part.blend',
  'Change blend mode',
  z.object({ part: PartId, blend: BlendMode }),
  (puppet, { part, blend }) => {
    partOf(puppet, part).blend = blend
  },
)

/** Sets the effect of a part, or takes it away. */
export const setEffect = command(
  'part.effect',
  'Change effect',
  z.object({ part: PartId, effect: Effect.nullable() }),
  (puppet, { part, effect }) => {
    partOf(puppet, part).effect = effect
  },
)
