/** Commands on how a part is laid over what lies below it: masks, blend mode, effects. */
import { z } from 'zod'
import { PartId } from '../document/ids'
import { maskCycle } from '../document/masks'
import { BlendMode, Effect, Mask } from '../document/schema'
import { command, EditError } from './command'
import { partOf } from './lookup'

/** Most parts by which one may be masked. */
export const MOST_MASKS = 16

export const setMasks = command(
  'part.masks',
  'Change masks',
  z.object({ part: PartId, masks: z.array(Mask).max(MOST_MASKS) }),
  (puppet, { part, masks }) => {
    const masked = partOf(puppet, part)
    for (const { shape } of masks) partOf(puppet, shape)
    masked.masks = masks
    if (maskCycle(puppet)) throw new EditError(`"${masked.name}" would mask itself.`)
  },
)

export const setBlend = command(
  'part.blend',
  'Change blend mode',
  z.object({ part: PartId, blend: BlendMode }),
  (puppet, { part, blend }) => {
    partOf(puppet, part).blend = blend
  },
)

export const setEffect = command(
  'part.effect',
  'Change effect',
  z.object({ part: PartId, effect: Effect.nullable() }),
  (puppet, { part, effect }) => {
    partOf(puppet, part).effect = effect
  },
)
