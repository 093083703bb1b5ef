/** What can be done with the selected points of a drawing, beside dragging them. */
import {
  alignedPoints,
  bendPoint,
  changePaths,
  flipped,
  joinPoints,
  movePoints,
  setWidth,
  tapered,
  toggleHidden,
  type Alignment,
} from '@marionette/core/artwork/touch/points'
import { pointsOf } from '@marionette/core/touch/posedPaths'
import type { Drawing, Path, Vec } from '@marionette/core/puppet/schema'
import { changePosed, changeRest } from './target'
import type { ToolHost } from '../../stage/tool'
import { selectPoints, useTouch } from './settings'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

/** The selected points, or all of the drawing where none are. */
function meant(editor: Editor, drawing: Drawing): ReadonlySet<number> {
  const { points } = useTouch.of(editor).getState()
  return points.size > 0 ? points : new Set(pointsOf(drawing).keys())
}

const eachSelected = (editor: Editor, drawing: Drawing, change: (path: Path, i: number) => Path): Drawing => {
  const { points } = useTouch.of(editor).getState()
  return changePaths(drawing, (path) => path.ids.reduce((p, id, i) => (points.has(id) ? change(p, i) : p), path))
}

export const makeCorners = (editor: Editor): boolean =>
  changeRest(editor, 'Make corners', (d) => eachSelected(editor, d, (p, i) => bendPoint(p, i, 0, 0)))

/** Smooth points: handles along the line between both neighbours, a third of the way to the nearer one. */
export const makeCurves = (host: ToolHost): boolean => changePosed(host, 'Make curves', (d) => eachSelected(host.editor, d, smoothPoint))

function smoothPoint(path: Path, i: number): Path {
  const n = path.ids.length
  const spot = (k: number): Vec => ({ x: nth(path.anchors, 2 * k), y: nth(path.anchors, 2 * k + 1) })
  const before = path.closed ? (i - 1 + n) % n : Math.max(0, i - 1)
  const after = path.closed ? (i + 1) % n : Math.min(n - 1, i + 1)
  const [a, p, b] = [spot(before), spot(i), spot(after)]
  const long = Math.hypot(b.x - a.x, b.y - a.y)
  if (long === 0) return path
  const reach = Math.min(...[a, b].map((q) => Math.hypot(q.x - p.x, q.y - p.y)).filter((d) => d > 0)) / 3
  return bendPoint(path, i, ((b.x - a.x) / long) * reach, ((b.y - a.y) / long) * reach)
}

/** Joins the two selected points half way between where they are seen. */
export function joinSelected(host: ToolHost): void {
  const [a, b, more] = [...useTouch.of(host.editor).getState().points]
  if (a === undefined || b === undefined || more !== undefined) return void host.editor.notify.error('Select two points to join them.')
  const isJoined = changePosed(host, 'Join points', (d) => {
    const joined = joinPoints(d, a, b)
    if (!joined) host.editor.notify.error('Only ends of lines and neighbouring points can be joined.')
    return joined
  })
  if (isJoined) selectPoints(host.editor, [])
}

export const hideSelected = (editor: Editor): boolean =>
  changeRest(editor, 'Hide or show stretches', (d) => changePaths(d, (p) => toggleHidden(p, useTouch.of(editor).getState().points)))

export const thickenSelected = (editor: Editor, share: number): boolean =>
  changeRest(editor, 'Change thickness', (d) => eachSelected(editor, d, (p, i) => setWidth(p, i, share)))

/** Thin ends for the lines of the selected points, or for all open ones. */
export const taperSelected = (editor: Editor): boolean =>
  changeRest(editor, 'Taper ends', (d) => {
    const ids = meant(editor, d)
    return changePaths(d, (p) => (p.ids.some((id) => ids.has(id)) ? tapered(p) : p))
  })

const chosen = (editor: Editor, drawing: Drawing): Map<number, Vec> => {
  const ids = meant(editor, drawing)
  return new Map([...pointsOf(drawing)].filter(([id]) => ids.has(id)).map(([id, { x, y }]) => [id, { x, y }]))
}

export const alignSelected = (host: ToolHost, to: Alignment): boolean =>
  changePosed(host, 'Align points', (posed) => {
    const aligned = alignedPoints(chosen(host.editor, posed), to)
    return changePaths(posed, (p) => movePoints(p, aligned))
  })

/** Mirrors the selected points, or the whole drawing, about the middle of what they span. */
export const flipSelected = (host: ToolHost, axis: 'x' | 'y'): boolean =>
  changePosed(host, axis === 'x' ? 'Flip sideways' : 'Flip upside down', (posed) => {
    const all = [...chosen(host.editor, posed).values()].map((p) => p[axis])
    const middle = (Math.min(...all) + Math.max(...all)) / 2
    const ids = meant(host.editor, posed)
    return changePaths(posed, (p) => flipped(p, ids, axis, middle))
  })

/** Thickness at the selected points as a share of the line's width; null where they differ or none are selected. */
export function widthOfSelected(drawing: Drawing, points: ReadonlySet<number>): number | null {
  const found = drawing.shapes.flatMap((s) =>
    s.paths.flatMap((p) => p.ids.flatMap((id, i) => (points.has(id) ? [p.widths?.[i] ?? 1] : []))),
  )
  return found.length > 0 && found.every((w) => w === found[0]) ? nth(found, 0) : null
}
