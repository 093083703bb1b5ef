/** Lips as strangers draw them: the line apart from the colour, or a closed mouth that is nothing but a line. */
import type { Drawing, Line, Path, Shape } from '../../artwork/records'
import type { PartId } from '../../kernel/ids'
import type { Puppet } from '../../puppet/schema'
import { drawnParts, restMatrix } from '../../parts/tree'
import { reversed } from '../../artwork/touch/points'
import { lineLength, distanceToPolyline } from '../../maths/geometry/polyline'
import { pathLength } from '../../maths/geometry/pathCut'
import { widestOutline, stretchesOf } from '../outlineMoves'
import { movableDrawing } from './moves'
import type { MouthOutline } from './outline'

/** What shows inside of a mouth that was drawn as a line. */
export const INSIDE = '#4a1f26'

/** The longest open line of a drawing; null where it has none that could be a mouth. */
function longestLine({ shapes }: Drawing): { readonly shape: Shape; readonly path: Path; readonly line: Line } | null {
  const lines = shapes.flatMap((shape) =>
    shape.paths.flatMap((path) => (shape.line && !path.closed && path.ids.length > 1 ? [{ shape, path, line: shape.line }] : [])),
  )
  return lines.sort((a, b) => pathLength(b.path) - pathLength(a.path))[0] ?? null
}

/** There and back: a closed outline around nothing, which looks like the line that it was made of. */
function thereAndBack(path: Path, firstId: number): Path {
  const back = reversed(path)
  const n = path.ids.length
  const inner = Array.from({ length: n - 2 }, (_, k) => k + 1)
  const handles = path.handles.slice()
  // At its ends the way back begins and arrives with the handles of the way there.
  handles.splice(0, 2, path.handles[2]!, path.handles[3]!)
  handles.splice(4 * n - 2, 2, path.handles[4 * n - 4]!, path.handles[4 * n - 3]!)
  return {
    closed: true,
    ids: [...path.ids, ...inner.map((k) => firstId + k - 1)],
    anchors: [...path.anchors, ...inner.flatMap((k) => [back.anchors[2 * k]!, back.anchors[2 * k + 1]!])],
    handles: [...handles, ...inner.flatMap((k) => back.handles.slice(4 * k, 4 * k + 4))],
    ...(path.widths && { widths: [...path.widths, ...inner.map((k) => back.widths![k]!)] }),
  }
}

/** Whether a drawing is a mouth that can be opened: it has a closed outline, or a line that becomes one. */
export const canOpen = (drawing: Drawing): boolean => widestOutline(drawing) !== null || longestLine(drawing) !== null

/** A drawing with a closed outline: its own, or its longest line made one, with something dark inside. */
export function withOutline(drawing: Drawing): Drawing {
  const found = widestOutline(drawing) ? null : longestLine(drawing)
  if (!found) return drawing
  const firstId = 1 + Math.max(...drawing.shapes.flatMap((s) => s.paths.flatMap((p) => p.ids)))
  const rule = 'nonzero' as const
  const shapes = drawing.shapes.map((shape): Shape => {
    if (shape !== found.shape) return shape
    const paths = shape.paths.map((p) => (p === found.path ? thereAndBack(p, firstId) : p))
    const line: Line = { ...found.line, join: 'round' }
    return { ...shape, paths, line, ink: { paint: { kind: 'flat', colour: INSIDE }, alpha: 1, rule }, lineFirst: false }
  })
  return { ...drawing, shapes }
}

/** Share of a drawing's length that lies on the outline of the lips, from which it goes with them; and how near that is, px. */
const GOES_WITH = 0.45
const NEAR = 1.5

/** Drawings whose points lie where those of the lips' outline do: a line apart from its colour, an upper and a lower lip. */
export function linesOnLips(puppet: Puppet, outline: MouthOutline, lips: PartId): PartId[] {
  const reach = Math.max(NEAR, 0.03 * outline.half)
  return drawnParts(puppet, puppet.root).flatMap(({ id }) => {
    const drawing = id === lips ? null : movableDrawing(puppet, id)
    const map = restMatrix(puppet, id)
    let [near, all] = [0, 0]
    for (const stretch of drawing?.shapes.flatMap((s) => s.paths.flatMap((p) => stretchesOf(p, map))) ?? []) {
      const length = lineLength(stretch)
      const ends = [stretch[0], stretch[3]]
      const isNear = ends.every(({ x, y }) => [outline.upper, outline.lower].some((run) => distanceToPolyline(run, false, x, y) <= reach))
      all += length
      if (isNear) near += length
    }
    return all > 0 && near >= GOES_WITH * all ? [id] : []
  })
}
