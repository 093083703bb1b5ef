/** Tools that draw new outlines on the posed puppet: pen, freehand, ovals and boxes. */
import { Circle, PenTool, Pencil } from 'lucide-react'
import { fitPath } from '@marionette/core/artwork/touch/fitCurve'
import { pressedPath } from '@marionette/core/artwork/touch/pressure'
import { boxBetween, boxPath, ovalPath } from '@marionette/core/artwork/touch/primitives'
import type { Path, Vec } from '@marionette/core/puppet/schema'
import { addOutline, caught } from './target'
import { useTouch } from './settings'
import { toScreen, type Camera } from '../../stage/camera'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { drawCatch, drawHandle, strokePath } from './touchMarks'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

interface PenPoint {
  readonly at: Vec
  /** The outgoing handle; the incoming one mirrors it. */
  readonly dx: number
  readonly dy: number
}

/** Screen distance at which an outline closes on its beginning. */
const CLOSE = 10

const penPath = (points: readonly PenPoint[], closed: boolean): Path => ({
  closed,
  ids: points.map((_, i) => i),
  anchors: points.flatMap(({ at }) => [at.x, at.y]),
  handles: points.flatMap(({ dx, dy }) => [-dx || 0, -dy || 0, dx, dy]),
})

interface Own {
  penPoints: PenPoint[]
  isPulling: boolean
  pointer: Vec | null
  /** The line of a freehand stroke, [x, y] for each spot, and what a pen pressed there. */
  stroke: number[]
  pressures: number[]
  figure: { from: Vec; to: Vec } | null
  held: { shift: boolean; alt: boolean }
}

const stateOf = editorState((): Own => ({
  penPoints: [],
  isPulling: false,
  pointer: null,
  stroke: [],
  pressures: [],
  figure: null,
  held: { shift: false, alt: false },
}))

function finishPen(host: ToolHost, closed: boolean): void {
  const own = stateOf(host.editor)
  const points = own.penPoints
  own.penPoints = []
  own.isPulling = false
  if (points.length >= (closed ? 3 : 2)) addOutline(host, 'Draw outline', penPath(points, closed))
  host.redraw()
}

function isAtStart(at: Vec, host: ToolHost): boolean {
  const { penPoints } = stateOf(host.editor)
  return penPoints.length >= 3 && Math.hypot(at.x - nth(penPoints, 0).at.x, at.y - nth(penPoints, 0).at.y) <= host.px(CLOSE)
}

export const penTool: Tool = {
  id: 'pen',
  name: 'Pen',
  icon: PenTool,
  cursor: 'crosshair',
  hint: [
    ['Click', 'for corners'],
    ['drag', 'for curves'],
    ['the first point', 'closes'],
    ['Enter', 'ends it open'],
  ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    const spot = caught(host, event.at).at
    own.pointer = spot
    if (event.type === 'down') {
      if (isAtStart(event.at, host)) return finishPen(host, true)
      own.penPoints = [...own.penPoints, { at: spot, dx: 0, dy: 0 }]
      own.isPulling = true
    } else if (event.type === 'move' && own.isPulling && event.dragging) {
      const { at } = nth(own.penPoints, -1)
      own.penPoints = [...own.penPoints.slice(0, -1), { at, dx: event.at.x - at.x, dy: event.at.y - at.y }]
    } else if (event.type === 'up') own.isPulling = false
    host.redraw()
  },
  key(key, host) {
    const own = stateOf(host.editor)
    if (own.penPoints.length === 0) return false
    if (key === 'Enter') finishPen(host, false)
    else if (key === 'Escape') own.penPoints = []
    else if (key === 'Backspace') own.penPoints = own.penPoints.slice(0, -1)
    else return false
    host.redraw()
    return true
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    if (own.penPoints.length === 0) return
    const { cord } = currentTheme(host.editor)
    const preview = own.pointer && !own.isPulling ? [...own.penPoints, { at: own.pointer, dx: 0, dy: 0 }] : own.penPoints
    if (preview.length > 1) strokePath(host.editor, pen, host.camera, penPath(preview, false), cord, 1.5)
    for (const { at, dx, dy } of own.penPoints) {
      const from = toScreen(host.camera, at)
      if (dx !== 0 || dy !== 0) {
        drawHandle(host.editor, pen, from, toScreen(host.camera, { x: at.x + dx, y: at.y + dy }))
        drawHandle(host.editor, pen, from, toScreen(host.camera, { x: at.x - dx, y: at.y - dy }))
      }
      pen.fillStyle = cord
      pen.fillRect(from.x - 2.5, from.y - 2.5, 5, 5)
    }
    if (own.pointer && isAtStart(own.pointer, host)) drawCatch(host.editor, pen, host.camera, nth(own.penPoints, 0).at)
  },
  leave(editor) {
    const own = stateOf(editor)
    own.penPoints = []
    own.pointer = null
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.isPulling = false
  },
}

