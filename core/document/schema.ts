/**
 * The puppet: artwork, rig and pose as plain JSON.
 *
 * Flat records keyed by id; trees through `parent` and ordered `children`. Artwork (`drawings`) is kept apart
 * from the parts that show it, so that several parts can share one drawing. What differs between views is written as
 * it is in the shown one, and kept aside (`inViews`) for the others. Lengths are canvas pixels with
 * y down; angles are degrees, counter-clockwise positive on screen.
 */
import { z } from 'zod'
import { BlendMode, Box, Drawing, Effect, Mask, Picture } from './artwork'
import { Affine, Colour, count, finite, Name, size, Vec } from './basics'
import { Constraint, Target } from './constraints'
import { Control, Cue, SavedPose } from './controls'
import { CagePreset, Deformer } from './deformers'
import { Response } from './responses'
import { AlternateNumber, Flipbook, Swap } from './swaps'
import {
  ArtId,
  AssetHash,
  BoneId,
  ChannelAddress,
  DrawingId,
  JointId,
  PartId,
  PictureId,
  PuppetId,
  SwatchId,
  TargetId,
  ViewId,
} from './ids'

export * from './artwork'
export * from './constraints'
export * from './controls'
export * from './deformers'
export * from './responses'
export * from './swaps'
export { Affine, Colour, Name, Vec } from './basics'

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

// ---- rig

/**
 * Influences of bones over a region: a triangulation of the region with, for each vertex, up to four bones.
 * `vertices` [2n] in the bound part's own space; `triangles` [3t]; `starts` [n+1], `bones` and `weights` are
 * compressed rows: vertex i has entries starts[i] to starts[i+1], bones index the bind's own list, and the
 * weights of a row sum to 1.
 */
export const WeightField = z.object({
  vertices: z.array(finite),
  triangles: z.array(count),
  starts: z.array(count),
  bones: z.array(count),
  weights: z.array(z.number().min(0).max(1)),
})
export type WeightField = z.infer<typeof WeightField>

export const Bind = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('whole'), bone: BoneId }),
  z.object({
    kind: z.literal('blended'),
    /** `volume` turns each spot about its own centre and keeps its breadth; `linear` blends the maps of the bones. */
    mode: z.enum(['volume', 'linear']),
    bones: z.array(BoneId).min(1),
    field: WeightField,
    /** Rest ends of `bones` [4b] (start x,y, end x,y) when the weights were made: tells when they are out of date. */
    madeAt: z.array(finite),
  }),
  /**
   * Hangs on another part: `carried` rigidly with the spot under its pivot, `pivoting` with the spot but not with its
   * turn, `fused` bent as if both were one piece.
   */
  z.object({ kind: z.literal('attached'), to: PartId, how: z.enum(['carried', 'pivoting', 'fused']) }),
])
export type Bind = z.infer<typeof Bind>

/**
 * What is a part's own in a view that is not shown. `order` is its place among its siblings, counted from the bottom;
 * a bind is kept only where it is blended, since weights belong to the artwork of their view, as deformers do.
 */
export const PartInView = z.object({
  pivot: Vec,
  home: Placement,
  order: z.number().int(),
  bind: Bind.optional(),
  deformers: z.array(Deformer).optional(),
})
export type PartInView = z.infer<typeof PartInView>

/**
 * A flat drawing of several figures, one in each view. `whole` [part: artwork] is what the part, and those in it, showed
 * before, `home` where it lay; boxes and spots are on the canvas as it was then.
 */
export const Sheet = z.object({
  whole: z.record(PartId, ArtId),
  home: Placement,
  cells: z.array(z.object({ view: ViewId, box: Box, spot: Vec })),
})
export type Sheet = z.infer<typeof Sheet>

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

/** The original of a twin, with which it shares its artwork, and whether it is its mirror image. */
export const Twin = z.object({ of: PartId, mirrored: z.boolean() })
export type Twin = z.infer<typeof Twin>

/** Colour tags of rows, 1 to this; 0 is none. */
export const TAGS = 6

