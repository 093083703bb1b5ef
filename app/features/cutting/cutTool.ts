/**
 * Cut: an area of the selected part is selected by a lasso, by straight stretches, both in one gesture, by a box, or by
 * its colour. Shift adds, Alt subtracts, both intersect.
 */
import { Scissors } from 'lucide-react'
import type { SelectionMode } from '@marionette/core/artwork/selection'
import { flatten } from '@marionette/core/maths/geometry/path'
import type { Path, Vec } from '@marionette/core/puppet/schema'
import { cutSource } from './source'
import { dropArea, takeColour, takeLoop, takeStretch } from './selecting'
import { modeOf, useCut } from './selection'
import { selectParts } from '../../editor/session'
import { toScreen, type Camera } from '../../stage/camera'
import { partsUnder } from '../../stage/pick'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { currentTheme } from '../../stage/theme'
import { editorState, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

/** `open` is a loop in work between two presses: it has straight corners, waits for the next, and is closed by hand. */
type State =
  | { at: 'idle' }
  | { at: 'pointing' | 'drawing' | 'open'; loop: number[]; isCornered: boolean; mode: SelectionMode; pointer: Vec }
  | { at: 'boxing'; from: Vec; to: Vec; mode: SelectionMode }

interface Own {
  state: State
  phase: number
  marching: ReturnType<typeof setInterval> | undefined
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' }, phase: 0, marching: undefined }))

/** Screen distance at which a loop closes on its beginning. */
const CLOSE = 10
const STEP = 2
/** Screen distance at which a line is taken. */
const REACH = 8

function finish(editor: Editor, loop: readonly number[], mode: SelectionMode): void {
  const own = stateOf(editor)
  own.state = { at: 'idle' }
  if (loop.length >= 6) void takeLoop(editor, loop, mode)
}

const isAtStart = (loop: readonly number[], at: Vec, host: ToolHost): boolean =>
  loop.length >= 6 && Math.hypot(at.x - loop[0]!, at.y - loop[1]!) <= host.px(CLOSE)

/** Without a selected part the one under the pointer is cut. */
function takeSource(event: ToolEvent, host: ToolHost): boolean {
  if (cutSource(host.editor) !== null) return true
  const [part] = partsUnder(host, event.at)
  if (part) selectParts(host.editor, part)
  return part !== undefined
}

function press(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  if (own.state.at === 'open') {
    own.state = { ...own.state, at: 'pointing', pointer: event.at }
    return
  }
  if (!takeSource(event, host)) return
  const mode = modeOf(event)
  const { by } = useCut.of(host.editor).getState()
  const source = sure(cutSource(host.editor))
  if (by === 'stretch') void takeStretch(host.editor, source, event.at, host.px(REACH)).then(host.redraw)
  else if (by === 'colour') void takeColour(host.editor, source, event.at, mode).then(host.redraw)
  else if (by === 'box') own.state = { at: 'boxing', from: event.at, to: event.at, mode }
  else own.state = { at: 'pointing', loop: [event.at.x, event.at.y], isCornered: false, mode, pointer: event.at }
}

function release(event: ToolEvent, host: ToolHost): void {
  const own = stateOf(host.editor)
  if (own.state.at === 'boxing') {
    const { from, to, mode } = own.state
    return finish(host.editor, [from.x, from.y, to.x, from.y, to.x, to.y, from.x, to.y], mode)
  }
  if (own.state.at !== 'pointing' && own.state.at !== 'drawing') return
  const { loop, mode, at, isCornered } = own.state
  if (isAtStart(loop, event.at, host)) return finish(host.editor, loop, mode)
  // A loop drawn in one go closes by itself; a click sets a corner and waits for the next one.
  if (at === 'drawing' && !isCornered) return finish(host.editor, loop, mode)
  if (at === 'pointing' && isCornered) loop.push(event.at.x, event.at.y)
  own.state = { at: 'open', loop, isCornered: true, mode, pointer: event.at }
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
    ['Alt', 'subtracts'],
  ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    march(host)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (event.type === 'hover' && own.state.at === 'open') {
      own.state = { ...own.state, pointer: event.at }
      return host.redraw()
    }
    if (event.type === 'down') press(event, host)
    else if (event.type === 'move') {
      if (own.state.at === 'boxing') own.state = { ...own.state, to: event.at }
      else if ((own.state.at === 'pointing' && event.dragging) || own.state.at === 'drawing') {
        const { loop } = own.state
        const far = Math.hypot(event.at.x - nth(loop, -2), event.at.y - nth(loop, -1))
        if (far >= host.px(STEP)) loop.push(event.at.x, event.at.y)
        own.state = { ...own.state, at: 'drawing', pointer: event.at }
      }
    } else if (event.type === 'up') release(event, host)
    host.redraw()
  },
  /** Enter closes a loop of straight corners; Escape lets go of it, then of the selection. */
  key(key, host) {
    const own = stateOf(host.editor)
    if (key === 'Enter' && own.state.at === 'open') finish(host.editor, own.state.loop, own.state.mode)
    else if (key === 'Escape' && own.state.at !== 'idle') own.state = { at: 'idle' }
    else if (key === 'Escape' && (useCut.of(host.editor).getState().area || useCut.of(host.editor).getState().stretch))
      dropArea(host.editor)
    else return false
    host.redraw()
    return true
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    march(host)
    const { area, stretch } = useCut.of(host.editor).getState()
    if (area) strokeLoops(host.editor, pen, host.camera, area.paths)
    if (stretch) strokePoints(host.editor, pen, host.camera, stretch.points, false)
    if (own.state.at === 'boxing') {
      const { from, to } = own.state
      strokePoints(host.editor, pen, host.camera, [from.x, from.y, to.x, from.y, to.x, to.y, from.x, to.y], true)
    } else if (own.state.at !== 'idle') {
      strokePoints(
        host.editor,
        pen,
        host.camera,
        own.state.at === 'open' ? [...own.state.loop, own.state.pointer.x, own.state.pointer.y] : own.state.loop,
        false,
      )
      drawStart(host.editor, pen, host.camera, own.state.loop)
    }
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at !== 'open') own.state = { at: 'idle' }
  },
  leave(editor) {
    const own = stateOf(editor)
    own.state = { at: 'idle' }
    dropArea(editor)
    clearInterval(own.marching)
    own.marching = undefined
  },
}

