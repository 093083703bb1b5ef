/**
 * Curves that bend.
 *
 * The image of a curve under a bend is no cubic any more, so its segments are split into pieces, and each piece
 * becomes the cubic that has the image's ends and derivatives there (Hermite): neighbours share their derivative, so
 * that the bent curve is as smooth as the drawn one. Derivatives are central differences of two points close to the
 * anchor along the curve. Pieces are split until, in trial poses that bend every joint hard, they lie close to the
 * image itself, sampled in between.
 */
import type { Drawing, Path } from '../records'
import { forEachSegment } from '../../maths/geometry/path'
import { CLOSE, CUBIC, isStraight, MOVE, rigidGeometry, type Geometry, type ShapeGeometry } from './flat'

/** How posed path points follow from posed samples: anchor + gain (plus - minus). */
export interface BentGeometry {
  readonly geometry: Geometry
  /** [2m] points to be skinned, in the part's own space */
  readonly samples: Float64Array
  /** [n] sample that is the anchor of each path point */
  readonly anchor: Int32Array
  /** [n] samples on either side of the anchor; 0 both for an anchor itself */
  readonly plus: Int32Array
  readonly minus: Int32Array
  /** [n] */
  readonly gain: Float64Array
  /** Path points that are anchors of the drawing itself, not of a split */
  readonly drawn: Int32Array
  /** Shares at which each segment of the drawing is split, 0 and 1 included, in order; none for the outline of a mesh */
  readonly splits: readonly (readonly number[])[]
}

/** Poses points of the part's own space in each of some trial poses; one array for each pose. */
export type Trial = (points: Float64Array) => readonly Float64Array[]

interface Segment {
  /** Absolute control points x0, y0 to x3, y3. */
  readonly curve: readonly number[]
  /** Parameters at which it is split, 0 and 1 included. */
  splits: number[]
  /** Length of its first pieces. */
  readonly piece: number
}

const MOST_PIECES = 128
/** Pieces shorter than this share of the longest stray less than can be seen, whatever the bend: their error falls with the fourth power. */
const SHORT = 0.25

/**
 * Splits a drawing's curves for bending.
 *
 * @param longest length of the first pieces, px of the drawing's own space
 * @param tolerance largest distance from the image of the curve, px of the canvas
 * @param step distance of the points of a central difference from their anchor, px of the drawing's own space
 */
export function bendGeometry(drawing: Drawing, longest: number, tolerance: number, step: number, trial: Trial): BentGeometry {
  const paths = drawing.shapes.flatMap((shape) => shape.paths.map((path) => segmentsOf(path, longest)))
  const segments = paths.flat()
  let open = segments.filter((s) => s.piece > longest * SHORT)
  for (let round = 0; round < 5 && open.length > 0; round++) open = refine(open, tolerance, step, trial)
  return assemble(drawing, paths, step)
}

function segmentsOf(path: Path, longest: number): Segment[] {
  const out: Segment[] = []
  forEachSegment(path, (x0, y0, x1, y1, x2, y2, x3, y3, i) => {
    const curve = isStraight(path, i)
      ? [x0, y0, x0 + (x3 - x0) / 3, y0 + (y3 - y0) / 3, x3 - (x3 - x0) / 3, y3 - (y3 - y0) / 3, x3, y3]
      : [x0, y0, x1, y1, x2, y2, x3, y3]
    const length = Math.hypot(x1 - x0, y1 - y0) + Math.hypot(x2 - x1, y2 - y1) + Math.hypot(x3 - x2, y3 - y2)
    const pieces = Math.max(1, Math.min(MOST_PIECES, Math.ceil(length / longest)))
    out.push({ curve, splits: Array.from({ length: pieces + 1 }, (_, k) => k / pieces), piece: length / pieces })
  })
  return out
}

const pointAt = (c: readonly number[], t: number, axis: number): number => {
  const u = 1 - t
  return u * u * u * c[axis]! + 3 * u * u * t * c[axis + 2]! + 3 * u * t * t * c[axis + 4]! + t * t * t * c[axis + 6]!
}

/** Derivative by t. */
const slopeAt = (c: readonly number[], t: number, axis: number): number => {
  const u = 1 - t
  return 3 * (u * u * (c[axis + 2]! - c[axis]!) + 2 * u * t * (c[axis + 4]! - c[axis + 2]!) + t * t * (c[axis + 6]! - c[axis + 4]!))
}