export const Part = z.object({
  id: PartId,
  name: Name,
  parent: PartId.nullable(),
  /** Bottom to top. */
  children: z.array(PartId),
  content: PartContent,
  /** The drawing or picture shown in each view. */
  art: z.record(ViewId, ArtId),
  /** In the part's own space. */
  pivot: Vec,
  home: Placement,
  /** null: inherited from the nearest part above that has one. */
  bind: Bind.nullable(),
  /** In the order in which they act, those before bones first. */
  deformers: z.array(Deformer).max(32),
  opacity: z.number().min(0).max(1),
  visible: z.boolean(),
  /** All of them count: what every one lets through is shown. */
  masks: z.array(Mask),
  blend: BlendMode,
  /** Whether blend modes inside see only what is inside. */
  isolated: z.boolean(),
  effect: Effect.nullable(),
  /** A group may show one picture in place of all that is in it; what is in it stays. */
  merged: PictureId.nullable(),
  /** Whether it is passed over by the pointer and by dragging. */
  locked: z.boolean(),
  tag: z.number().int().min(0).max(TAGS),
  comment: z.string().max(2000),
  /** What the part is, e.g. `upper-arm:left`; null where that is not known. */
  role: z.string().max(80).nullable(),
  source: PartSource.nullable(),
  twin: Twin.nullable(),
  /** What it has of its own in the views that are not shown; as in the shown one where a view is not listed. */
  inViews: z.record(ViewId, PartInView),
  sheet: Sheet.nullable(),
  /** A group may show one of its children at a time. */
  swap: Swap.nullable(),
  /** In a swap the number by which channels choose it; else 0. */
  alternate: AlternateNumber,
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

export const View = z.object({ id: ViewId, name: Name })
export type View = z.infer<typeof View>

/** Where two parts meet and one turns against the other: a disc on the canvas at rest. `over` is painted above `under`. */
export const Joint = z.object({
  id: JointId,
  under: PartId,
  over: PartId,
  at: Vec,
  radius: size,
  /** Its disc in the views that are not shown; as in the shown one where a view is not listed. */
  inViews: z.record(ViewId, z.object({ at: Vec, radius: size })),
})
export type Joint = z.infer<typeof Joint>

/** A colour of the puppet's palette; what is painted with it changes with it. */
export const Swatch = z.object({ id: SwatchId, name: Name, colour: Colour })
export type Swatch = z.infer<typeof Swatch>

/** From whose side left and right are meant, or whether limbs are near and far. */
export const Naming = z.enum(['viewer-side', 'character-side', 'near-far'])
export type Naming = z.infer<typeof Naming>

/** A line to align by, across the whole canvas. */
export const Guide = z.object({ axis: z.enum(['x', 'y']), at: finite })
export type Guide = z.infer<typeof Guide>

/** A picture to compare with, under or over everything; it is no part of the artwork and never leaves the puppet. */
export const Reference = z.object({
  asset: AssetHash,
  width: z.number().int().min(1).max(100000),
  height: z.number().int().min(1).max(100000),
  x: finite,
  y: finite,
  scale: size,
  opacity: z.number().min(0).max(1),
  over: z.boolean(),
  visible: z.boolean(),
})
export type Reference = z.infer<typeof Reference>

export const CURRENT_VERSION = 11

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
  guides: z.array(Guide).max(200),
  reference: Reference.nullable(),
  naming: Naming,
  views: z.array(View).min(1),
  /** The view that is shown: pivots, homes, order, weights, bones and joints are written as they are in it. */
  view: ViewId,
  palette: z.array(Swatch).max(200),
  drawings: z.record(DrawingId, Drawing),
  pictures: z.record(PictureId, Picture),
  parts: z.record(PartId, Part),
  root: PartId,
  joints: z.record(JointId, Joint),
  bones: z.record(BoneId, Bone),
  /** Bones without a parent, in order. */
  skeleton: z.array(BoneId),
  targets: z.record(TargetId, Target),
  /** In order: where none needs the result of another, earlier ones act first. */
  constraints: z.array(Constraint).max(500),
  /** Forms of cages that were saved to be used again. */
  presets: z.array(CagePreset).max(200),
  /** In the order in which they are listed. */
  controls: z.array(Control).max(500),
  responses: z.array(Response).max(2000),
  /** Poses that were kept to be used again. */
  poses: z.array(SavedPose).max(500),
  flipbooks: z.array(Flipbook).max(500),
  cues: z.array(Cue).max(500),
  /** What the stage shows: channel address to value; a channel that is not listed is at rest. */
  pose: z.record(ChannelAddress, finite),
})
export type Puppet = z.infer<typeof Puppet>