/** Ends of a drawn line that are this near are made one, screen px. */
const MEET = 14

function finishStroke(host: ToolHost): void {
  const own = stateOf(host.editor)
  const { stroke: line, pressures } = own
  own.stroke = []
  own.pressures = []
  const { tolerance, closes } = useTouch.of(host.editor).getState()
  // What the hand shakes depends on the screen, whatever the zoom.
  const path = fitPath(line, { tolerance: tolerance * host.px(1), closing: closes ? host.px(MEET) : 0, firstId: 0 })
  if (!path) return
  let free = path.ids.length
  addOutline(host, 'Draw freehand', pressures.length > 0 ? pressedPath(path, line, pressures, () => free++) : path)
}

export const freehandTool: Tool = {
  id: 'freehand',
  name: 'Freehand',
  icon: Pencil,
  cursor: 'crosshair',
  hint: [
    ['Drag', 'to draw'],
    ['Ends that meet', 'are closed'],
  ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    const end = event.type === 'move' ? event.at : caught(host, event.at).at
    if (event.type === 'down') {
      own.stroke = [end.x, end.y]
      own.pressures = event.pressure === null ? [] : [event.pressure]
    } else if (event.type === 'move' && own.stroke.length > 0) {
      own.stroke.push(event.at.x, event.at.y)
      if (event.pressure !== null) own.pressures.push(event.pressure)
    } else if (event.type === 'up') {
      own.stroke.push(end.x, end.y)
      // A pen that has left the paper presses no more.
      if (event.pressure !== null) own.pressures.push(nth(own.pressures, -1))
      finishStroke(host)
    }
    host.redraw()
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    if (own.stroke.length > 2) strokeLine(host.editor, pen, host.camera, own)
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.stroke = []
    own.pressures = []
  },
}

/** The line as it is being drawn, thicker where a pen presses more. */
function strokeLine(editor: Editor, pen: CanvasRenderingContext2D, camera: Camera, { stroke, pressures }: Own): void {
  const spots = Array.from({ length: stroke.length / 2 }, (_, i) => toScreen(camera, { x: nth(stroke, 2 * i), y: nth(stroke, 2 * i + 1) }))
  pen.strokeStyle = currentTheme(editor).cord
  pen.lineJoin = pen.lineCap = 'round'
  const through = (line: readonly Vec[], width: number): void => {
    pen.beginPath()
    line.forEach((p, i) => (i === 0 ? pen.moveTo(p.x, p.y) : pen.lineTo(p.x, p.y)))
    pen.lineWidth = width
    pen.stroke()
  }
  if (pressures.length === 0) through(spots, 2)
  else
    for (let i = 1; i < spots.length; i++)
      through([nth(spots, i - 1), nth(spots, i)], 1 + 4 * nth(pressures, Math.min(i, pressures.length - 1)))
}

/** The outline between two corners; Shift makes it as wide as high, Alt begins at its middle. */
function figureBetween(editor: Editor, { from, to }: { from: Vec; to: Vec }, { shift, alt }: Pick<ToolEvent, 'shift' | 'alt'>): Path {
  let [dx, dy] = [to.x - from.x, to.y - from.y]
  if (shift) {
    const side = Math.max(Math.abs(dx), Math.abs(dy))
    ;[dx, dy] = [Math.sign(dx || 1) * side, Math.sign(dy || 1) * side]
  }
  const box = alt ? boxBetween(from.x - dx, from.y - dy, from.x + dx, from.y + dy) : boxBetween(from.x, from.y, from.x + dx, from.y + dy)
  return useTouch.of(editor).getState().figure === 'oval' ? ovalPath(box, 0) : boxPath(box, 0)
}

export const figureTool: Tool = {
  id: 'figure',
  name: 'Oval and box',
  icon: Circle,
  cursor: 'crosshair',
  hint: [
    ['Drag', 'from corner to corner'],
    ['Shift', 'as wide as high'],
    ['Alt', 'from the middle'],
  ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    own.held = { shift: event.shift, alt: event.alt }
    const spot = caught(host, event.at).at
    if (event.type === 'down') own.figure = { from: spot, to: spot }
    else if (event.type === 'move' && own.figure) own.figure = { ...own.figure, to: spot }
    else if (event.type === 'up' && own.figure) {
      const drawn = own.figure
      own.figure = null
      if (Math.min(Math.abs(drawn.to.x - drawn.from.x), Math.abs(drawn.to.y - drawn.from.y)) >= host.px(3))
        addOutline(
          host,
          useTouch.of(host.editor).getState().figure === 'oval' ? 'Draw oval' : 'Draw box',
          figureBetween(host.editor, drawn, event),
        )
    }
    host.redraw()
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    if (own.figure)
      strokePath(host.editor, pen, host.camera, figureBetween(host.editor, own.figure, own.held), currentTheme(host.editor).cord, 1.5)
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.figure = null
  },
}
