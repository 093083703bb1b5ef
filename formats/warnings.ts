import type { Bounds } from '@marionette/core/maths/geometry/bounds'

/** Findings of a reader that did not stop it. */
export interface Warning {
  /** Stable, for programs: `svg.text`. */
  readonly code: string
  /** Where it stands, for people: `line 12, <text id="sign">`. */
  readonly place: string
  readonly message: string
  /** Where it would have been on the canvas, if that is known. */
  readonly bounds?: Bounds
}

/** A file that cannot be read at all; the message is one sentence for people. */
export class FormatError extends Error {}
