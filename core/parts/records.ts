/** Parts: where they sit, what they show, and where they came from. */
import { z } from 'zod'
import { Affine, finite } from '../kernel/numbers'

/** Where a part sits in its parent's rest space: translation, turn, skew and scale about the pivot. */
export const Placement = z.object({
  x: finite,
  y: finite,
  angle: finite,
  scaleX: finite,
  scaleY: finite,
  skew: finite,
})

export type Placement = z.infer<typeof Placement>

/** What a part is: a group, a drawing, a picture, or a group of alternates. */
export const PartContent = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('group') }),
  z.object({ kind: z.literal('drawing') }),
  z.object({ kind: z.literal('picture') }),
])

export type PartContent = z.infer<typeof PartContent>

/** Where a part came from, so that a later version of the file finds it again. */
export const PartSource = z.object({
  /** Name of the artwork file. */
  file: z.string().max(300),
  /** What the file itself calls the layer by, stable over renaming; null where it has no such thing. */
  key: z.string().max(300).nullable(),
  /** Names from the top of the file down to the layer. */
  path: z.array(z.string().max(200)).max(256),
  /** Map from the part's own space to the canvas as the file had it. */
  place: Affine,
})

export type PartSource = z.infer<typeof PartSource>

/** Colour tags of rows, 1 to this; 0 is none. */
export const TAGS = 6
