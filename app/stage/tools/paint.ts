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
import type { Affine, Paint, Vec } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { changeArt } from '@marionette/core/edit/joints'
import { apply, invert } from '@marionette/core/geometry/affine'
import { drawingOfPart } from '@marionette/core/rig/compile'
import { partMap } from '@marionette/core/rig/evaluate'
import { fitAffine } from '@marionette/core/rig/fit'
import { shapeAt, type ShapeSpot } from '@marionette/core/rig/probe'
import { pickColour } from '../../touch/picking'
import { caught, changeRest, currentPaint, selectedDrawing } from '../../touch/target'
import { beginGesture, cancelGesture, commitGesture, updateGesture } from '../../state/document'
import { selectParts } from '../../state/session'
import { useTouch } from '../../state/touch'
import { toScreen } from '../camera'
import { currentTheme } from '../overlay'
import { markHover, partsUnder } from './pick'
import type { Tool, ToolEvent, ToolHost } from './tool'
import { drawHandle } from './touchMarks'

const REACH = 9

let drag: { handle: GradientHandle; paint: Gradient; back: Affine; shape: number } | null = null

/** The shape under a spot: of the selected part, or else of the part that lies there, which is then selected. */
function shapeUnder(event: ToolEvent, host: ToolHost): ShapeSpot | null {
  const { frame } = host.model
  const found = selectedDrawing()
  const own = found && shapeAt(frame, found.part, event.at.x, event.at.y, host.px(2))
  if (own) return own
  const [part] = partsUnder(host, event.at)
  if (part === undefined) return null
  selectParts(part)
  return shapeAt(frame, part, event.at.x, event.at.y, host.px(2))
}

/** From the drawing's space to the canvas, as its gradients go: whole, or by the nearest map where it bends. */
function paintMap(host: ToolHost, { drawing, shape }: ShapeSpot): Affine {
  const { frame } = host.model
  const { part } = frame.rig.drawings[drawing]!
  return frame.bent[drawing] === 1 ? fitAffine(frame, drawing, shape) : partMap(frame, part)
}

/** The shape whose gradient shows its handles. */
function chosenGradient(host: ToolHost): { paint: Gradient; map: Affine; shape: number } | null {
  const { shape: id, paintMode } = useTouch.getState()
  const found = selectedDrawing()
  if (paintMode !== 'gradient' || id === null || !found) return null
  const paint = found.drawing.shapes.find((s) => s.id === id)?.ink?.paint
  const { rig } = host.model
  const drawing = drawingOfPart(rig, found.part)
  const shape = rig.drawings[drawing]?.geometry.shapes.find((s) => s.shape.id === id)
  return isGradient(paint) && shape ? { paint, map: paintMap(host, { drawing, shape }), shape: id } : null
}

function handleAt(host: ToolHost, at: Vec): typeof drag {
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
  const { paintMode, width } = useTouch.getState()
  useTouch.setState({ shape: id })
  if (paintMode === 'gradient') return
  const isLine = paintMode === 'line' || event.alt
  const { ink, line } = currentPaint(true)
  const paint: Paint | null = (isLine ? line : ink)?.paint ?? null
  changeRest(isLine ? 'Paint line' : 'Paint', (d) => changeShape(d, id, (s) => (isLine ? lined(s, paint, width) : inked(s, paint))))
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
    if (event.type === 'cancel') return this.cancel()
    if (event.type === 'hover') markHover('part', partsUnder(host, event.at)[0])
    else if (event.type === 'down') {
      drag = handleAt(host, event.at)
      if (drag) beginGesture('Move gradient')
    } else if (event.type === 'move' && drag && event.dragging) {
      const { handle, paint, back, shape } = drag
      const found = selectedDrawing()
      if (!found) return
      const moved = moveGradientHandle(paint, handle, apply(back, caught(host, event.at).at))
      updateGesture([edit(changeArt, { drawings: [changeShape(found.drawing, shape, (s) => inked(s, moved))], pictures: [] })])
    } else if (event.type === 'up') {
      if (drag) commitGesture()
      else if (!event.dragging && useTouch.getState().paintMode === 'pick') void pickColour(event.at, event.alt)
      else if (!event.dragging) paintShape(event, host)
      drag = null
    }
    host.redraw()
  },
  draw(pen, host) {
    const chosen = chosenGradient(host)
    if (!chosen) return
    const [a, b] = gradientHandles(chosen.paint).map(({ at }) => toScreen(host.camera, apply(chosen.map, at)))
    drawHandle(pen, a!, b!)
    pen.beginPath()
    pen.arc(a!.x, a!.y, 5, 0, 2 * Math.PI)
    pen.fillStyle = currentTheme().cord
    pen.fill()
  },
  leave() {
    useTouch.setState({ shape: null })
  },
  cancel() {
    if (drag) cancelGesture()
    drag = null
  },
}
