/**
 * Cut: an area of the selected part is selected by a lasso, by straight stretches, both in one gesture, by a box, or by
 * its colour. Shift adds, Alt takes away, both intersect.
 */
import { Scissors } from 'lucide-react'
import type { SelectionMode } from '@marionette/core/artwork/selection'
import { flatten } from '@marionette/core/geometry/path'
import type { Path, Vec } from '@marionette/core/document/schema'
import { cutSource } from '../../cutting/sending'
import { dropArea, takeColour, takeLoop, takeStretch } from '../../cutting/selecting'
import { modeOf, useCut } from '../../state/cut'
import { selectParts } from '../../state/session'
import { toScreen, type Camera } from '../camera'
import { currentTheme } from '../overlay'
import { partsUnder } from './pick'
import type { Tool, ToolEvent, ToolHost } from './tool'

/** `open` is a loop in work between two presses: it has straight corners, waits for the next, and is closed by hand. */
type State =
  | { at: 'idle' }
  | { at: 'pointing' | 'drawing' | 'open'; loop: number[]; isCornered: boolean; mode: SelectionMode; pointer: Vec }
  | { at: 'boxing'; from: Vec; to: Vec; mode: SelectionMode }

let state: State = { at: 'idle' }
let phase = 0
let marching: ReturnType<typeof setInterval> | undefined

/** Screen distance at which a loop closes on its beginning. */
const CLOSE = 10
const STEP = 2
/** Screen distance at which a line is taken. */
const REACH = 8

function finish(loop: readonly number[], mode: SelectionMode): void {
  state = { at: 'idle' }
  if (loop.length >= 6) void takeLoop(loop, mode)
}

const isAtStart = (loop: readonly number[], at: Vec, host: ToolHost): boolean =>
  loop.length >= 6 && Math.hypot(at.x - loop[0]!, at.y - loop[1]!) <= host.px(CLOSE)

/** Without a selected part the one under the pointer is cut. */
function takeSource(event: ToolEvent, host: ToolHost): boolean {
  if (cutSource() !== null) return true
  const [part] = partsUnder(host, event.at)
  if (part) selectParts(part)
  return part !== undefined
}

function press(event: ToolEvent, host: ToolHost): void {
  if (state.at === 'open') {
    state = { ...state, at: 'pointing', pointer: event.at }
    return
  }
  if (!takeSource(event, host)) return
  const mode = modeOf(event)
  const { by } = useCut.getState()
  const source = cutSource()!
  if (by === 'stretch') void takeStretch(source, event.at, host.px(REACH)).then(host.redraw)
  else if (by === 'colour') void takeColour(source, event.at, mode).then(host.redraw)
  else if (by === 'box') state = { at: 'boxing', from: event.at, to: event.at, mode }
  else state = { at: 'pointing', loop: [event.at.x, event.at.y], isCornered: false, mode, pointer: event.at }
}

function release(event: ToolEvent, host: ToolHost): void {
  if (state.at === 'boxing') {
    const { from, to, mode } = state
    return finish([from.x, from.y, to.x, from.y, to.x, to.y, from.x, to.y], mode)
  }
  if (state.at !== 'pointing' && state.at !== 'drawing') return
  const { loop, mode, at, isCornered } = state
  if (isAtStart(loop, event.at, host)) return finish(loop, mode)
  // A loop drawn in one go closes by itself; a click sets a corner and waits for the next one.
  if (at === 'drawing' && !isCornered) return finish(loop, mode)
  if (at === 'pointing' && isCornered) loop.push(event.at.x, event.at.y)
  state = { at: 'open', loop, isCornered: true, mode, pointer: event.at }
}

