/** What all deformers have in common once they are compiled: they are posed once a frame, then move points. */

/** Where a shape finds its values in a pose array: its own two fields, and four of each handle. */
export interface ShapeSlots {
  readonly own: number
  /** First field of the first handle; the others follow. */
  readonly handles: number
  /** Fields of one handle. */
  readonly stride: number
}

/** What a shape remembers of points at rest, so that it finds them quickly when they are moved. */
export type Prepared = Float64Array

/** A deformer at work on points in the space of its part. */
export interface Shape {
  /** Length, px of the part's own space, over which the shape can change its course: curves are split accordingly. */
  readonly cell: number
  /** Takes its values from a pose. Returns whether it moves anything. */
  pose(pose: Float64Array, slots: ShapeSlots): boolean
  /** What it wants to remember of points [2n] of its own space at rest. */
  prepare(points: Float64Array): Prepared
  /** Moves points [2n] of its own space in place. */
  apply(points: Float64Array, prepared: Prepared): void
}
