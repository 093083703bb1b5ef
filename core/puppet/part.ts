/** A part, put together from what each capability says of it. */
import { z } from 'zod'
import { AlternateNumber, Swap } from '../alternates/records'
import { Bind } from '../binds/records'
import { Sheet } from '../cutting/records'
import { Deformer } from '../deformers/records'
import { ArtId, PartId, PictureId, ViewId } from '../kernel/ids'
import { Name, Vec } from '../kernel/numbers'
import { BlendMode, Effect, Mask } from '../layering/records'
import { PartContent, PartSource, Placement, TAGS } from '../parts/records'
import { Twin } from '../twins/records'

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

/** One node of the artwork tree. */
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