export const cutTool: Tool = {
  id: 'cut',
  name: 'Cut',
  icon: Scissors,
  cursor: 'crosshair',
  hint: [
    ['Drag', 'around what is to be cut'],
    ['click', 'for straight corners'],
    ['Shift', 'adds'],
    ['Alt', 'takes away'],
  ],
  pointer(event, host) {
    march(host)
    if (event.type === 'cancel') return this.cancel()
    if (event.type === 'hover' && state.at === 'open') {
      state = { ...state, pointer: event.at }
      return host.redraw()
    }
    if (event.type === 'down') press(event, host)
    else if (event.type === 'move') {
      if (state.at === 'boxing') state = { ...state, to: event.at }
      else if ((state.at === 'pointing' && event.dragging) || state.at === 'drawing') {
        const { loop } = state
        const far = Math.hypot(event.at.x - loop.at(-2)!, event.at.y - loop.at(-1)!)
        if (far >= host.px(STEP)) loop.push(event.at.x, event.at.y)
        state = { ...state, at: 'drawing', pointer: event.at }
      }
    } else if (event.type === 'up') release(event, host)
    host.redraw()
  },
  /** Enter closes a loop of straight corners; Escape lets go of it, then of the selection. */
  key(key, host) {
    if (key === 'Enter' && state.at === 'open') finish(state.loop, state.mode)
    else if (key === 'Escape' && state.at !== 'idle') state = { at: 'idle' }
    else if (key === 'Escape' && (useCut.getState().area || useCut.getState().stretch)) dropArea()
    else return false
    host.redraw()
    return true
  },
  draw(pen, host) {
    march(host)
    const { area, stretch } = useCut.getState()
    if (area) strokeLoops(pen, host.camera, area.paths)
    if (stretch) strokePoints(pen, host.camera, stretch.points, false)
    if (state.at === 'boxing') {
      const { from, to } = state
      strokePoints(pen, host.camera, [from.x, from.y, to.x, from.y, to.x, to.y, from.x, to.y], true)
    } else if (state.at !== 'idle') {
      strokePoints(pen, host.camera, state.at === 'open' ? [...state.loop, state.pointer.x, state.pointer.y] : state.loop, false)
      drawStart(pen, host.camera, state.loop)
    }
  },
  cancel() {
    if (state.at !== 'open') state = { at: 'idle' }
  },
  leave() {
    state = { at: 'idle' }
    dropArea()
    clearInterval(marching)
    marching = undefined
  },
}

/** While something is selected its border marches. */
function march(host: ToolHost): void {
  if (marching) return
  marching = setInterval(() => {
    const { area, stretch } = useCut.getState()
    if (!area && !stretch && state.at === 'idle') return
    phase = (phase + 1) % 12
    host.redraw()
  }, 90)
}

type Pen = CanvasRenderingContext2D

function strokeLoops(pen: Pen, camera: Camera, paths: readonly Path[]): void {
  for (const path of paths) strokePoints(pen, camera, flatten(path, 0.25 / camera.zoom), true)
}

/** A line that is seen on any ground: dark dashes on light ones. */
function strokePoints(pen: Pen, camera: Camera, points: readonly number[], isClosed: boolean): void {
  const { halo, ink } = currentTheme()
  const way = new Path2D()
  for (let i = 0; i < points.length; i += 2) {
    const p = toScreen(camera, { x: points[i]!, y: points[i + 1]! })
    if (i === 0) way.moveTo(p.x, p.y)
    else way.lineTo(p.x, p.y)
  }
  if (isClosed) way.closePath()
  pen.lineWidth = 1.5
  pen.setLineDash([])
  pen.strokeStyle = halo
  pen.stroke(way)
  pen.setLineDash([6, 6])
  pen.lineDashOffset = -phase
  pen.strokeStyle = ink
  pen.stroke(way)
  pen.setLineDash([])
  pen.lineDashOffset = 0
}

function drawStart(pen: Pen, camera: Camera, loop: readonly number[]): void {
  const p = toScreen(camera, { x: loop[0]!, y: loop[1]! })
  pen.beginPath()
  pen.arc(p.x, p.y, 4, 0, 2 * Math.PI)
  pen.fillStyle = currentTheme().panel
  pen.fill()
  pen.strokeStyle = currentTheme().cord
  pen.stroke()
}
