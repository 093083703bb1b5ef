/** How a part is laid over what lies below it: blend modes, masks, effects. */
import { z } from 'zod'
import { Colour, count, finite, positiveOrZero } from '../kernel/numbers'
import { PartId } from '../kernel/ids'
import { Box } from '../artwork/records'

/** How a part is laid over what lies below it: the compositing set of the W3C. */
export const BlendMode = z.enum([
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
  'plus-lighter',
])

export type BlendMode = z.infer<typeof BlendMode>

/**
 * Shows a part only inside, or only outside, another part. `by` says what of that part counts: the area of its
 * inks, all of its paint, or how bright its paint is. The masking part need not be visible itself.
 */
export const Mask = z.object({
  shape: PartId,
  keep: z.enum(['inside', 'outside']),
  by: z.enum(['area', 'paint', 'brightness']),
  /** Width over which its edge fades, canvas px; crisp without it. */
  soft: z.number().min(0).max(200).optional(),
})

export type Mask = z.infer<typeof Mask>

/** What a step of an effect works on: the part itself, its coverage alone, or the result of an earlier step. */
const EffectInput = z.union([z.literal('source'), z.literal('coverage'), count])

export type EffectInput = z.infer<typeof EffectInput>

/** Whether a step computes with light (linear) or with colour values as they are stored. */
const linear = z.boolean()

/** One step of an effect. */
export const EffectStep = z.discriminatedUnion('step', [
  z.object({ step: z.literal('blur'), of: EffectInput, x: positiveOrZero, y: positiveOrZero, linear }),
  z.object({
    step: z.literal('shadow'),
    of: EffectInput,
    dx: finite,
    dy: finite,
    x: positiveOrZero,
    y: positiveOrZero,
    colour: Colour,
    alpha: z.number().min(0).max(1),
    linear,
  }),
  /** Rows r, g, b, a of a 4x5 matrix on colours from 0 to 1. */
  z.object({ step: z.literal('colours'), of: EffectInput, matrix: z.array(finite).length(20), linear }),
  z.object({ step: z.literal('flood'), colour: Colour, alpha: z.number().min(0).max(1) }),
  z.object({ step: z.literal('offset'), of: EffectInput, dx: finite, dy: finite }),
  z.object({ step: z.literal('merge'), of: z.array(EffectInput).min(1), linear }),
  z.object({
    step: z.literal('composite'),
    of: EffectInput,
    with: EffectInput,
    how: z.enum(['over', 'in', 'out', 'atop', 'xor', 'lighter']),
    linear,
  }),
  z.object({ step: z.literal('blend'), of: EffectInput, with: EffectInput, how: BlendMode, linear }),
])

export type EffectStep = z.infer<typeof EffectStep>

/** What is done to a part's picture before it is laid down; lengths and `region` in the part's own space. The last step shows. */
export const Effect = z.object({ region: Box.nullable(), steps: z.array(EffectStep).min(1).max(200) })

export type Effect = z.infer<typeof Effect>
