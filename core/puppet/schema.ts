/**
 * The puppet: artwork, rig and pose as plain JSON.
 *
 * Flat records keyed by id; trees through `parent` and ordered `children`. Artwork (`drawings`) is kept apart
 * from the parts that show it, so that several parts can share one drawing. What differs between views is written as
 * it is in the shown one, and kept aside (`inViews`) for the others. Lengths are canvas pixels with
 * y down; angles are degrees, counter-clockwise positive on screen.
 */
import { z } from 'zod'
import { AssetHash, BoneId, ChannelAddress, PartId, PuppetId, ViewId } from '../kernel/ids'
import { Colour, finite, Name, size } from '../kernel/numbers'
import { Naming } from '../roles/records'
import { Shadow, StageSet } from '../staging/records'
import { Wind } from '../springs/records'
import { RECORDS } from './records'

export * from '../artwork/records'
export * from '../constraints/records'
export * from '../controls/records'
export * from '../deformers/records'
export * from '../responses/records'
export * from '../alternates/records'
export * from '../kernel/curve'
export * from '../parts/records'
export * from '../binds/records'
export * from '../cutting/records'
export * from '../twins/records'
export * from '../bones/records'
export * from '../views/records'
export * from '../joints/records'
export * from '../roles/records'
export * from '../layering/records'
export * from '../poses/records'
export * from '../clips/records'
export * from '../staging/records'
export * from '../springs/records'
export * from '../strides/records'
export * from '../idle/records'
export { Affine, Colour, Name, Vec } from '../kernel/numbers'
export { Part, PartInView } from './part'

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

/** Version of the document that this build writes. */
export const CURRENT_VERSION = 18

/** A puppet: artwork, rig and controls. */
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
  shadow: Shadow.nullable(),
  stage: StageSet,
  wind: Wind,
  naming: Naming,
  ...RECORDS,
  /** The view that is shown: pivots, homes, order, weights, bones and joints are written as they are in it. */
  view: ViewId,
  root: PartId,
  /** Bones without a parent, in order. */
  skeleton: z.array(BoneId),
  /** What the stage shows: channel address to value; a channel that is not listed is at rest. */
  pose: z.record(ChannelAddress, finite),
})
export type Puppet = z.infer<typeof Puppet>
