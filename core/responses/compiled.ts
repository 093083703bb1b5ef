/** What acts in a frame before the puppet is placed: a response, or the ties of a control. */
import type { Responding as Frame } from './frame'

/** Something that acts in a frame: a response, or the ties of a control. */
export interface CompiledResponse {
  /** Document id of what it comes from. */
  readonly id: string
  /** Whether it has to know where bones end up, and whether it moves any. */
  readonly isLate: boolean
  readonly movesBones: boolean
  /** Adds what it does to the answers of the frame. */
  act(frame: Frame): void
}