/** While something is selected its border marches. */
function march(host: ToolHost): void {
  const own = stateOf(host.editor)
  if (own.marching) return
  own.marching = setInterval(() => {
    const { area, stretch } = useCut.of(host.editor).getState()
    if (!area && !stretch && own.state.at === 'idle') return
    own.phase = (own.phase + 1) % 12
    host.redraw()
  }, 90)
}

type Pen = CanvasRenderingContext2D

function strokeLoops(editor: Editor, pen: Pen, camera: Camera, paths: readonly Path[]): void {
  for (const path of paths) strokePoints(editor, pen, camera, flatten(path, 0.25 / camera.zoom), true)
}

/** A line that is seen on any ground: dark dashes on light ones. */
function strokePoints(editor: Editor, pen: Pen, camera: Camera, points: readonly number[], isClosed: boolean): void {
  const own = stateOf(editor)
  const { halo, ink } = currentTheme(editor)
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
  pen.lineDashOffset = -own.phase
  pen.strokeStyle = ink
  pen.stroke(way)
  pen.setLineDash([])
  pen.lineDashOffset = 0
}

function drawStart(editor: Editor, pen: Pen, camera: Camera, loop: readonly number[]): void {
  const p = toScreen(camera, { x: loop[0]!, y: loop[1]! })
  pen.beginPath()
  pen.arc(p.x, p.y, 4, 0, 2 * Math.PI)
  pen.fillStyle = currentTheme(editor).panel
  pen.fill()
  pen.strokeStyle = currentTheme(editor).cord
  pen.stroke()
}
