/**
 * What a kind of deformer is: its form in the document, its handles, and what it does. A kind is one file, and one line in kinds.ts.
 */
import { z } from 'zod'
import type { PictureMesh } from '../artwork/records'
import { BoneId, DeformerId, PartId } from '../kernel/ids'
import { finite, Name, type Vec } from '../kernel/numbers'
import type { Problem } from '../kernel/problem'
import type { Shape } from './shape'

/** Fields of all deformers. */
export const deformerFields = {
  id: DeformerId,
  name: Name,
  /** Before bones it acts in the part's own space, after them on what the bones have made of it. */
  when: z.enum(['before', 'after']),
  /** Acting after bones it goes along with this bone, or stays where it is on the canvas. */
  bone: BoneId.nullable(),
  /** At rest; channels pose both. */
  on: z.boolean(),
  amount: finite,
  /** The parts in its own that it acts on, each with all that is in it; everything where null. */
  only: z.array(PartId).min(1).max(500).nullable(),
}

/** Distance within which two spots are one, px. */
export const ONE_SPOT = 0.5

/** Whether two spots are too near each other to span anything. */
export const isOneSpot = (a: Vec, b: Vec): boolean => Math.hypot(a.x - b.x, a.y - b.y) < ONE_SPOT

/** A kind of deformer with records `D`. Methods, so that kinds of all records stand in one table. */
export interface DeformerKind<D> {
  /** What people call one. */
  readonly label: string
  readonly schema: z.ZodType<D>
  /** Whether ids of handles are filed with it; else they follow from its own. */
  readonly filesHandles: boolean
  /** Whether what it moves changes its course smoothly; else it goes with the triangles of a mesh. */
  readonly isSmooth: boolean
  /** Ids of its handles, in the order in which it stores their places. */
  handles(d: D): string[]
  /** Where its handles are at rest with a share of its form, in the space that it acts in. */
  places(d: D, amount: number): Vec[]
  /** What a person calls a handle. */
  handleName(d: D, at: number): string
  /** Whether a handle can be posed by a field besides x and y. */
  hasField(d: D, handle: string, field: string): boolean
  /** The same under another id, with handles of its own. */
  underId(d: D, id: string): D
  /** Its shape at work, with values of its own. */
  shape(d: D): Shape
  /** What must hold besides its schema; for edits that make one and for whole puppets. */
  problems?(d: D, path: string): Problem[]
  /** Why it moves nothing any more, for the report; null where it does. */
  fault?(d: D): string | null
  /** The order in which triangles of a mesh that it shares are painted; null where it has none. */
  paintOrder?(d: D, mesh: PictureMesh): readonly number[] | null
}
