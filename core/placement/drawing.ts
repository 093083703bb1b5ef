/** Drawings as they are evaluated. */
import type { Drawing, Picture } from '../artwork/records'
import type { Geometry } from '../artwork/flat/flat'
import type { Tessellation } from './tessellate'
import type { Fixed } from './deformChain'
import type { LaidPoint, Layout } from './layout'

/** A drawing, or a picture on its mesh, that a part shows. */
export interface RigDrawing {
  readonly part: number
  /** For a picture its outline. */
  readonly drawing: Drawing
  readonly picture: Picture | null
  /** Triangles of a picture's mesh in the order in which they are painted; null for their own. */
  readonly order: readonly number[] | null
  readonly geometry: Geometry
  /** For a picture the samples are the vertices of its mesh. */
  readonly tessellation: Tessellation | null
  /** How responses move its points; null where none does. */
  readonly reshape: Reshape | null
}

/** A drawing made ready for its points to be moved. */
export interface Reshape {
  /** The drawing as the document has it. */
  readonly source: Drawing
  /** Null for drawings whose form as it is painted has other points than theirs: swelling lines, hidden stretches. */
  readonly layout: Layout | null
  readonly points: readonly LaidPoint[]
  /** How shifts go where the drawing bends; null where it moves as one piece. */
  readonly turns: Turns | null
}

/** For each anchor two points beside it, fixed as the anchor is: where they go tells how the pose turns and stretches there. */
export interface Turns {
  /** [n] of each painted point its anchor among those below */
  readonly anchorOf: Int32Array
  /** [2k] samples that the anchors are */
  readonly samples: Int32Array
  readonly beside: readonly [Float64Array, Float64Array]
  readonly fixed: readonly [Fixed, Fixed]
  readonly posed: readonly [Float64Array, Float64Array]
}
