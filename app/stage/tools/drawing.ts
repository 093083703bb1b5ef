/** Tools that draw new outlines on the posed puppet: pen, freehand, ovals and boxes. */
import { Circle, PenTool, Pencil } from 'lucide-react'
import { fitPath } from '@marionette/core/artwork/touch/fitCurve'
import { boxBetween, boxPath, ovalPath } from '@marionette/core/artwork/touch/primitives'
import type { Path, Vec } from '@marionette/core/document/schema'
import { addOutline, caught } from '../../touch/target'
import { useTouch } from '../../state/touch'
import { toScreen, type Camera } from '../camera'
import { currentTheme } from '../overlay'
import type { Tool, ToolEvent, ToolHost } from './tool'
import { drawCatch, drawHandle, strokePath } from './touchMarks'

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

let penPoints: PenPoint[] = []
let isPulling = false
let pointer: Vec | null = null

function finishPen(host: ToolHost, closed: boolean): void {
  const points = penPoints
  penPoints = []
  isPulling = false
  if (points.length >= (closed ? 3 : 2)) addOutline(host, 'Draw outline', penPath(points, closed))
  host.redraw()
}

const isAtStart = (at: Vec, host: ToolHost): boolean =>
  penPoints.length >= 3 && Math.hypot(at.x - penPoints[0]!.at.x, at.y - penPoints[0]!.at.y) <= host.px(CLOSE)

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
    if (event.type === 'cancel') return this.cancel()
    const spot = caught(host, event.at).at
    pointer = spot
    if (event.type === 'down') {
      if (isAtStart(event.at, host)) return finishPen(host, true)
      penPoints = [...penPoints, { at: spot, dx: 0, dy: 0 }]
      isPulling = true
    } else if (event.type === 'move' && isPulling && event.dragging) {
      const { at } = penPoints.at(-1)!
      penPoints = [...penPoints.slice(0, -1), { at, dx: event.at.x - at.x, dy: event.at.y - at.y }]
    } else if (event.type === 'up') isPulling = false
    host.redraw()
  },
  key(key, host) {
    if (penPoints.length === 0) return false
    if (key === 'Enter') finishPen(host, false)
    else if (key === 'Escape') penPoints = []
    else if (key === 'Backspace') penPoints = penPoints.slice(0, -1)
    else return false
    host.redraw()
    return true
  },
  draw(pen, host) {
    if (penPoints.length === 0) return
    const { cord } = currentTheme()
    const preview = pointer && !isPulling ? [...penPoints, { at: pointer, dx: 0, dy: 0 }] : penPoints
    if (preview.length > 1) strokePath(pen, host.camera, penPath(preview, false), cord, 1.5)
    for (const { at, dx, dy } of penPoints) {
      const from = toScreen(host.camera, at)
      if (dx !== 0 || dy !== 0) {
        drawHandle(pen, from, toScreen(host.camera, { x: at.x + dx, y: at.y + dy }))
        drawHandle(pen, from, toScreen(host.camera, { x: at.x - dx, y: at.y - dy }))
      }
      pen.fillStyle = cord
      pen.fillRect(from.x - 2.5, from.y - 2.5, 5, 5)
    }
    if (pointer && isAtStart(pointer, host)) drawCatch(pen, host.camera, penPoints[0]!.at)
  },
  leave() {
    penPoints = []
    pointer = null
  },
  cancel() {
    isPulling = false
  },
}

let stroke: number[] = []

/** Ends of a drawn line that are this near are made one, screen px. */
const MEET = 14

function finishStroke(host: ToolHost): void {
  const line = stroke
  stroke = []
  const { tolerance, closes } = useTouch.getState()
  // What the hand shakes depends on the screen, whatever the zoom.
  const path = fitPath(line, { tolerance: tolerance * host.px(1), closing: closes ? host.px(MEET) : 0, firstId: 0 })
  if (path) addOutline(host, 'Draw freehand', path)
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
    if (event.type === 'cancel') return this.cancel()
    const end = event.type === 'move' ? event.at : caught(host, event.at).at
    if (event.type === 'down') stroke = [end.x, end.y]
    else if (event.type === 'move' && stroke.length > 0) stroke.push(event.at.x, event.at.y)
    else if (event.type === 'up') {
      stroke.push(end.x, end.y)
      finishStroke(host)
    }
    host.redraw()
  },
  draw(pen, host) {
    if (stroke.length > 2) strokeLine(pen, host.camera, stroke)
  },
  cancel() {
    stroke = []
  },
}

function strokeLine(pen: CanvasRenderingContext2D, camera: Camera, line: readonly number[]): void {
  pen.beginPath()
  for (let i = 0; i < line.length; i += 2) {
    const p = toScreen(camera, { x: line[i]!, y: line[i + 1]! })
    if (i === 0) pen.moveTo(p.x, p.y)
    else pen.lineTo(p.x, p.y)
  }
  pen.strokeStyle = currentTheme().cord
  pen.lineWidth = 2
  pen.lineJoin = 'round'
  pen.stroke()
}

let figure: { from: Vec; to: Vec } | null = null

/** The outline between two corners; Shift makes it as wide as high, Alt begins at its middle. */
function figureBetween({ from, to }: { from: Vec; to: Vec }, { shift, alt }: Pick<ToolEvent, 'shift' | 'alt'>): Path {
  let [dx, dy] = [to.x - from.x, to.y - from.y]
  if (shift) {
    const side = Math.max(Math.abs(dx), Math.abs(dy))
    ;[dx, dy] = [Math.sign(dx || 1) * side, Math.sign(dy || 1) * side]
  }
  const box = alt ? boxBetween(from.x - dx, from.y - dy, from.x + dx, from.y + dy) : boxBetween(from.x, from.y, from.x + dx, from.y + dy)
  return useTouch.getState().figure === 'oval' ? ovalPath(box, 0) : boxPath(box, 0)
}

let held = { shift: false, alt: false }

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
    if (event.type === 'cancel') return this.cancel()
    held = { shift: event.shift, alt: event.alt }
    const spot = caught(host, event.at).at
    if (event.type === 'down') figure = { from: spot, to: spot }
    else if (event.type === 'move' && figure) figure = { ...figure, to: spot }
    else if (event.type === 'up' && figure) {
      const drawn = figure
      figure = null
      if (Math.min(Math.abs(drawn.to.x - drawn.from.x), Math.abs(drawn.to.y - drawn.from.y)) >= host.px(3))
        addOutline(host, useTouch.getState().figure === 'oval' ? 'Draw oval' : 'Draw box', figureBetween(drawn, event))
    }
    host.redraw()
  },
  draw(pen, host) {
    if (figure) strokePath(pen, host.camera, figureBetween(figure, held), currentTheme().cord, 1.5)
  },
  cancel() {
    figure = null
  },
}
