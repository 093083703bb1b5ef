/**
 * The outline of a mouth: its corners, and the two runs between them. Spots are told in a frame of its own, along the line through the
 * corners and down from it, so that a mouth may be tilted.
 */
import type { Path } from '../../artwork/records'
import type { Vec } from '../../kernel/numbers'
import type { PartId } from '../../kernel/ids'
import type { Puppet } from '../../puppet/schema'
import { partOf } from '../../parts/lookup'
import { drawingOf, restMatrix } from '../../parts/tree'
import { sure } from '../../kernel/sure'
import { mapPath } from '../../maths/geometry/path'
import { cubicAt } from '../../maths/geometry/pathCut'
import { distanceToPolyline } from '../../maths/geometry/polyline'
import { lowerStretches, middleOf, stretchesOf, widestOutline, type Stretch } from '../outlineMoves'

export interface MouthOutline {
  /** Half way between the corners, canvas px; unit vectors along the mouth to the right and down; half its width, px. */
  readonly middle: Vec
  readonly along: Vec
  readonly down: Vec
  readonly half: number
  /** The runs between the corners as lines of x,y pairs on the canvas. */
  readonly upper: readonly number[]
  readonly lower: readonly number[]
  /** Whether a stretch goes with the lower lip. */
  isLower(path: Path, i: number, stretch: Stretch): boolean
}

/** Spots a stretch is looked at. */
const SPOTS = 8

const lineOf = (stretches: readonly Stretch[]): number[] =>
  stretches.flatMap((s) => {
    const flat = s.flatMap(({ x, y }) => [x, y])
    return Array.from({ length: SPOTS + 1 }, (_, k) => cubicAt(flat, k / SPOTS)).flatMap(({ x, y }) => [x, y])
  })

/** The outline of the lips of a puppet at rest. */
export function mouthOutline(puppet: Puppet, lips: PartId): MouthOutline {
  const main = sure(widestOutline(sure(drawingOf(puppet, partOf(puppet, lips)))), 'A closed outline of the mouth')
  const map = restMatrix(puppet, lips)
  const stretches = stretchesOf(main, map)
  const isLow = lowerStretches(mapPath(main, map))
  const lower = lineOf(stretches.filter((_, i) => isLow[i]))
  const upper = lineOf(stretches.filter((_, i) => !isLow[i]))
  const anchors = stretches.map(([a]) => a)
  const [left, right] = [anchors.reduce((best, p) => (p.x < best.x ? p : best)), anchors.reduce((best, p) => (p.x > best.x ? p : best))]
  const half = Math.max(0.5, Math.hypot(right.x - left.x, right.y - left.y) / 2)
  const along = { x: (right.x - left.x) / (2 * half), y: (right.y - left.y) / (2 * half) }
  return {
    ...{ middle: { x: (left.x + right.x) / 2, y: (left.y + right.y) / 2 }, along, down: { x: -along.y, y: along.x }, half, upper, lower },
    isLower(path, i, stretch) {
      if (isAlike(path, main)) return isLow[i] ?? false
      const spot = middleOf(stretch)
      return distanceToPolyline(lower, false, spot.x, spot.y) < distanceToPolyline(upper, false, spot.x, spot.y)
    },
  }
}

/** Whether two paths have their points in the same places, as an outline and its line have. */
const isAlike = (a: Path, b: Path): boolean => a.anchors.length === b.anchors.length && a.anchors.every((v, k) => v === b.anchors[k])

/** Where a spot is: along the mouth in half widths, -1 at its left corner, and px down from the line through the corners. */
export function inMouth({ middle, along, down, half }: MouthOutline, { x, y }: Vec): { readonly u: number; readonly v: number } {
  const [dx, dy] = [x - middle.x, y - middle.y]
  return { u: (dx * along.x + dy * along.y) / half, v: dx * down.x + dy * down.y }
}

/** A step along the mouth and down from it, px, on the canvas. */
export const onCanvas = ({ along, down }: MouthOutline, by: readonly [number, number]): [number, number] => [
  by[0] * along.x + by[1] * down.x,
  by[0] * along.y + by[1] * down.y,
]

/** How far down a run lies at a share of the way from the middle to a corner, px; 0 beside the mouth. */
export function depthAt(outline: MouthOutline, run: 'upper' | 'lower', share: number): number {
  const line = outline[run]
  const found: number[] = []
  for (let i = 0; i + 3 < line.length; i += 2) {
    const a = inMouth(outline, { x: line[i]!, y: line[i + 1]! })
    const b = inMouth(outline, { x: line[i + 2]!, y: line[i + 3]! })
    if ((a.u - share) * (b.u - share) > 0) continue
    found.push(a.u === b.u ? a.v : a.v + ((share - a.u) / (b.u - a.u)) * (b.v - a.v))
  }
  if (found.length === 0) return 0
  return run === 'upper' ? Math.min(...found) : Math.max(...found)
}

/** How wide the mouth is drawn open in its middle, px. */
export const drawnGap = (outline: MouthOutline): number => Math.max(0, depthAt(outline, 'lower', 0) - depthAt(outline, 'upper', 0))
