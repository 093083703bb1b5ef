/**
 * The puppet: artwork, rig and pose as plain JSON.
 *
 * Flat records keyed by id; trees through `parent` and ordered `children`. Artwork (`drawings`) is kept apart
 * from the parts that show it, so that several parts can share one drawing. Lengths are canvas pixels with
 * y down; angles are degrees, counter-clockwise positive on screen.
 */
import { z } from 'zod'
import { BoneId, DrawingId, PartId, PuppetId, ViewId } from './ids'

const finite = z.number().finite()

export const Vec = z.object({ x: finite, y: finite })
export type Vec = z.infer<typeof Vec>

export const Name = z.string().min(1, 'a name needs at least one character').max(200, 'a name has at most 200 characters')
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written as #rrggbb in lower case')

/** A 2x3 affine map [a, b, c, d, e, f]: x' = a x + c y + e, y' = b x + d y + f. */
export const Affine = z.tuple([finite, finite, finite, finite, finite, finite])
export type Affine = z.infer<typeof Affine>

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

// ---- artwork

export const GradientStop = z.object({ at: z.number().min(0).max(1), colour: Colour, alpha: z.number().min(0).max(1) })
export type GradientStop = z.infer<typeof GradientStop>
const Spread = z.enum(['pad', 'reflect', 'repeat'])

/** What an ink or a line is painted with. Gradients live in the drawing's own space through `map`. */
export const Paint = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('flat'), colour: Colour }),
  z.object({ kind: z.literal('linear'), from: Vec, to: Vec, stops: z.array(GradientStop).min(1), spread: Spread, map: Affine }),
  z.object({
    kind: z.literal('radial'),
    focus: Vec,
    focusRadius: z.number().min(0),
    centre: Vec,
    radius: z.number().min(0),
    stops: z.array(GradientStop).min(1),
    spread: Spread,
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
  width: z.number().min(0),
  cap: z.enum(['butt', 'round', 'square']),
  join: z.enum(['miter', 'round', 'bevel']),
  miter: z.number().min(1),
  dash: z.object({ lengths: z.array(z.number().min(0)).min(2), offset: finite }).nullable(),
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
    ids: z.array(z.number().int().min(0)).min(1),
    anchors: z.array(finite),
    handles: z.array(finite),
  })
  .refine((p) => p.anchors.length === 2 * p.ids.length, 'anchors hold two numbers for each id')
  .refine((p) => p.handles.length === 4 * p.ids.length, 'handles hold four numbers for each id')
export type Path = z.infer<typeof Path>

export const Shape = z.object({
  id: z.number().int().min(0),
  paths: z.array(Path),
  ink: Ink.nullable(),
  line: Line.nullable(),
  alpha: z.number().min(0).max(1),
})
export type Shape = z.infer<typeof Shape>

export const Drawing = z.object({ id: DrawingId, shapes: z.array(Shape) })
export type Drawing = z.infer<typeof Drawing>

// ---- rig

/**
 * Influences of bones over a region: a triangulation of the region with, for each vertex, up to four bones.
 * `vertices` [2n] in the bound part's own space; `triangles` [3t]; `starts` [n+1], `bones` and `weights` are
 * compressed rows: vertex i has entries starts[i] to starts[i+1], bones index the bind's own list, and the
 * weights of a row sum to 1.
 */
export const WeightField = z.object({
  vertices: z.array(finite),
  triangles: z.array(z.number().int().min(0)),
  starts: z.array(z.number().int().min(0)),
  bones: z.array(z.number().int().min(0)),
  weights: z.array(z.number().min(0).max(1)),
})
export type WeightField = z.infer<typeof WeightField>

export const Bind = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('whole'), bone: BoneId }),
  z.object({
    kind: z.literal('blended'),
    bones: z.array(BoneId).min(1),
    field: WeightField,
    /** Rest ends of `bones` [4b] (start x,y, end x,y) when the weights were made: tells when they are out of date. */
    madeAt: z.array(finite),
  }),
])
export type Bind = z.infer<typeof Bind>

export const PartContent = z.discriminatedUnion('kind', [z.object({ kind: z.literal('group') }), z.object({ kind: z.literal('drawing') })])
export type PartContent = z.infer<typeof PartContent>

export const Part = z.object({
  id: PartId,
  name: Name,
  parent: PartId.nullable(),
  /** Bottom to top. */
  children: z.array(PartId),
  content: PartContent,
  /** The drawing shown in each view. */
  art: z.record(ViewId, DrawingId),
  /** In the part's own space. */
  pivot: Vec,
  home: Placement,
  /** null: inherited from the nearest part above that has one. */
  bind: Bind.nullable(),
  opacity: z.number().min(0).max(1),
  visible: z.boolean(),
})
export type Part = z.infer<typeof Part>

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
  parent: BoneId.nullable(),
  children: z.array(BoneId),
  start: Vec,
  end: Vec,
  /** Chain colour, 1 to 8: an index into the theme's palette. */
  colour: z.number().int().min(1).max(CHAIN_COLOURS),
  limits: Limits,
})
export type Bone = z.infer<typeof Bone>

export const View = z.object({ id: ViewId, name: Name })
export type View = z.infer<typeof View>

export const Naming = z.enum(['viewer-side', 'character-side', 'near-far'])

export const CURRENT_VERSION = 1

export const Puppet = z.object({
  format: z.literal('eager-marionette/puppet'),
  version: z.literal(CURRENT_VERSION),
  id: PuppetId,
  name: Name,
  note: z.string().max(500),
  canvas: z.object({
    width: z.number().min(1).max(32768),
    height: z.number().min(1).max(32768),
    background: Colour.nullable(),
  }),
  naming: Naming,
  views: z.array(View).min(1),
  drawings: z.record(DrawingId, Drawing),
  parts: z.record(PartId, Part),
  root: PartId,
  bones: z.record(BoneId, Bone),
  /** Bones without a parent, in order. */
  skeleton: z.array(BoneId),
  /** What the stage shows: channel address to value; a channel that is not listed is at rest. */
  pose: z.record(z.string(), finite),
})
export type Puppet = z.infer<typeof Puppet>
