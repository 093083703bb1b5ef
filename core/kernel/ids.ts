/**
 * Stable identifiers. Nothing in a puppet is tied together by name; names are for people.
 *
 * An id is unique in its puppet across all kinds, so that one map from old to new ids can never mix two things up.
 */
import { z } from 'zod'

/** What every plain object has by birth: an id like that would count as existing in every record. */
const INBORN: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype))

/** Whether a text can be the key of a record. */
export const isPlainKey = (text: string): boolean => !INBORN.has(text)

/** Kinds of things that have ids. `art` stands for drawings and pictures alike, `channel` for addresses of channels. */
export type IdKind =
  | 'puppet'
  | 'part'
  | 'drawing'
  | 'picture'
  | 'art'
  | 'bone'
  | 'view'
  | 'joint'
  | 'swatch'
  | 'target'
  | 'constraint'
  | 'deformer'
  | 'handle'
  | 'control'
  | 'response'
  | 'flipbook'
  | 'stop'
  | 'pose'
  | 'cue'
  | 'clip'
  | 'layer'
  | 'hung-pose'
  | 'marker'
  | 'sound'
  | 'spring'
  | 'collider'
  | 'stride'
  | 'idle'
  | 'channel'
  | 'prefix'

declare const KIND: unique symbol

/** An id of one kind. Any text may become one, but an id of one kind is never taken for one of another. */
export type Id<K extends IdKind> = string & { readonly [KIND]?: K }

/** Which schemas stand for ids, and of what: whoever walks a schema can tell an id from any other text. */
export const ID_SCHEMAS = z.registry<{ kind: IdKind }>()

const NOT_PLAIN = 'an id must not be a word that every record knows'
const plain = (pattern: RegExp, message: string) => z.string().regex(pattern, message).refine(isPlainKey, NOT_PLAIN)
const idOf = <K extends IdKind>(kind: K): z.ZodType<Id<K>, Id<K>> =>
  plain(/^[A-Za-z0-9_-]{1,64}$/, 'an id has 1 to 64 letters, digits, - or _').register(ID_SCHEMAS, { kind }) as unknown as z.ZodType<
    Id<K>,
    Id<K>
  >

/** Id of a puppet. */
export const PuppetId = idOf('puppet')

/** Id of a part. */
export const PartId = idOf('part')

/** Id of a drawing. */
export const DrawingId = idOf('drawing')

/** Id of a picture. */
export const PictureId = idOf('picture')
/** A drawing or a picture. */
export const ArtId = idOf('art') as unknown as z.ZodType<ArtId, ArtId>

/** Id of a bone. */
export const BoneId = idOf('bone')

/** Id of a view. */
export const ViewId = idOf('view')

/** Id of a joint. */
export const JointId = idOf('joint')

/** Id of a colour of the palette. */
export const SwatchId = idOf('swatch')

/** Id of a target. */
export const TargetId = idOf('target')

/** Id of a constraint. */
export const ConstraintId = idOf('constraint')

/** Id of a deformer. */
export const DeformerId = idOf('deformer')

/** Id of a control. */
export const ControlId = idOf('control')

/** Id of a response. */
export const ResponseId = idOf('response')

/** Id of a flipbook. */
export const FlipbookId = idOf('flipbook')
/** Of a stop: unique within its response. */
export const StopId = idOf('stop')

/** Id of a saved pose. */
export const PoseId = idOf('pose')

/** Id of a cue. */
export const CueId = idOf('cue')
/** Id of a clip. */
export const ClipId = idOf('clip')

/** Id of a layer of a clip. */
export const LayerId = idOf('layer')

/** Id of a pose on the line of a clip. */
export const HungPoseId = idOf('hung-pose')

/** Id of a marker in a clip. */
export const MarkerId = idOf('marker')

/** Id of a sound in a clip. */
export const SoundId = idOf('sound')

/** Id of a group of springs. */
export const SpringId = idOf('spring')

/** Id of what springs do not go through. */
export const ColliderId = idOf('collider')

/** Id of legs that walk. */
export const StrideId = idOf('stride')

/** Id of idle life. */
export const IdleId = idOf('idle')
/** A handle of a deformer; those of a cage carry its column and row behind points. */
export const HandleId = plain(/^[A-Za-z0-9_.-]{1,72}$/, 'a handle has 1 to 72 letters, digits, points, - or _').register(ID_SCHEMAS, {
  kind: 'handle',
})
/** The address of a channel: family, id, field. */
export const ChannelAddress = z.string().max(200).refine(isPlainKey, NOT_PLAIN).register(ID_SCHEMAS, { kind: 'channel' })
/** What new ids begin with. */
export const IdPrefix = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/, 'a prefix has 1 to 40 letters, digits, - or _')
  .register(ID_SCHEMAS, { kind: 'prefix' })

/** SHA-256 of the bytes of an asset, in hexadecimal. */
export const AssetHash = z.string().regex(/^[0-9a-f]{64}$/, 'an asset is named by the SHA-256 of its bytes')

/** Hash of the bytes of an asset, in hexadecimal. */
export type AssetHash = string
export type PuppetId = Id<'puppet'>
export type PartId = Id<'part'>
export type DrawingId = Id<'drawing'>
export type PictureId = Id<'picture'>
/** Id of what a part shows. */
export type ArtId = DrawingId | PictureId
export type BoneId = Id<'bone'>
export type ViewId = Id<'view'>
export type JointId = Id<'joint'>
export type SwatchId = Id<'swatch'>
export type TargetId = Id<'target'>
export type ConstraintId = Id<'constraint'>
export type DeformerId = Id<'deformer'>
export type ControlId = Id<'control'>
export type ResponseId = Id<'response'>
export type FlipbookId = Id<'flipbook'>
export type StopId = Id<'stop'>
export type PoseId = Id<'pose'>
export type ClipId = Id<'clip'>
export type LayerId = Id<'layer'>
export type HungPoseId = Id<'hung-pose'>
export type MarkerId = Id<'marker'>
export type SoundId = Id<'sound'>
export type HandleId = Id<'handle'>

/** Gives the next unused id of a kind, e.g. `part-7`. */
export type IdSource = (kind: string) => string

/** Ids in sequence: the same calls give the same ids. For importers, demo builders and tests. */
export function sequentialIds(prefix: string): IdSource {
  let next = 0
  return (kind) => `${prefix}-${kind}-${++next}`
}

/** An id that no other puppet has: 16 base-36 digits (82 bits) after the kind. */
export function freshId(kind: string): string {
  let digits = ''
  while (digits.length < 16) digits += Math.random().toString(36).slice(2, 10)
  return `${kind}-${digits.slice(0, 16)}`
}
