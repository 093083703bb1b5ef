/**
 * Round ends of pieces at a joint, for vector drawings.
 *
 * Both pieces end in a disc about the pivot, so that turning shows no corner. The lower piece gets a line along its new
 * end; one that was drawn round already stays as it is. The upper piece gets colour alone, and its disc is half a line's
 * width smaller: it covers the lines of the lower piece that lie inside, while the line along the lower end stays to be
 * seen in its full width where it is part of the silhouette. So both outlines meet at equal thickness, and nothing is
 * drawn twice. What stands out beyond the disc goes.
 */
import type { Drawing, Line, Path, Shape } from '../artwork/records'
import { areaOf, AnchorIds, combine, stretchesOf, type Area } from '../maths/geometry/booleans'
import { flatten } from '../maths/geometry/path'
import { dense, distanceToPolyline, isWithin } from '../maths/geometry/polyline'
import { circlePath, discArea, type Disc } from '../maths/geometry/disc'
import { beyond, endAt, type End } from '../maths/geometry/ends'
import { pathLength, subPath } from '../maths/geometry/pathCut'
import { nth, sure } from '../kernel/sure'

/** Where the piece with a round end lies against the other. */
export type Layering = 'under' | 'over'

/** A disc holds at least this share of its area of a piece that ends in it. */
const LEAST_SHARE = 0.02

/** The shape whose ink ends in the disc: the one with most of its area there, the upper one of equals; null without any. */
function endingShape(drawing: Drawing, disc: Disc): Shape | null {
  const area = discArea(disc)
  let best: Shape | null = null
  let most = LEAST_SHARE * Math.PI * disc.radius ** 2
  for (const shape of drawing.shapes) {
    if (!shape.ink) continue
    const share = areaOf({ paths: combine(inkArea(shape), area, 'intersect'), rule: 'nonzero' })
    if (share < most) continue
    most = share
    best = shape
  }
  return best
}

const inkArea = (shape: Shape): Area => ({ paths: shape.paths.map((p) => ({ ...p, closed: true })), rule: shape.ink?.rule ?? 'nonzero' })

/** Whether a line runs along the outline of an ink for most of a stretch, within its width. */
function follows(line: Path, width: number, outline: readonly Path[]): boolean {
  const rims = outline.map((p) => flatten({ ...p, closed: true }, 0.2))
  const points = flatten(line, 1)
  let near = 0
  for (let i = 0; i < points.length; i += 2)
    if (rims.some((rim) => distanceToPolyline(rim, true, nth(points, i), nth(points, i + 1)) <= width)) near++
  return near > 0.6 * (points.length / 2)
}

/** Whether the line of a shape is an outline: around its own ink, or along the rim of another one. */
export const isOutline = (drawing: Drawing, shape: Shape): boolean =>
  shape.line !== null &&
  (shape.ink !== null ||
    drawing.shapes.some((s) => s.ink && shape.paths.some((p) => follows(p, Math.max(2, sure(shape.line).width), s.paths))))

/** The outline of a piece's ending shape: its own line, or lines drawn apart that run along it. */
function outlinesOf(drawing: Drawing, ending: Shape): Shape[] {
  return drawing.shapes.filter(
    (s) => s.line && (s.id === ending.id || (!s.ink && s.paths.some((p) => follows(p, Math.max(2, sure(s.line).width), ending.paths)))),
  )
}

/** Whether anything of a drawing ends in a disc. */
export const endsIn = (drawing: Drawing, disc: Disc): boolean => endingShape(drawing, disc) !== null

/** Width of the line around what ends in a disc; 0 without a line. */
export function outlineWidth(drawing: Drawing, disc: Disc): number {
  const ending = endingShape(drawing, disc)
  return ending ? Math.max(0, ...outlinesOf(drawing, ending).map((s) => sure(s.line).width)) : 0
}

/** Spots of an ink that tell how it ends at a disc: within, and along its outline. */
function spotsOf(ink: Area, { centre, radius }: Disc): { inside: number[]; rim: number[] } {
  const rims = ink.paths.map((p) => flatten(p, 0.2))
  const inside: number[] = []
  // Between the whole steps, so that no row lies on the rim of a limb that is as broad as the disc.
  for (let i = -11.5; i < 12; i++)
    for (let j = -11.5; j < 12; j++) {
      const [x, y] = [centre.x + (i * radius) / 4, centre.y + (j * radius) / 4]
      if (isWithin(rims, x, y, ink.rule)) inside.push(x, y)
    }
  return { inside, rim: rims.flatMap((rim) => dense(rim, radius / 12)) }
}

/** What becomes of an ink and its outline at a disc. */
interface NewEnd {
  readonly ink: Path[]
  /** Where the outline goes. */
  readonly cleared: readonly Area[]
  /** The new outline. */
  readonly arcs: Path[]
}