/** Where the truth is looked at between the ends of a piece. */
const BETWEEN = [0.25, 0.5, 0.75]
/** Points that a trial takes of each piece: ends, two beside each end, and those between. */
const TAKEN = 6 + BETWEEN.length

/** Splits the pieces of segments that stray too far; returns the segments that were split. */
function refine(segments: readonly Segment[], tolerance: number, step: number, trial: Trial): Segment[] {
  const pieces = segments.flatMap((segment) => segment.splits.slice(1).map((to, k) => ({ segment, from: segment.splits[k]!, to })))
  const points = new Float64Array(2 * TAKEN * pieces.length)
  pieces.forEach(({ segment: { curve }, from, to }, i) => {
    let at = 2 * TAKEN * i
    const put = (t: number, along: number): void => {
      const sx = slopeAt(curve, t, 0)
      const sy = slopeAt(curve, t, 1)
      const size = Math.hypot(sx, sy) || 1
      points[at++] = pointAt(curve, t, 0) + (along * sx) / size
      points[at++] = pointAt(curve, t, 1) + (along * sy) / size
    }
    for (const t of [from, to]) for (const along of [0, step, -step]) put(t, along)
    for (const share of BETWEEN) put(from + share * (to - from), 0)
  })
  const worst = new Float64Array(pieces.length)
  for (const posed of trial(points))
    pieces.forEach((piece, i) => {
      worst[i] = Math.max(worst[i]!, strayOf(posed, 2 * TAKEN * i, piece, step))
    })
  const split = new Set<Segment>()
  pieces.forEach(({ segment, from, to }, i) => {
    if (worst[i]! <= tolerance || segment.splits.length > MOST_PIECES) return
    segment.splits.push((from + to) / 2)
    split.add(segment)
  })
  for (const segment of split) segment.splits.sort((a, b) => a - b)
  return [...split]
}

/** Largest distance of a piece's Hermite cubic from the posed points between its ends. */
function strayOf(
  posed: Float64Array,
  at: number,
  { segment, from, to }: { segment: Segment; from: number; to: number },
  step: number,
): number {
  let worst = 0
  const third = (to - from) / 3
  const gain = (t: number): number => (third * Math.hypot(slopeAt(segment.curve, t, 0), slopeAt(segment.curve, t, 1))) / (2 * step)
  const out = gain(from)
  const back = gain(to)
  for (const [k, share] of BETWEEN.entries()) {
    let square = 0
    for (const axis of [0, 1]) {
      const a = posed[at + axis]!
      const b = posed[at + 6 + axis]!
      const cubic = [
        a,
        a + out * (posed[at + 2 + axis]! - posed[at + 4 + axis]!),
        b - back * (posed[at + 8 + axis]! - posed[at + 10 + axis]!),
        b,
      ]
      const u = 1 - share
      const there =
        u * u * u * cubic[0]! + 3 * u * u * share * cubic[1]! + 3 * u * share * share * cubic[2]! + share * share * share * cubic[3]!
      square += (there - posed[at + 12 + 2 * k + axis]!) ** 2
    }
    worst = Math.max(worst, Math.sqrt(square))
  }
  return worst
}

/** Directions closer than this, radians, are one: the curve is smooth there. */
const SMOOTH = 1e-3

/** Collects samples and path points in the order of the path. */
class Assembler {
  readonly samples: number[] = []
  readonly points: number[] = []
  readonly anchor: number[] = []
  readonly plus: number[] = []
  readonly minus: number[] = []
  readonly gain: number[] = []
  readonly drawn: number[] = []
  /** The anchor in work, and the pair of samples beside it with their direction. */
  private here = 0
  private pair: { plus: number; direction: number } | null = null

  constructor(private readonly step: number) {}

  get count(): number {
    return this.anchor.length
  }

  move(x: number, y: number): void {
    this.here = this.samples.push(x, y) / 2 - 1
    this.pair = null
    this.put(x, y, this.here, 0, 0, 0)
  }

  piece(curve: readonly number[], from: number, to: number): void {
    this.handle(curve, from, (to - from) / 3)
    const x = pointAt(curve, to, 0)
    const y = pointAt(curve, to, 1)
    this.here = this.samples.push(x, y) / 2 - 1
    this.pair = null
    this.handle(curve, to, -(to - from) / 3)
    this.put(x, y, this.here, 0, 0, 0)
  }

