/** Over the artwork: the ground line, and the frame of the camera. */
import { cameraIn } from '@marionette/core/staging/channels'
import type { Camera as Shot } from '@marionette/core/staging/records'
import { useDocument } from '../../editor/document'
import { liveValues, onLive } from '../../editor/live'
import type { Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import { toScreen } from '../../stage/camera'
import type { Mark } from '../../stage/marks'
import { handlesOf, KNOB } from './cameraTool'
import { nth } from '@marionette/core/kernel/sure'

/** The camera as it is seen just now: as it is posed, and as what plays moves it. */
export function shotNow(editor: Editor): Shot | null {
  const { puppet } = useDocument.of(editor).getState()
  return puppet?.stage.camera ? cameraIn(puppet, { ...puppet.pose, ...liveValues(editor) }) : null
}

const isStage = (editor: Editor): boolean => ['rehearse', 'send'].includes(useSession.of(editor).getState().bench)

export const groundMark: Mark = {
  layer: 'below',
  draw(editor, pen, camera, model, colours) {
    const { ground } = model.rig.puppet.stage
    if (ground === null || !isStage(editor)) return
    const { y } = toScreen(camera, { x: 0, y: ground })
    pen.strokeStyle = colours.ink
    pen.globalAlpha = 0.45
    pen.lineWidth = 1.25
    pen.beginPath()
    pen.moveTo(0, y)
    pen.lineTo(pen.canvas.width, y)
    pen.stroke()
    pen.globalAlpha = 1
  },
}

export const cameraMark: Mark = {
  layer: 'above',
  watch: (editor, redraw) => onLive(editor, redraw),
  draw(editor, pen, camera, _, colours) {
    const shot = isStage(editor) ? shotNow(editor) : null
    if (!shot) return
    const isHeld = useSession.of(editor).getState().tools[useSession.of(editor).getState().bench] === 'camera'
    const { corners, knob, top } = handlesOf(shot, KNOB / camera.zoom)
    const at = corners.map((corner) => toScreen(camera, corner))
    pen.strokeStyle = isHeld ? colours.cord : colours.ink
    pen.lineWidth = isHeld ? 1.75 : 1.25
    pen.setLineDash(isHeld ? [] : [7, 5])
    pen.beginPath()
    at.forEach((p, k) => (k === 0 ? pen.moveTo(p.x, p.y) : pen.lineTo(p.x, p.y)))
    pen.closePath()
    pen.stroke()
    pen.setLineDash([])
    if (!isHeld) return
    const [from, to] = [toScreen(camera, top), toScreen(camera, knob)]
    pen.beginPath()
    pen.moveTo(from.x, from.y)
    pen.lineTo(to.x, to.y)
    pen.stroke()
    pen.fillStyle = colours.panel
    for (const p of [...at, to]) {
      pen.beginPath()
      if (p === to) pen.arc(p.x, p.y, 5, 0, 2 * Math.PI)
      else pen.rect(p.x - 4, p.y - 4, 8, 8)
      pen.fill()
      pen.stroke()
    }
    const name = nth(at, 3)
    pen.fillStyle = colours.cord
    pen.font = '600 12px "Instrument Sans Variable", sans-serif'
    const text = `Camera ${Math.round(shot.zoom * 100)}%`
    pen.strokeStyle = colours.halo
    pen.lineWidth = 3
    pen.lineJoin = 'round'
    pen.strokeText(text, name.x + 6, name.y - 7)
    pen.fillText(text, name.x + 6, name.y - 7)
  },
}
