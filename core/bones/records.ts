/** Bones: segments of the skeleton. */
import { z } from 'zod'
import { finite, Name, size, Vec } from '../kernel/numbers'
import { BoneId, ViewId } from '../kernel/ids'

/** Number of colours that tell chains apart. */
export const CHAIN_COLOURS = 8

/** A one-sided limit leaves the other end null. */
export const Limits = z
  .object({ min: finite.nullable(), max: finite.nullable() })
  .refine((l) => l.min === null || l.max === null || l.min <= l.max, 'the lower limit is above the upper one')
  .refine((l) => (l.min === null || l.min <= 0) && (l.max === null || l.max >= 0), 'limits must leave room for rest, which is 0°')

export type Limits = z.infer<typeof Limits>

/** A segment of the skeleton; `start` and `end` at rest, on the canvas. */
export const Bone = z.object({
  id: BoneId,
  name: Name,
  /** A short remark shown beside the bone, e.g. what it is for. */
  label: z.string().max(60),
  parent: BoneId.nullable(),
  children: z.array(BoneId),
  start: Vec,
  end: Vec,
  /** Chain colour, 1 to 8: an index into the theme's palette. */
  colour: z.number().int().min(1).max(CHAIN_COLOURS),
  limits: Limits,
  /** How short and how long it may become, as shares of its length at rest. */
  lengths: z.object({ min: z.number().min(0.05).max(1), max: z.number().min(1).max(20) }),
  /** Whether it grows thinner as it grows longer, so that its area stays. */
  keepsVolume: z.boolean(),
  /** What it takes over from its parent besides its place. */
  inherits: z.object({ turn: z.boolean(), scale: z.boolean() }),
  /**
   * How far (px, on the canvas at rest; half its length where null) and how strongly it acts on what is weighed by reach.
   * A bone without strength is never proposed for a bind.
   */
  influence: z.object({ radius: size.max(100000).nullable(), strength: z.number().min(0).max(1) }),
  /** Whether it is passed over by the pointer and by dragging at rest. */
  locked: z.boolean(),
  /** Where it lies in the views that are not shown; as in the shown one where a view is not listed. */
  inViews: z.record(ViewId, z.object({ start: Vec, end: Vec })),
})

export type Bone = z.infer<typeof Bone>