  /** Adds the handle of the anchor in work: `share` of the slope at t. */
  private handle(curve: readonly number[], t: number, share: number): void {
    const sx = slopeAt(curve, t, 0)
    const sy = slopeAt(curve, t, 1)
    const size = Math.hypot(sx, sy)
    const x = this.samples[2 * this.here]!
    const y = this.samples[2 * this.here + 1]!
    if (size === 0) return this.put(x, y, this.here, 0, 0, 0)
    const direction = Math.atan2(sy, sx)
    if (!this.pair || Math.abs(Math.sin(direction - this.pair.direction)) > SMOOTH || Math.cos(direction - this.pair.direction) < 0) {
      const ux = (this.step * sx) / size
      const uy = (this.step * sy) / size
      this.pair = { plus: this.samples.push(x + ux, y + uy) / 2 - 1, direction }
      this.samples.push(x - ux, y - uy)
    }
    this.put(x + share * sx, y + share * sy, this.here, this.pair.plus, this.pair.plus + 1, (share * size) / (2 * this.step))
  }

  private put(x: number, y: number, anchor: number, plus: number, minus: number, gain: number): void {
    this.points.push(x, y)
    this.anchor.push(anchor)
    this.plus.push(plus)
    this.minus.push(minus)
    this.gain.push(gain)
  }
}

function assemble(drawing: Drawing, paths: readonly (readonly Segment[])[], step: number): BentGeometry {
  const out = new Assembler(step)
  let next = 0
  const shapes = drawing.shapes.map((shape): ShapeGeometry => {
    const first = out.count
    const verbs: number[] = []
    for (const path of shape.paths) {
      verbs.push(MOVE)
      out.move(path.anchors[0]!, path.anchors[1]!)
      out.drawn.push(out.count - 1)
      for (const { curve, splits } of paths[next++]!) {
        for (let k = 1; k < splits.length; k++) {
          verbs.push(CUBIC)
          out.piece(curve, splits[k - 1]!, splits[k]!)
        }
        out.drawn.push(out.count - 1)
      }
      if (path.closed) verbs.push(CLOSE)
    }
    return { shape, verbs: Uint8Array.from(verbs), first, count: out.count - first }
  })
  return {
    geometry: { shapes, points: Float64Array.from(out.points) },
    samples: Float64Array.from(out.samples),
    anchor: Int32Array.from(out.anchor),
    plus: Int32Array.from(out.plus),
    minus: Int32Array.from(out.minus),
    gain: Float64Array.from(out.gain),
    drawn: Int32Array.from(out.drawn),
    splits: paths.flatMap((path) => path.map((s) => s.splits)),
  }
}

/**
 * Path points from posed samples.
 *
 * @param samples [2m] posed
 * @param out [2n] overwritten
 */
export function expandBend(bent: BentGeometry, samples: Float64Array, out: Float64Array): void {
  const { anchor, plus, minus, gain } = bent
  for (let i = 0, p = 0; i < anchor.length; i++, p += 2) {
    const a = 2 * anchor[i]!
    const u = 2 * plus[i]!
    const v = 2 * minus[i]!
    const g = gain[i]!
    out[p] = samples[a]! + g * (samples[u]! - samples[v]!)
    out[p + 1] = samples[a + 1]! + g * (samples[u + 1]! - samples[v + 1]!)
  }
}

/**
 * The outline of a mesh as points that go with its vertices: straight lines between vertices stay straight.
 *
 * @param outline a drawing whose point ids are vertices of the mesh
 * @param vertices [2n] of the mesh, in the part's own space
 */
export function bendMesh(outline: Drawing, vertices: readonly number[]): BentGeometry {
  const geometry = rigidGeometry(outline)
  const anchor: number[] = []
  // Verbs walk a path from its first point around; a closed one comes back to where it began.
  for (const { paths } of outline.shapes) for (const { ids } of paths) anchor.push(...ids, ids[0]!)
  const at = Int32Array.from(anchor)
  return {
    geometry,
    samples: Float64Array.from(vertices),
    anchor: at,
    plus: at,
    minus: at,
    gain: new Float64Array(at.length),
    drawn: Int32Array.from(at.keys()),
    splits: [],
  }
}
