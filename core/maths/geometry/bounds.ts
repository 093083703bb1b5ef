/** Axis-aligned boxes. An empty box has min above max and unites neutrally. */
import type { Affine, Vec } from '../../kernel/numbers'
import type { Path } from '../../artwork/records'
import { apply } from './affine'
import { forEachSegment } from './path'

/** An upright box by its four sides; minima above maxima where it holds nothing. Changed in place. */
export interface Bounds {
  minX: number
  minY: number
  maxX: number
  maxY: number
}

/** Bounds that hold nothing. */
export const emptyBounds = (): Bounds => ({ minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity })

/** Whether bounds hold nothing; a single spot is something. */
export const isEmpty = (b: Bounds): boolean => !(b.minX <= b.maxX && b.minY <= b.maxY)

/** The middle of a box that holds something. */
export const middleOf = (b: Bounds): Vec => ({ x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 })

/** Grows bounds to hold a spot, in place. */
export function include(b: Bounds, x: number, y: number): void {
  if (x < b.minX) b.minX = x
  if (x > b.maxX) b.maxX = x
  if (y < b.minY) b.minY = y
  if (y > b.maxY) b.maxY = y
}

/** Grows bounds to hold others, those widened by `grow` px, in place. */
export function unite(b: Bounds, other: Bounds, grow = 0): void {
  if (isEmpty(other)) return
  include(b, other.minX - grow, other.minY - grow)
  include(b, other.maxX + grow, other.maxY + grow)
}

/** A box under a map: the box around its four corners. */
export function mapBounds(box: Bounds, map: Affine): Bounds {
  const out = emptyBounds()
  for (const x of [box.minX, box.maxX])
    for (const y of [box.minY, box.maxY]) {
      const p = apply(map, { x, y })
      include(out, p.x, p.y)
    }
  return out
}

/** Whether two boxes have a spot in common, be it of their edges. */
export const meet = (a: Bounds, b: Bounds): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY

/** Cuts a box down to what it shares with another. */
export function intersect(b: Bounds, other: Bounds): void {
  b.minX = Math.max(b.minX, other.minX)
  b.minY = Math.max(b.minY, other.minY)
  b.maxX = Math.min(b.maxX, other.maxX)
  b.maxY = Math.min(b.maxY, other.maxY)
}

/** Values of t in (0, 1) where one coordinate of a cubic turns back. */
function turningPoints(p0: number, p1: number, p2: number, p3: number): number[] {
  const a = -p0 + 3 * p1 - 3 * p2 + p3
  const b = 2 * (p0 - 2 * p1 + p2)
  const c = p1 - p0
  if (Math.abs(a) < 1e-12) return Math.abs(b) < 1e-12 ? [] : [-c / b].filter((t) => t > 0 && t < 1)
  const disc = b * b - 4 * a * c
  if (disc < 0) return []
  const root = Math.sqrt(disc)
  return [(-b + root) / (2 * a), (-b - root) / (2 * a)].filter((t) => t > 0 && t < 1)
}

const cubicAt = (p0: number, p1: number, p2: number, p3: number, t: number): number => {
  const u = 1 - t
  return u * u * u * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t * t * t * p3
}

/** Tight bounds of a path's curve, without its line width. */
export function pathBounds(path: Path, into: Bounds = emptyBounds()): Bounds {
  include(into, path.anchors[0]!, path.anchors[1]!)
  forEachSegment(path, (x0, y0, x1, y1, x2, y2, x3, y3) => {
    include(into, x3, y3)
    for (const t of turningPoints(x0, x1, x2, x3)) include(into, cubicAt(x0, x1, x2, x3, t), y3)
    for (const t of turningPoints(y0, y1, y2, y3)) include(into, x3, cubicAt(y0, y1, y2, y3, t))
  })
  return into
}

/** A square around a box, of at least 4 units a side, with air around it: 1.2 leaves a tenth on either side. */
export function squareAround(box: Bounds, air: number): Bounds {
  const half = (Math.max(box.maxX - box.minX, box.maxY - box.minY, 4) / 2) * air
  const x = (box.minX + box.maxX) / 2
  const y = (box.minY + box.maxY) / 2
  return { minX: x - half, maxX: x + half, minY: y - half, maxY: y + half }
}
