/** Numbers, names, colours and maps: what the rest of the document is written in. */
import { z } from 'zod'

export const finite = z.number().finite()

export const Vec = z.object({ x: finite, y: finite })
export type Vec = z.infer<typeof Vec>

export const Name = z.string().min(1, 'a name needs at least one character').max(200, 'a name has at most 200 characters')
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written as #rrggbb in lower case')

/** A 2x3 affine map [a, b, c, d, e, f]: x' = a x + c y + e, y' = b x + d y + f. */
export const Affine = z.tuple([finite, finite, finite, finite, finite, finite])
export type Affine = z.infer<typeof Affine>
