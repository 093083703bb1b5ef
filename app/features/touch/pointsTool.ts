/**
 * Points: anchors and handles of the selected drawing, in the pose that is shown. A drag moves, Alt bends a point or adds
 * one to an outline, an empty drag selects by a box.
 */
import { Waypoints } from 'lucide-react'
import { addPoint, bendPoint, changePaths, deletePoints, moveHandle, movePoints, setWidth } from '@marionette/core/artwork/touch/points'
import { pointsOf } from '@marionette/core/touch/posedPaths'
import { freePointId } from '@marionette/core/artwork/numbering'
import type { Drawing, Path, Vec } from '@marionette/core/puppet/schema'
import { nearestOnPath } from '@marionette/core/maths/geometry/nearest'
import { nth } from '@marionette/core/kernel/sure'
import { caught, changePosed, changeRest, touchEdits, touchTarget, type TouchTarget } from './target'
import { meshTarget, selectedPicture } from './mesh'
import { beginGesture, cancelGesture, commitGesture, updateGesture, useDocument } from '../../editor/document'
import { selectPoints, useTouch } from './settings'
import { toScreen } from '../../stage/camera'
import { deleteFromMesh, drawMesh, dropMesh, editMesh, isMeshHeld, meshCursor, nudgeMesh } from './meshPoints'
import { markHover, partsUnder, selectAnother } from '../../stage/pick'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { drawCatch, drawPoints } from './touchMarks'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

type Grip =
  | { kind: 'points'; id: number }
  | { kind: 'bend'; id: number }
  | { kind: 'handle'; id: number; side: 'in' | 'out' }
  | { kind: 'thickness'; id: number; line: number }

type State =
  | { at: 'idle' }
  | { at: 'pointing'; from: Vec; grip: Grip | null; target: TouchTarget | null }
  | { at: 'dragging'; from: Vec; grip: Grip; target: TouchTarget; catch: Vec | null }
  | { at: 'boxing'; from: Vec; to: Vec; shift: boolean }

