/** Artwork: what parts show and how it is laid over what lies below. */
import { z } from 'zod'
import { Affine, Colour, count, finite, positiveOrZero, size, Vec, Name } from '../kernel/numbers'
import { AssetHash, DrawingId, PictureId, SwatchId } from '../kernel/ids'

/** A colour of a gradient; `at` is its place from 0 to 1, `alpha` its opacity from 0 to 1. */
export const GradientStop = z.object({ at: z.number().min(0).max(1), colour: Colour, alpha: z.number().min(0).max(1) })
export type GradientStop = z.infer<typeof GradientStop>

/** An upright box in px, y down; x and y are its upper left corner. */
export const Box = z.object({ x: finite, y: finite, width: positiveOrZero, height: z.number().min(0) })
export type Box = z.infer<typeof Box>
const Spread = z.enum(['pad', 'reflect', 'repeat'])

/** What an ink or a line is painted with. Gradients live in the drawing's own space through `map`. */
export const Paint = z.discriminatedUnion('kind', [
  /** `swatch` is the colour of the palette that it follows. */
  z.object({ kind: z.literal('flat'), colour: Colour, swatch: SwatchId.optional() }),
  z.object({ kind: z.literal('linear'), from: Vec, to: Vec, stops: z.array(GradientStop).min(1), spread: Spread, map: Affine }),
  z.object({
    kind: z.literal('radial'),
    focus: Vec,
    focusRadius: positiveOrZero,
    centre: Vec,
    radius: positiveOrZero,
    stops: z.array(GradientStop).min(1),
    spread: Spread,
    map: Affine,
  }),
  /** Repeats a drawing: `tile` is its cell in the drawing's own space, `map` takes that space to the painted drawing's. */
  z.object({
    kind: z.literal('pattern'),
    drawing: DrawingId,
    tile: Box,
    map: Affine,
  }),
  /** A raster picture, kept outside of the document under the hash of its bytes; `map` takes its pixels to the drawing's space. */
  z.object({
    kind: z.literal('picture'),
    asset: AssetHash,
    width: z.number().min(1).max(1e7),
    height: z.number().min(1).max(1e7),
    smooth: z.boolean(),
    map: Affine,
  }),
])
export type Paint = z.infer<typeof Paint>

/** The fill of a shape. */
export const Ink = z.object({ paint: Paint, alpha: z.number().min(0).max(1), rule: z.enum(['nonzero', 'evenodd']) })
export type Ink = z.infer<typeof Ink>

/** The stroke of a shape. `pen` is the space in which the nib is round, when that is not the drawing's own. */
export const Line = z.object({
  paint: Paint,
  alpha: z.number().min(0).max(1),
  width: positiveOrZero,
  cap: z.enum(['butt', 'round', 'square']),
  join: z.enum(['miter', 'round', 'bevel']),
  miter: z.number().min(1).max(1e7),
  dash: z.object({ lengths: z.array(positiveOrZero).min(2), offset: finite }).nullable(),
  pen: z.tuple([finite, finite, finite, finite]).nullable(),
})
export type Line = z.infer<typeof Line>

/**
 * A cubic Bézier path. `ids` [n] are stable within the drawing; `anchors` [2n] x,y; `handles` [4n] in dx,dy,
 * out dx,dy relative to the anchor. A closed path joins its last anchor to its first.
 */
export const Path = z
  .object({
    closed: z.boolean(),
    ids: z.array(count).min(1),
    anchors: z.array(finite),
    handles: z.array(finite),
    /** [n] thickness at each anchor as a share of the line's width; the whole width everywhere without it. */
    widths: z.array(z.number().min(0).max(100)).optional(),
    /** Anchors from which the stretch to the next one shows no line. */
    hidden: z.array(count).optional(),
  })
  .refine((p) => p.widths === undefined || p.widths.length === p.ids.length, 'widths hold one number for each id')
  .refine((p) => p.anchors.length === 2 * p.ids.length, 'anchors hold two numbers for each id')
  .refine((p) => p.handles.length === 4 * p.ids.length, 'handles hold four numbers for each id')
export type Path = z.infer<typeof Path>

/** Paths that are filled and outlined together. */
export const Shape = z.object({
  id: count,
  paths: z.array(Path),
  ink: Ink.nullable(),
  line: Line.nullable(),
  alpha: z.number().min(0).max(1),
  /** Whether the line is painted before the ink, so that the ink covers its inner half. */
  lineFirst: z.boolean(),
})
export type Shape = z.infer<typeof Shape>

/** Vector artwork: shapes from the lowest to the uppermost. */
export const Drawing = z.object({ id: DrawingId, shapes: z.array(Shape) })
export type Drawing = z.infer<typeof Drawing>

/**
 * Triangles over what is opaque in a picture, a little beyond its edge. `vertices` [2n] in the part's own space,
 * `triangles` [3t]; islands are not joined. `spacing` is the wanted length of edges inside.
 */
export const PictureMesh = z.object({
  spacing: size,
  vertices: z.array(finite),
  triangles: z.array(count),
})
export type PictureMesh = z.infer<typeof PictureMesh>

/**
 * A raster picture, trimmed to what is opaque in it: `width` by `height` pixels of an asset, its corner at x, y of the
 * part's own space, each pixel `scale` wide there.
 */
export const Picture = z.object({
  id: PictureId,
  asset: AssetHash,
  width: z.number().int().min(1).max(32768),
  height: z.number().int().min(1).max(32768),
  x: finite,
  y: finite,
  scale: size,
  mesh: PictureMesh,
})
export type Picture = z.infer<typeof Picture>

/** A colour of the puppet's palette; what is painted with it changes with it. */
export const Swatch = z.object({ id: SwatchId, name: Name, colour: Colour })

export type Swatch = z.infer<typeof Swatch>