/** @param width of the piece's own line; @param gap half the width of the line that the upper piece leaves room for */
function newEnd(before: Area, disc: Disc, end: End, layering: Layering, width: number, gap: number, ids: AnchorIds): NewEnd | null {
  const own = layering === 'over' && end.kind === 'round' ? end.radius : disc.radius
  const radius = layering === 'under' ? own : own - gap
  if (radius <= 0) return null
  const past = end.kind === 'runs on' ? null : beyond(disc, end.away)
  const kept: Area = past ? { paths: combine(before, past, 'subtract', ids), rule: 'nonzero' } : before
  const inner = discArea({ ...disc, radius: Math.max(0.01, own - 0.75 * width) })
  return {
    ink: combine(kept, discArea({ ...disc, radius }), 'unite', ids),
    cleared: past ? [inner, past] : [inner],
    arcs: layering === 'under' && width > 0 ? newEnds(disc, kept, () => ids.fresh()) : [],
  }
}

/**
 * Gives a drawing its round end.
 *
 * @param disc in the drawing's own space
 * @param lineWidth width of the line that the upper piece leaves room for: that of the lower piece
 * @returns the new shapes in painting order, or null where nothing of the drawing ends there
 */
export function capDrawing(drawing: Drawing, disc: Disc, layering: Layering, lineWidth: number): Shape[] | null {
  const ending = endingShape(drawing, disc)
  if (!ending?.ink) return null
  const before = inkArea(ending)
  const { inside, rim } = spotsOf(before, disc)
  const end = endAt(inside, rim, disc)
  if (layering === 'under' && end.kind === 'round') return [...drawing.shapes]
  const outlines = outlinesOf(drawing, ending)
  const width = Math.max(0, ...outlines.map((s) => sure(s.line).width))
  const ids = new AnchorIds(drawing.shapes.flatMap((s) => s.paths))
  const made = newEnd(before, disc, end, layering, width, lineWidth / 2, ids)
  if (!made) return null
  let nextShape = 1 + Math.max(...drawing.shapes.map((s) => s.id))
  const arcLine = outlines.find((s) => sure(s.line).width === width)
  const out: Shape[] = []
  for (const shape of drawing.shapes) {
    const own: Shape[] = []
    const hasOutline = outlines.includes(shape)
    const line = hasOutline ? rerouted(shape, ending, made.cleared, () => ids.fresh()) : null
    const withArcs = shape === arcLine ? [...(line ?? []), ...made.arcs] : line
    if (shape.id === ending.id) own.push({ ...shape, paths: made.ink, ink: { ...ending.ink, rule: 'nonzero' }, line: null })
    else if (shape.ink || !hasOutline) own.push(shape)
    if (withArcs && withArcs.length > 0)
      own.push({
        ...shape,
        id: shape.id === ending.id ? nextShape++ : shape.id,
        ink: null,
        paths: withArcs,
        line: rounded(sure(shape.line)),
      })
    out.push(...(shape.lineFirst ? own.reverse() : own))
  }
  return out
}

/** Ends of lines that meet at a joint are round, so that they meet without a notch. */
const rounded = (line: Line): Line => (line.dash ? line : { ...line, cap: 'round', join: 'round' })

/** Stretches of the circle outside of what was there: the new outline. */
function newEnds(disc: Disc, before: Area, fresh: () => number): Path[] {
  const circle = circlePath(disc)
  return stretchesOf(circle, before)
    .filter((s) => !s.inside)
    .map(({ from, to }) => subPath(circle, from, to, fresh))
    .map((path) => ({ ...path, ids: path.ids.map(fresh) }))
    .filter((path) => pathLength(path) > 0.25)
}

/** The outline without what now lies inside the round end or beyond it. Other lines stay as they are. */
function rerouted(shape: Shape, ending: Shape, cleared: readonly Area[], fresh: () => number): Path[] {
  const width = Math.max(2, sure(shape.line).width)
  const isOwn = shape.id === ending.id
  return shape.paths.flatMap((path) => {
    if (!isOwn && !follows(path, width, ending.paths)) return [path]
    return cleared.reduce<Path[]>((paths, area) => paths.flatMap((p) => outside(p, area, fresh)), [path])
  })
}

/** What of a path lies outside of an area; a path that is nowhere in it stays as it is. */
function outside(path: Path, area: Area, fresh: () => number): Path[] {
  const stretches = stretchesOf(path, area)
  if (stretches.every((s) => !s.inside)) return [path]
  return stretches
    .filter((s) => !s.inside)
    .map(({ from, to }) => subPath(path, from, to, fresh))
    .filter((p) => pathLength(p) > 0.25)
}
