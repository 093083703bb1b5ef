/** What of a frame responses read and write. */
import type { BonesFrame } from '../bones/stage'
import type { ConstraintsFrame } from '../constraints/stage'

/** What of a frame responses read and write. */
export interface ResponsesFrame {
  /** Channels with what answers to them, then shifts of points, then colours and widths of lines. */
  readonly values: Float64Array
  /** [4 looks] colours from 0 to 1 and factors of widths that responses have given */
  readonly paintOverrides: Float32Array
  /** [b] how fast bones turn on the canvas, degrees a second, as simulated motion has it */
  readonly speeds: Float64Array
  /** Which stop each response chose by last, -1 for none: choices do not flicker where two are as near. */
  readonly memory: Int32Array
  /** Inputs of the response that acts, as they are. */
  readonly inputValues: Float64Array
  /** Rank of who has chosen for a channel, while answers are made. */
  readonly ranks: Float64Array
}

/** Responses together with what they listen to. */
export type Responding = ResponsesFrame & BonesFrame & ConstraintsFrame
