/** What of a rig and a frame alternates look at, and what of drawings they change. */
import type { DrawingsFrame, DrawingsRig } from '../placement/bendStage'
import type { PartsFrame, PartsRig } from '../placement/partsStage'
import type { Match, Morph } from './records'
import type { Morphed, MorphPlan } from './morph'
import type { Pair, Piece } from './pairing'
import type { WarpPlan } from './warping'

/** Parts of a rig that show one of their children at a time. */
export interface SwapsRig {
  readonly swaps: readonly RigSwap[]
}

/** What of a frame alternates write. */
export interface SwapsFrame {
  /** Swaps on the way from one alternate to the next. */
  readonly morphs: Morphs
}

/** Drawings as they are posed, and what they morph into. */
export type MorphingFrame = SwapsFrame &
  DrawingsFrame &
  PartsFrame & { readonly rig: SwapsRig & DrawingsRig & PartsRig; readonly values: Float64Array }

/** A part with alternates, compiled: numbers of parts, slots of channels. */
export interface RigSwap {
  readonly part: number
  readonly morph: Morph
  readonly initial: number
  /** Where its channels stand in a pose array. */
  readonly slots: { readonly alternate: number; readonly before: number; readonly way: number }
  /** [k] numbers of the alternates and their parts. */
  readonly numbers: Int32Array
  readonly parts: Int32Array
  /** What is drawn in each alternate, and what of it was matched by hand. */
  readonly pieces: readonly (readonly Piece[])[]
  readonly matches: readonly Match[]
  /** How each alternate morphs into each other one, found when it is first asked for. */
  readonly ways: Map<number, MorphWay>
}

/** How one alternate morphs into another. */
export interface MorphWay {
  readonly pairs: readonly Pair[]
  /** Drawings of the second that come from nothing. */
  readonly fresh: readonly number[]
}

/** Which swaps are between two alternates, and how far; drawings that are blended for it. */
export interface Morphs {
  /** [s] places of the alternates, -1 for none; how far the way has come. */
  readonly from: Int32Array
  readonly to: Int32Array
  readonly share: Float64Array
  /** [d] what is painted in place of a drawing; null where it is painted as it is. */
  readonly drawn: (Morphed | null)[]
  /** [d] room for what was painted in place of a drawing, by what it morphed from */
  readonly rooms: readonly Map<MorphPlan, Morphed>[]
  /** [d] vertices of a picture's mesh where it is warped; null where it is painted as it is. */
  readonly warped: (Float64Array | null)[]
  readonly warpRooms: readonly Map<WarpPlan, Float64Array>[]
}
