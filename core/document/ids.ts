/** Stable identifiers. Nothing in a puppet is tied together by name; names are for people. */
import { z } from 'zod'

const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, 'an id has 1 to 64 letters, digits, - or _')

export const PuppetId = id
export const PartId = id
export const DrawingId = id
export const PictureId = id
export const BoneId = id
export const ViewId = id
export const JointId = id
export const SwatchId = id
export const TargetId = id
export const ConstraintId = id
export const DeformerId = id
export const ControlId = id
export const ResponseId = id
export const FlipbookId = id
export const StopId = id
export const PoseId = id
export const CueId = id
/** A handle of a deformer; those of a cage carry its column and row behind points. */
export const HandleId = z.string().regex(/^[A-Za-z0-9_.-]{1,72}$/, 'a handle has 1 to 72 letters, digits, points, - or _')

/** SHA-256 of the bytes of an asset, in hexadecimal. */
export const AssetHash = z.string().regex(/^[0-9a-f]{64}$/, 'an asset is named by the SHA-256 of its bytes')

export type AssetHash = string
export type PuppetId = string
export type PartId = string
export type DrawingId = string
export type PictureId = string
export type BoneId = string
export type ViewId = string
export type JointId = string
export type SwatchId = string
export type TargetId = string
export type ConstraintId = string
export type DeformerId = string
export type ControlId = string
export type ResponseId = string
export type FlipbookId = string
export type StopId = string
export type PoseId = string
export type HandleId = string

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
