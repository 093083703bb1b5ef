/** One stretch of an outline, up to where it crosses other lines: found under a spot, and cut out as it is. */
import { freePointId, freeShapeId } from './numbering'
import { crossingsOf } from '../maths/geometry/booleans'
import { nearestOnPath } from '../maths/geometry/nearest'
import { segmentCount, subPath } from '../maths/geometry/pathCut'
import type { Drawing, Path, Shape } from './records'
import type { CutDrawing } from './cutDrawing'

/** Where a stretch of an outline begins and ends. */
export interface OutlineStretch {
  /** Index of the shape in the drawing, and of the path in the shape. */
  readonly shape: number
  readonly path: number
  /** Parameters along the path; on a closed path `from` may lie below 0. */
  readonly from: number
  readonly to: number
}

/** The stretch of a line that runs nearest to a spot, or null where none comes within `reach`, in the drawing's own px. */
export function stretchAt(drawing: Drawing, x: number, y: number, reach: number): OutlineStretch | null {
  let best: { shape: number; path: number; parameter: number; distance: number } | null = null
  drawing.shapes.forEach((s, shape) => {
    if (!s.line) return
    s.paths.forEach((p, path) => {
      const near = p.ids.length > 1 ? nearestOnPath(p, x, y) : null
      const distance = near ? near.distance - s.line!.width / 2 : Infinity
      if (near && distance <= reach && distance < (best?.distance ?? Infinity))
        best = { shape, path, parameter: near.segment + near.share, distance }
    })
  })
  return best ? upToCrossings(drawing, best) : null
}

function upToCrossings(drawing: Drawing, at: { shape: number; path: number; parameter: number }): OutlineStretch {
  const own = drawing.shapes[at.shape]!.paths[at.path]!
  const others = drawing.shapes.flatMap((s) => (s.line ? s.paths.filter((p) => p !== own && p.ids.length > 1) : []))
  const cuts = crossingsOf(own, others)
  const count = segmentCount(own)
  const { shape, path, parameter } = at
  const before = cuts.filter((u) => u < parameter).at(-1)
  const after = cuts.find((u) => u > parameter)
  if (!own.closed) return { shape, path, from: before ?? 0, to: after ?? count }
  if (cuts.length === 0) return { shape, path, from: 0, to: count }
  // Round a closed path the stretch may run over its beginning.
  return { shape, path, from: before ?? cuts.at(-1)! - count, to: after ?? cuts[0]! + count }
}

/** The stretch as a path of its own. */
export const stretchPath = (drawing: Drawing, { shape, path, from, to }: OutlineStretch, idAt: () => number = () => 0): Path =>
  subPath(drawing.shapes[shape]!.paths[path]!, from, to, idAt)

/** Cuts a stretch out: its line goes, the ink stays where it is. */
export function cutStretch(drawing: Drawing, stretch: OutlineStretch): CutDrawing {
  const { from, to } = stretch
  let nextId = freePointId(drawing)
  let nextShape = freeShapeId(drawing)
  const fresh = (): number => nextId++
  const source = drawing.shapes[stretch.shape]!
  const own = source.paths[stretch.path]!
  const count = segmentCount(own)
  const rest = own.closed ? [[to, from + count] as const] : [[0, from] as const, [to, count] as const]
  const left = [
    ...source.paths.filter((p) => p !== own),
    ...rest.filter(([a, b]) => b - a > 1e-6).map(([a, b]) => subPath(own, a, b, fresh)),
  ]
  const piece: Shape = { ...source, id: nextShape++, ink: null, paths: [stretchPath(drawing, stretch, fresh)] }
  const lined: Shape[] = left.length > 0 ? [{ ...source, id: source.ink ? nextShape++ : source.id, ink: null, paths: left }] : []
  const inked: Shape[] = source.ink ? [{ ...source, line: null }] : []
  const kept = source.lineFirst ? [...lined, ...inked] : [...inked, ...lined]
  return { inside: [piece], outside: drawing.shapes.flatMap((s) => (s === source ? kept : [s])) }
}
