/** Points and edges of a picture's mesh, worked on in the pose that is shown. */
import { addMeshPoint, joinMeshPoints, meshEdges } from '@marionette/core/meshing/edit'
import type { Vec } from '@marionette/core/puppet/schema'
import { distanceToPolyline } from '@marionette/core/maths/geometry/polyline'
import { changeMesh, chosenVertices, deleteChosen, meshEditOf, movedMesh, type MeshTarget } from './mesh'
import { beginGesture, cancelGesture, commitGesture, perform, updateGesture } from '../../editor/document'
import { selectPoints, useTouch } from './settings'
import { toScreen } from '../../stage/camera'
import { selectAnother } from '../../stage/pick'
import type { ToolEvent, ToolHost } from '../../stage/tool'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

type State =
  | { at: 'idle' }
  | { at: 'pointing'; from: Vec; point: number | null; alt: boolean }
  | { at: 'moving'; from: Vec; target: MeshTarget }
  | { at: 'joining'; point: number; to: Vec }
  | { at: 'boxing'; from: Vec; to: Vec; shift: boolean }

interface Own {
  state: State
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' } }))

/** Screen distance within which a point or an edge is taken. */
const REACH = 8
const EDGE_REACH = 5

const spotOf = ({ posed }: MeshTarget, v: number): Vec => ({ x: posed[2 * v]!, y: posed[2 * v + 1]! })

function pointAt(target: MeshTarget, at: Vec, host: ToolHost): number | null {
  let best: number | null = null
  let least = host.px(REACH)
  for (let v = 0; v < target.posed.length / 2; v++) {
    const p = spotOf(target, v)
    const far = Math.hypot(p.x - at.x, p.y - at.y)
    if (far > least) continue
    least = far
    best = v
  }
  return best
}

function edgeAt(target: MeshTarget, at: Vec, host: ToolHost): [number, number] | null {
  let best: [number, number] | null = null
  let least = host.px(EDGE_REACH)
  for (const key of meshEdges(target.picture.mesh)) {
    const [a, b] = key.split(',').map(Number) as [number, number]
    const [p, q] = [spotOf(target, a), spotOf(target, b)]
    const far = distanceToPolyline([p.x, p.y, q.x, q.y], false, at.x, at.y)
    if (far > least) continue
    least = far
    best = [a, b]
  }
  return best
}

export const isMeshHeld = (editor: Editor): boolean => stateOf(editor).state.at !== 'idle'
export const meshCursor = (target: MeshTarget, at: Vec, host: ToolHost): string | null =>
  pointAt(target, at, host) === null ? null : 'pointer'

/** A press, move or release of the pointer over the mesh. */
export function editMesh(event: ToolEvent, host: ToolHost, target: MeshTarget | null): void {
  if (!target) return dropMesh(host.editor)
  if (event.type === 'down') press(event, host, target)
  else if (event.type === 'move' && event.dragging) drag(host.editor, event, target)
  else if (event.type === 'up') release(event, host, target)
  host.redraw()
}

function press(event: ToolEvent, host: ToolHost, target: MeshTarget): void {
  const own = stateOf(host.editor)
  const point = pointAt(target, event.at, host)
  const { points } = useTouch.of(host.editor).getState()
  if (point !== null && !event.alt && !event.shift && !points.has(point)) selectPoints(host.editor, [point])
  own.state = { at: 'pointing', from: event.at, point, alt: event.alt }
}

function drag(editor: Editor, event: ToolEvent, target: MeshTarget): void {
  const own = stateOf(editor)
  if (own.state.at === 'pointing') {
    const { from, point, alt } = own.state
    if (point !== null && alt) own.state = { at: 'joining', point, to: event.at }
    else if (point !== null) {
      beginGesture(editor, 'Move points of the mesh')
      own.state = { at: 'moving', from, target }
    } else own.state = { at: 'boxing', from, to: event.at, shift: event.shift }
  }
  if (own.state.at === 'joining' || own.state.at === 'boxing') own.state = { ...own.state, to: event.at }
  if (own.state.at !== 'moving') return
  const { from, target: held } = own.state
  const [dx, dy] = [event.at.x - from.x, event.at.y - from.y]
  const wanted = new Map(
    chosenVertices(editor, held.picture.mesh).map((v) => [v, { x: held.posed[2 * v]! + dx, y: held.posed[2 * v + 1]! + dy }]),
  )
  const mesh = movedMesh(held, wanted)
  if (mesh) updateGesture(editor, [meshEditOf(target.picture, mesh)])
}

function release(event: ToolEvent, host: ToolHost, target: MeshTarget): void {
  const own = stateOf(host.editor)
  const was = own.state
  own.state = { at: 'idle' }
  if (was.at === 'moving') return commitGesture(host.editor)
  if (was.at === 'boxing') return selectInBox(host.editor, target, was)
  if (was.at === 'joining') {
    const to = pointAt(target, event.at, host)
    if (to !== null && to !== was.point) changeMesh(host.editor, 'Join points of the mesh', (mesh) => joinMeshPoints(mesh, was.point, to))
    return
  }
  if (was.at !== 'pointing') return
  if (was.point !== null) return choose(host.editor, was.point, event.shift)
  if (was.alt) return addAt(host.editor, event, target)
  const edge = edgeAt(target, event.at, host)
  selectPoints(host.editor, [])
  if (edge) useTouch.of(host.editor).setState({ edge })
  else {
    selectPoints(host.editor, [])
    selectAnother(event, host)
  }
}

function choose(editor: Editor, point: number, shift: boolean): void {
  if (!shift) return selectPoints(editor, [point])
  const next = new Set(useTouch.of(editor).getState().points)
  if (!next.delete(point)) next.add(point)
  selectPoints(editor, next)
}

/** Puts a point into the mesh, or lets it grow to one outside. */
function addAt(editor: Editor, event: ToolEvent, { map }: MeshTarget): void {
  const at = map.toPart(event.at)
  let point = -1
  if (!at) return
  changeMesh(editor, 'Add point to the mesh', (mesh) => {
    const added = addMeshPoint(mesh, at.x, at.y)
    point = added.point
    return added.mesh
  })
  if (point >= 0) selectPoints(editor, [point])
}

function selectInBox(editor: Editor, target: MeshTarget, { from, to, shift }: Extract<State, { at: 'boxing' }>): void {
  const isIn = (v: number, a: number, b: number): boolean => v >= Math.min(a, b) && v <= Math.max(a, b)
  const inside = Array.from({ length: target.posed.length / 2 }, (_, v) => v).filter((v) => {
    const p = spotOf(target, v)
    return isIn(p.x, from.x, to.x) && isIn(p.y, from.y, to.y)
  })
  selectPoints(editor, shift ? [...useTouch.of(editor).getState().points, ...inside] : inside)
}

export const deleteFromMesh = (editor: Editor): boolean => deleteChosen(editor)

/** Moves the chosen points by px of the canvas. */
export function nudgeMesh(editor: Editor, target: MeshTarget, dx: number, dy: number): void {
  const wanted = new Map(
    chosenVertices(editor, target.picture.mesh).map((v) => [v, { x: target.posed[2 * v]! + dx, y: target.posed[2 * v + 1]! + dy }]),
  )
  const mesh = wanted.size > 0 ? movedMesh(target, wanted) : null
  if (mesh) perform(editor, [meshEditOf(target.picture, mesh)], 'Nudge points of the mesh')
}

/** All edges thin, points as dots, the chosen ones in the colour of what is alive. */
export function drawMesh(pen: CanvasRenderingContext2D, host: ToolHost, target: MeshTarget): void {
  const { cord, halo, verdigris } = currentTheme(host.editor)
  const { edge } = useTouch.of(host.editor).getState()
  const chosen = new Set(chosenVertices(host.editor, target.picture.mesh))
  const spots = Array.from({ length: target.posed.length / 2 }, (_, v) => toScreen(host.camera, spotOf(target, v)))
  const lines = new Path2D()
  for (const key of meshEdges(target.picture.mesh)) {
    const [a, b] = key.split(',').map(Number) as [number, number]
    lines.moveTo(nth(spots, a).x, nth(spots, a).y)
    lines.lineTo(nth(spots, b).x, nth(spots, b).y)
  }
  strokeLines(pen, lines, halo, 2, 0.35)
  strokeLines(pen, lines, verdigris, 0.9, 0.85)
  if (edge && spots[edge[0]] && spots[edge[1]]) {
    const one = new Path2D()
    one.moveTo(nth(spots, edge[0]).x, nth(spots, edge[0]).y)
    one.lineTo(nth(spots, edge[1]).x, nth(spots, edge[1]).y)
    strokeLines(pen, one, cord, 2.5, 1)
  }
  // Dots of a fine mesh leave the picture in sight.
  const size = Math.min(2.75, Math.max(1, 0.12 * target.picture.mesh.spacing * host.camera.zoom))
  spots.forEach((p, v) => {
    pen.beginPath()
    pen.arc(p.x, p.y, chosen.has(v) ? 4.5 : size, 0, 2 * Math.PI)
    pen.fillStyle = chosen.has(v) ? cord : verdigris
    pen.strokeStyle = halo
    pen.lineWidth = chosen.has(v) ? 1.25 : 0.5
    pen.fill()
    pen.stroke()
  })
  drawGesture(pen, host, target)
}

function drawGesture(pen: CanvasRenderingContext2D, host: ToolHost, target: MeshTarget): void {
  const own = stateOf(host.editor)
  if (own.state.at !== 'joining' && own.state.at !== 'boxing') return
  const [a, b] = [own.state.at === 'joining' ? spotOf(target, own.state.point) : own.state.from, own.state.to].map((p) =>
    toScreen(host.camera, p),
  )
  const path = new Path2D()
  if (own.state.at === 'boxing')
    path.rect(
      Math.min(sure(a).x, sure(b).x),
      Math.min(sure(a).y, sure(b).y),
      Math.abs(sure(b).x - sure(a).x),
      Math.abs(sure(b).y - sure(a).y),
    )
  else {
    path.moveTo(sure(a).x, sure(a).y)
    path.lineTo(sure(b).x, sure(b).y)
  }
  pen.setLineDash([4, 4])
  strokeLines(pen, path, currentTheme(host.editor).cord, 1.25, 1)
  pen.setLineDash([])
}

function strokeLines(pen: CanvasRenderingContext2D, path: Path2D, colour: string, width: number, alpha: number): void {
  pen.globalAlpha = alpha
  pen.strokeStyle = colour
  pen.lineWidth = width
  pen.stroke(path)
  pen.globalAlpha = 1
}

/** Ends what is in progress. */
export function dropMesh(editor: Editor): void {
  const own = stateOf(editor)
  if (own.state.at === 'moving') cancelGesture(editor)
  own.state = { at: 'idle' }
}
