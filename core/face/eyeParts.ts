/** The parts that an eye is built from. */
import type { PartId } from '../kernel/ids'

/** The parts of one eye. */
export interface EyeParts {
  readonly white: PartId
  readonly iris: PartId
  /** A drawing whose edge comes down, or a swap with alternates at several heights. */
  readonly lid: PartId | null
  /** Lines that go along with the edge of the lid. */
  readonly lashes: readonly PartId[]
  /** Within which the middle of the iris stays, a hidden part as a rule; null where all of it stays within the white. */
  readonly area: PartId | null
}
