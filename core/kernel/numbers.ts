/** Numbers, names, colours and maps: what the rest of the document is written in. */
import { z } from 'zod'

/**
 * Largest number of a document. Coordinates of this size still differ by less than a thousandth of a pixel in double
 * precision, and products of several of them stay far from overflowing.
 */
export const LARGEST_NUMBER = 1e7
/** Smallest size of what is divided by: widths of pixels, radii, factors. */
export const SMALLEST_SIZE = 1e-6

/** Any number of a document: a coordinate, a length, an angle, a value. */
export const finite = z.number().min(-LARGEST_NUMBER, 'a number is too small').max(LARGEST_NUMBER, 'a number is too large')
/** A length or factor that may be nothing. */
export const positiveOrZero = z.number().min(0).max(LARGEST_NUMBER, 'a number is too large')
/** A length or factor that something is divided by. */
export const size = z.number().min(SMALLEST_SIZE, 'a size is too small').max(LARGEST_NUMBER, 'a number is too large')
/** A count or an index. */
export const count = z.number().int().min(0).max(1e9, 'a number is too large')

/** A spot or a shift in px, y down. */
export const Vec = z.object({ x: finite, y: finite })
export type Vec = z.infer<typeof Vec>

/** What a person calls something. */
export const Name = z.string().min(1, 'a name needs at least one character').max(200, 'a name has at most 200 characters')

/** An opaque colour in sRGB, as #rrggbb. */
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written as #rrggbb in lower case')

/** A 2x3 affine map [a, b, c, d, e, f]: x' = a x + c y + e, y' = b x + d y + f. */
export const Affine = z.tuple([finite, finite, finite, finite, finite, finite])
export type Affine = z.infer<typeof Affine>
