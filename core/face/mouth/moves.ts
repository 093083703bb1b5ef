/** How lips and what lies between them move: smooth maps of the canvas, one for each run of the outline. */
import type { Drawing } from '../../artwork/records'
import type { PartId } from '../../kernel/ids'
import type { Vec } from '../../kernel/numbers'
import type { Puppet } from '../../puppet/schema'
import type { Change, ChangeOf } from '../../responses/records'
import { partOf } from '../../parts/lookup'
import { drawingOf, restMatrix } from '../../parts/tree'
import { sure } from '../../kernel/sure'
import { distanceToPolyline } from '../../maths/geometry/polyline'
import { middleOf, movedStretches, smoothly, stretchesOf, throughMiddle, type StretchMove } from '../outlineMoves'
import { depthAt, drawnGap, inMouth, onCanvas, type MouthOutline } from './outline'

/** How a spot of the lips moves, px along the mouth and down: `u` is -1 at one corner, 1 at the other. */
export type LipMove = (u: number, isLower: boolean) => readonly [along: number, down: number]

/** Shares of an opening that the lips take: the skull keeps the upper one. */
export const UPPER_SHARE = 0.28
export const LOWER_SHARE = 0.72

/** How far lips are apart along the mouth: fuller than a parabola, so that an open mouth is round; level in the middle. */
export const bow = (u: number): number => Math.max(0, 1 - Math.abs(u) ** 2.5)

/** 1 at the corners, and up by a share in the middle. */
export const bend = (u: number, middle = 1): number => (1 + middle) * Math.min(1, u * u) - middle

/** Lips that open by so many px. */
export const opened =
  ({ half }: MouthOutline, by: number): LipMove =>
  (u, isLower) => [-0.06 * half * u, (isLower ? LOWER_SHARE : -UPPER_SHARE) * by * bow(u)]

/** A stretch from corner to corner has its ends further out than this, in half widths. */
const CORNER = 0.97

/** A move of stretches by what the lips do. */
export const lipMove = (outline: MouthOutline, move: LipMove): StretchMove => {
  const moved = (spot: Vec, isLower: boolean): [number, number] => onCanvas(outline, move(inMouth(outline, spot).u, isLower))
  const smooth = smoothly((spot, path, i, stretch) => moved(spot, outline.isLower(path, i, stretch)))
  return (stretch, path, i) => {
    const is = smooth(stretch, path, i)
    if ([stretch[0], stretch[3]].some((p) => Math.abs(inMouth(outline, p).u) < CORNER)) return is
    // One curve from corner to corner follows its ends too far: it is brought back to where its middle belongs.
    const { x, y } = middleOf(stretch)
    const [dx, dy] = moved({ x, y }, outline.isLower(path, i, stretch))
    return throughMiddle(is, { x: x + dx, y: y + dy })
  }
}

/** Share of half the width within which a line lies on the outline. */
const ON_OUTLINE = 0.04

/** Where the lips meet when a mouth closes that is drawn open: one arc through both corners. */
function closedDepth(outline: MouthOutline): number {
  return depthAt(outline, 'upper', 0) + UPPER_SHARE * drawnGap(outline)
}

/** What closing moves a spot by that is no part of the outline. */
export const closingMove = (outline: MouthOutline): LipMove => {
  const meets = closedDepth(outline)
  const [upper, lower] = [meets - depthAt(outline, 'upper', 0), meets - depthAt(outline, 'lower', 0)]
  return (u, isLower) => [0, (isLower ? lower : upper) * Math.max(0, 1 - u * u)]
}

/**
 * Closes a mouth that is drawn open. Both runs of its outline come to lie on one parabola: a stretch of it is a cubic with handles at
 * thirds of the way along, so that nothing stays open between points that lie in different places.
 */
export function closing(outline: MouthOutline): StretchMove {
  const meets = closedDepth(outline)
  const beside = lipMove(outline, closingMove(outline))
  const arc = (u: number, du: number, from = u): { x: number; y: number } => {
    const [x, y] = onCanvas(outline, [outline.half * (from + du), meets * (1 - from * from) - 2 * meets * from * du])
    return { x: outline.middle.x + x, y: outline.middle.y + y }
  }
  return (stretch, path, i) => {
    const run = outline.isLower(path, i, stretch) ? outline.lower : outline.upper
    const { x, y } = middleOf(stretch)
    if (distanceToPolyline(run, false, x, y) > ON_OUTLINE * outline.half) return beside(stretch, path, i)
    const [from, to] = [inMouth(outline, stretch[0]).u, inMouth(outline, stretch[3]).u]
    const third = (to - from) / 3
    return [arc(from, 0), arc(from, third), arc(to, -third), arc(to, 0)]
  }
}

/** What lies further out than this, in half widths, goes along with the corner as one piece. */
const NEAR_CORNER = 0.6

/** A part beside the lips, a dimple or a moustache: what is at a corner goes with it as one piece, the middle with the middle. */
export const besideLips =
  (move: LipMove): LipMove =>
  (u) => {
    const t = Math.min(1, Math.max(-1, u / NEAR_CORNER))
    return move(1.5 * t - 0.5 * t ** 3, false)
  }

/** The drawing that a part shows, where its points can be moved. */
export function movableDrawing(puppet: Puppet, part: PartId | null): Drawing | null {
  const own = part === null ? undefined : puppet.parts[part]
  return own && own.content.kind === 'drawing' ? drawingOf(puppet, own) : null
}

/** The changes of some parts by one move of stretches; parts that are no drawings stay. */
export const movedParts = (puppet: Puppet, parts: readonly PartId[], move: StretchMove): Change[] =>
  parts.flatMap((part): ChangeOf<'points'>[] => {
    const drawing = movableDrawing(puppet, part)
    const change = drawing && movedStretches(puppet, part, drawing, move)
    return change && change.ids.length > 0 ? [change] : []
  })

/** Upper and lower end of what a part draws, px down from the line through the corners. */
export function extentOf(puppet: Puppet, part: PartId, outline: MouthOutline): readonly [top: number, bottom: number] {
  const map = restMatrix(puppet, part)
  const paths = sure(drawingOf(puppet, partOf(puppet, part))).shapes.flatMap((s) => s.paths)
  const depths = paths.flatMap((path) => stretchesOf(path, map).flatMap((s) => s.map((spot) => inMouth(outline, spot).v)))
  const top = Math.min(...depths)
  return [top, Math.max(Math.max(...depths), top + 1)]
}