interface Own {
  state: State
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' } }))

/** Screen distance within which a point, a handle or an outline is taken. */
const REACH = 9

interface Found {
  readonly path: Path
  readonly i: number
}

const findPoint = (drawing: Drawing, id: number): Found | null => {
  for (const { paths } of drawing.shapes)
    for (const path of paths) {
      const i = path.ids.indexOf(id)
      if (i >= 0) return { path, i }
    }
  return null
}

const anchorOf = ({ path, i }: Found): Vec => ({ x: path.anchors[2 * i]!, y: path.anchors[2 * i + 1]! })
const far = (a: Vec, b: Vec): number => Math.hypot(a.x - b.x, a.y - b.y)

/** The handle of a chosen point, or the point, under a spot. */
function gripAt(target: TouchTarget, at: Vec, host: ToolHost, alt: boolean): Grip | null {
  const reach = host.px(REACH)
  const { points, pointMode } = useTouch.of(host.editor).getState()
  let best: { grip: Grip; far: number } | null = null
  for (const { paths, line } of target.posed.shapes)
    for (const path of paths)
      path.ids.forEach((id, i) => {
        const anchor = anchorOf({ path, i })
        const consider = (grip: Grip, spot: Vec, bias: number): void => {
          const off = far(at, spot)
          if (off <= reach && (!best || off - bias < best.far)) best = { grip, far: off - bias }
        }
        const own: Grip =
          pointMode === 'thickness'
            ? { kind: 'thickness', id, line: line?.width ?? 0 }
            : alt
              ? { kind: 'bend', id }
              : { kind: 'points', id }
        consider(own, anchor, host.px(2))
        if (!points.has(id) || pointMode === 'thickness') return
        for (const [side, k] of [
          ['in', 4 * i],
          ['out', 4 * i + 2],
        ] as const) {
          const [dx, dy] = [path.handles[k]!, path.handles[k + 1]!]
          if (dx !== 0 || dy !== 0) consider({ kind: 'handle', id, side }, { x: anchor.x + dx, y: anchor.y + dy }, 0)
        }
      })
  return (best as { grip: Grip } | null)?.grip ?? null
}

/** Adds a point where an outline is seen to run under the spot; tells whether one does. */
function addAt(target: TouchTarget, at: Vec, host: ToolHost): boolean {
  const spots = target.posed.shapes.flatMap(({ paths }, s) =>
    paths.map((seen, k) => ({ path: nth(nth(target.rest.shapes, s).paths, k), ...nearestOnPath(seen, at.x, at.y) })),
  )
  const best = spots.sort((a, b) => a.distance - b.distance)[0]
  if (!best || best.distance > host.px(REACH)) return false
  const { path, segment } = best
  const id = freePointId(target.rest)
  const share = Math.min(0.98, Math.max(0.02, best.share))
  if (changeRest(host.editor, 'Add point', (d) => changePaths(d, (p) => (p === path ? addPoint(p, segment, share, id) : p))))
    selectPoints(host.editor, [id])
  return true
}

const LABELS: Readonly<Record<Grip['kind'], string>> = {
  points: 'Move points',
  bend: 'Bend point',
  handle: 'Move handle',
  thickness: 'Change thickness',
}

function startDrag(editor: Editor, event: ToolEvent): void {
  const own = stateOf(editor)
  if (own.state.at !== 'pointing') return
  const { grip, target, from } = own.state
  if (!grip || !target) {
    own.state = { at: 'boxing', from, to: event.at, shift: event.shift }
    return
  }
  beginGesture(editor, LABELS[grip.kind])
  own.state = { at: 'dragging', from, grip, target, catch: null }
}

function drag(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  if (own.state.at !== 'dragging') return
  const { grip, target, from } = own.state
  const wanted = draggedTo(event, host, grip, target, from)
  const edits = wanted && touchEdits(host.editor, target, wanted)
  if (edits) updateGesture(host.editor, edits)
}

function draggedTo(event: ToolEvent, host: ToolHost, grip: Grip, { posed, rest, map }: TouchTarget, from: Vec): Drawing | null {
  const own = stateOf(host.editor)
  const found = findPoint(posed, grip.id)
  if (!found || own.state.at !== 'dragging') return null
  const anchor = anchorOf(found)
  const onPath = (change: (path: Path) => Path): Drawing => changePaths(posed, (p) => (p === found.path ? change(p) : p))
  if (grip.kind === 'points') {
    const { points } = useTouch.of(host.editor).getState()
    const goal = { x: anchor.x + event.at.x - from.x, y: anchor.y + event.at.y - from.y }
    const snapped = caught(host, goal, { points })
    own.state = { ...own.state, catch: snapped.by.spot }
    const [dx, dy] = [snapped.at.x - anchor.x, snapped.at.y - anchor.y]
    const all = pointsOf(posed)
    const moved = new Map(
      [...points].flatMap((id) => (all.has(id) ? [[id, { x: sure(all.get(id)).x + dx, y: sure(all.get(id)).y + dy }] as const] : [])),
    )
    return changePaths(posed, (p) => movePoints(p, moved))
  }
  if (grip.kind === 'bend') {
    const [dx, dy] = [event.at.x - anchor.x, event.at.y - anchor.y]
    // Brought back onto itself a point is a corner again.
    return onPath((p) => (Math.hypot(dx, dy) < host.px(5) ? bendPoint(p, found.i, 0, 0) : bendPoint(p, found.i, dx, dy)))
  }
  if (grip.kind === 'handle')
    return onPath((p) => moveHandle(p, found.i, grip.side, event.at.x - anchor.x, event.at.y - anchor.y, event.alt))
  if (grip.line === 0) return null
  const [a, b, c, d] = map.derivative(sure(pointsOf(rest).get(grip.id)))
  // As lines are drawn: wider by the root of how much the area grows.
  const seen = grip.line * Math.sqrt(Math.abs(a * d - b * c))
  return onPath((p) => setWidth(p, found.i, (2 * far(event.at, anchor)) / seen))
}

function press(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  const target = touchTarget(host)
  const grip = target && gripAt(target, event.at, host, event.alt)
  if (target && !grip && event.alt && addAt(target, event.at, host)) return
  const { points } = useTouch.of(host.editor).getState()
  if (grip && grip.kind !== 'handle' && !event.shift && !points.has(grip.id)) selectPoints(host.editor, [grip.id])
  own.state = { at: 'pointing', from: event.at, grip, target }
}

function release(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  const was = own.state
  own.state = { at: 'idle' }
  if (was.at === 'dragging') return commitGesture(host.editor)
  if (was.at === 'boxing') return selectInBox(host, was)
  if (was.at !== 'pointing') return
  const { points } = useTouch.of(host.editor).getState()
  if (was.grip?.kind === 'bend') {
    const { id } = was.grip
    changePosed(host, 'Make corner', (d) => changePaths(d, (p) => (p.ids.includes(id) ? bendPoint(p, p.ids.indexOf(id), 0, 0) : p)))
  } else if (was.grip && event.shift) {
    const next = new Set(points)
    if (!next.delete(was.grip.id)) next.add(was.grip.id)
    selectPoints(host.editor, next)
  } else if (was.grip) selectPoints(host.editor, [was.grip.id])
  else {
    selectPoints(host.editor, [])
    selectAnother(event, host)
  }
}

function selectInBox(host: ToolHost, { from, to, shift }: { from: Vec; to: Vec; shift: boolean }): void {
  const target = touchTarget(host)
  if (!target) return
  const isIn = (v: number, a: number, b: number): boolean => v >= Math.min(a, b) && v <= Math.max(a, b)
  const inside = [...pointsOf(target.posed)].filter(([, p]) => isIn(p.x, from.x, to.x) && isIn(p.y, from.y, to.y)).map(([id]) => id)
  selectPoints(host.editor, shift ? [...useTouch.of(host.editor).getState().points, ...inside] : inside)
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** Moves the selected points by whole px of the canvas; all points where none are selected. */
function nudge(host: ToolHost, dx: number, dy: number): void {
  const { points } = useTouch.of(host.editor).getState()
  changePosed(host, 'Nudge points', (posed) => {
    const all = [...pointsOf(posed)].filter(([id]) => points.size === 0 || points.has(id))
    const moved = new Map(all.map(([id, p]) => [id, { x: p.x + dx, y: p.y + dy }]))
    return changePaths(posed, (p) => movePoints(p, moved))
  })
}

const MESH_HINT: Tool['hint'] = [
  ['Drag', 'a point of the mesh or a box'],
  ['Alt click', 'adds a point'],
  ['Alt drag', 'from point to point joins them'],
  ['Delete', 'takes points or an edge out'],
]

export const pointsTool: Tool = {
  id: 'points',
  name: 'Points',
  icon: Waypoints,
  cursor: 'default',
  hint: [
    ['Drag', 'a point, a handle or a box'],
    ['Alt drag', 'bends a point'],
    ['Alt click', 'adds one to an outline, or makes a corner'],
    ['Arrows', 'nudge'],
  ],
  hintNow: (editor) => (selectedPicture(editor) ? MESH_HINT : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    const mesh = meshTarget(host)
    if (mesh || isMeshHeld(host.editor)) return editMesh(event, host, mesh)
    if (event.type === 'hover') {
      if (!touchTarget(host)) markHover(host.editor, 'part', partsUnder(host, event.at)[0])
      return
    }
    if (event.type === 'down') press(event, host)
    else if (event.type === 'move' && event.dragging) {
      startDrag(host.editor, event)
      if (own.state.at === 'boxing') own.state = { ...own.state, to: event.at }
      else drag(event, host)
    } else if (event.type === 'up') release(event, host)
    host.redraw()
  },
  cursorAt(at, host) {
    const mesh = meshTarget(host)
    if (mesh) return meshCursor(mesh, at, host)
    const target = touchTarget(host)
    return target && gripAt(target, at, host, false) ? 'pointer' : null
  },
  key(key, host, shift) {
    const own = stateOf(host.editor)
    const { points } = useTouch.of(host.editor).getState()
    const arrow = ARROWS[key]
    const mesh = meshTarget(host)
    if (mesh && (key === 'Delete' || key === 'Backspace')) return deleteFromMesh(host.editor)
    if (mesh && arrow) nudgeMesh(host.editor, mesh, arrow[0] * (shift ? 10 : 1), arrow[1] * (shift ? 10 : 1))
    else if (arrow && touchTarget(host)) nudge(host, arrow[0] * (shift ? 10 : 1), arrow[1] * (shift ? 10 : 1))
    else if ((key === 'Delete' || key === 'Backspace') && points.size > 0) deleteSelected(host.editor)
    else if (key === 'Escape' && (points.size > 0 || useTouch.of(host.editor).getState().edge) && own.state.at === 'idle')
      selectPoints(host.editor, [])
    else return false
    host.redraw()
    return true
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    const mesh = meshTarget(host)
    if (mesh) return drawMesh(pen, host, mesh)
    const target = touchTarget(host)
    if (target) drawPoints(host.editor, pen, host.camera, target.posed, useTouch.of(host.editor).getState().points)
    if (own.state.at === 'dragging' && own.state.catch) drawCatch(host.editor, pen, host.camera, own.state.catch)
    if (own.state.at !== 'boxing') return
    const [a, b] = [toScreen(host.camera, own.state.from), toScreen(host.camera, own.state.to)]
    pen.setLineDash([4, 4])
    pen.strokeStyle = currentTheme(host.editor).cord
    pen.lineWidth = 1
    pen.strokeRect(Math.min(a.x, b.x), Math.min(a.y, b.y), Math.abs(b.x - a.x), Math.abs(b.y - a.y))
    pen.setLineDash([])
  },
  leave(editor) {
    selectPoints(editor, [])
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (useDocument.of(editor).getState().gesture !== null && own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
    dropMesh(editor)
  },
}

/** Takes the selected points away; outlines close over them as smoothly as they can. */
export function deleteSelected(editor: Editor): void {
  const { points } = useTouch.of(editor).getState()
  if (changeRest(editor, 'Delete points', (d) => changePaths(d, (p) => deletePoints(p, points)))) selectPoints(editor, [])
}
