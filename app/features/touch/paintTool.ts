/** Paint: inks and lines of shapes, the colour under the pointer, and the handles of gradients. */
import { PaintBucket } from 'lucide-react'
import {
  changeShape,
  gradientHandles,
  inked,
  isGradient,
  lined,
  moveGradientHandle,
  type Gradient,
  type GradientHandle,
} from '@marionette/core/artwork/touch/paints'
import type { Affine, Paint, Vec } from '@marionette/core/puppet/schema'
import { changeArt } from '@marionette/core/joints/commands'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { fitAffine } from '@marionette/core/puppet/fit'
import { shapeAt, type ShapeSpot } from '@marionette/core/puppet/probe'
import { pickColour } from './picking'
import { caught, changeRest, currentPaint, selectedDrawing } from './target'
import { beginGesture, cancelGesture, commitGesture, updateGesture } from '../../editor/document'
import { selectParts } from '../../editor/session'
import { useTouch } from './settings'
import { toScreen } from '../../stage/camera'
import { markHover, partsUnder } from '../../stage/pick'
import type { Tool, ToolEvent, ToolHost } from '../../stage/tool'
import { drawHandle } from './touchMarks'
import { edit } from '@marionette/core/kernel/command'
import { drawingOfPart } from '@marionette/core/puppet/rig'
import { partMap } from '@marionette/core/puppet/frame'
import { currentTheme } from '../../stage/theme'
import { editorState } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

const REACH = 9

interface HandleDrag {
  readonly handle: GradientHandle
  readonly paint: Gradient
  readonly back: Affine
  readonly shape: number
}

interface Own {
  drag: HandleDrag | null
}

const stateOf = editorState((): Own => ({ drag: null }))

/** The shape under a spot: of the selected part, or else of the part that lies there, which is then selected. */
function shapeUnder(event: ToolEvent, host: ToolHost): ShapeSpot | null {
  const { frame } = host.model
  const found = selectedDrawing(host.editor)
  const own = found && shapeAt(frame, found.part, event.at.x, event.at.y, host.px(2))
  if (own) return own
  const [part] = partsUnder(host, event.at)
  if (part === undefined) return null
  selectParts(host.editor, part)
  return shapeAt(frame, part, event.at.x, event.at.y, host.px(2))
}

/** From the drawing's space to the canvas, as its gradients go: whole, or by the nearest map where it bends. */
function paintMap(host: ToolHost, { drawing, shape }: ShapeSpot): Affine {
  const { frame } = host.model
  const { part } = nth(frame.rig.drawings, drawing)
  return frame.bent[drawing] === 1 ? fitAffine(frame, drawing, shape) : partMap(frame, part)
}

/** The shape whose gradient shows its handles. */
function chosenGradient(host: ToolHost): { paint: Gradient; map: Affine; shape: number } | null {
  const { shape: id, paintMode } = useTouch.of(host.editor).getState()
  const found = selectedDrawing(host.editor)
  if (paintMode !== 'gradient' || id === null || !found) return null
  const paint = found.drawing.shapes.find((s) => s.id === id)?.ink?.paint
  const { rig } = host.model
  const drawing = drawingOfPart(rig, found.part)
  const shape = rig.drawings[drawing]?.geometry.shapes.find((s) => s.shape.id === id)
  return isGradient(paint) && shape ? { paint, map: paintMap(host, { drawing, shape }), shape: id } : null
}

function handleAt(host: ToolHost, at: Vec): HandleDrag | null {
  const chosen = chosenGradient(host)
  const back = chosen && invert(chosen.map)
  if (!chosen || !back) return null
  for (const { handle, at: spot } of gradientHandles(chosen.paint)) {
    const p = apply(chosen.map, spot)
    if (Math.hypot(p.x - at.x, p.y - at.y) <= host.px(REACH)) return { handle, paint: chosen.paint, back, shape: chosen.shape }
  }
  return null
}

function paintShape(event: ToolEvent, host: ToolHost): void {
  const spot = shapeUnder(event, host)
  if (!spot) return
  const { id } = spot.shape.shape
  const { paintMode, width } = useTouch.of(host.editor).getState()
  useTouch.of(host.editor).setState({ shape: id })
  if (paintMode === 'gradient') return
  const isLine = paintMode === 'line' || event.alt
  const { ink, line } = currentPaint(host.editor, true)
  const paint: Paint | null = (isLine ? line : ink)?.paint ?? null
  changeRest(host.editor, isLine ? 'Paint line' : 'Paint', (d) =>
    changeShape(d, id, (s) => (isLine ? lined(s, paint, width) : inked(s, paint))),
  )
}

export const paintTool: Tool = {
  id: 'paint',
  name: 'Paint',
  icon: PaintBucket,
  cursor: 'crosshair',
  hint: [
    ['Click', 'paints a shape'],
    ['Alt', 'paints its line'],
  ],
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (event.type === 'hover') markHover(host.editor, 'part', partsUnder(host, event.at)[0])
    else if (event.type === 'down') {
      own.drag = handleAt(host, event.at)
      if (own.drag) beginGesture(host.editor, 'Move gradient')
    } else if (event.type === 'move' && own.drag && event.dragging) {
      const { handle, paint, back, shape } = own.drag
      const found = selectedDrawing(host.editor)
      if (!found) return
      const moved = moveGradientHandle(paint, handle, apply(back, caught(host, event.at).at))
      updateGesture(host.editor, [edit(changeArt, { drawings: [changeShape(found.drawing, shape, (s) => inked(s, moved))], pictures: [] })])
    } else if (event.type === 'up') {
      if (own.drag) commitGesture(host.editor)
      else if (!event.dragging && useTouch.of(host.editor).getState().paintMode === 'pick')
        void pickColour(host.editor, event.at, event.alt)
      else if (!event.dragging) paintShape(event, host)
      own.drag = null
    }
    host.redraw()
  },
  draw(pen, host) {
    const chosen = chosenGradient(host)
    if (!chosen) return
    const [a, b] = gradientHandles(chosen.paint).map(({ at }) => toScreen(host.camera, apply(chosen.map, at)))
    drawHandle(host.editor, pen, sure(a), sure(b))
    pen.beginPath()
    pen.arc(sure(a).x, sure(a).y, 5, 0, 2 * Math.PI)
    pen.fillStyle = currentTheme(host.editor).cord
    pen.fill()
  },
  leave(editor) {
    useTouch.of(editor).setState({ shape: null })
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.drag) cancelGesture(editor)
    own.drag = null
  },
}
