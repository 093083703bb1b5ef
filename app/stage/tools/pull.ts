/** Soft pull: a spot of the drawing is dragged, and what is near goes along. */
import { Hand } from 'lucide-react'
import { changePaths } from '@marionette/core/artwork/touch/points'
import { softPull } from '@marionette/core/artwork/touch/softPull'
import type { Vec } from '@marionette/core/document/schema'
import { caught, touchEdits, touchTarget, type TouchTarget } from '../../touch/target'
import { beginGesture, cancelGesture, commitGesture, updateGesture } from '../../state/document'
import { selectParts } from '../../state/session'
import { useTouch } from '../../state/touch'
import { toScreen } from '../camera'
import { currentTheme } from '../overlay'
import { partsUnder } from './pick'
import { radiusAfter } from './stroke'
import type { Tool } from './tool'
import { drawPoints } from './touchMarks'

let pull: { from: Vec; target: TouchTarget } | null = null
let pointer: Vec | null = null

/** Largest reach of a pull, canvas px. */
const WIDEST = 2000

export const pullTool: Tool = {
  id: 'pull',
  name: 'Soft pull',
  icon: Hand,
  cursor: 'crosshair',
  hint: [
    ['Drag', 'pulls what is near'],
    ['[ and ]', 'change the reach'],
  ],
  pointer(event, host) {
    if (event.type === 'cancel') return this.cancel()
    pointer = event.at
    if (event.type === 'down') {
      if (!touchTarget(host)) {
        const [part] = partsUnder(host, event.at)
        if (part) selectParts(part)
      }
      const target = touchTarget(host)
      pull = target && { from: event.at, target }
      if (pull) beginGesture('Soft pull')
    } else if (event.type === 'move' && pull && event.dragging) {
      const { from, target } = pull
      const { radius, falloff } = useTouch.getState()
      const to = caught(host, event.at, { drawing: true }).at
      const edits = touchEdits(
        target,
        changePaths(target.posed, (p) => softPull(p, from, radius, falloff, to.x - from.x, to.y - from.y)),
      )
      if (edits) updateGesture(edits)
    } else if (event.type === 'up' && pull) {
      pull = null
      commitGesture()
    }
    host.redraw()
  },
  key(key, host) {
    const radius = radiusAfter(key, useTouch.getState().radius, WIDEST)
    if (radius === null) return false
    useTouch.setState({ radius })
    host.redraw()
    return true
  },
  draw(pen, host) {
    const target = touchTarget(host)
    if (target) drawPoints(pen, host.camera, target.posed, new Set())
    const at = pull?.from ?? pointer
    if (!at) return
    const p = toScreen(host.camera, at)
    pen.beginPath()
    pen.arc(p.x, p.y, useTouch.getState().radius * host.camera.zoom, 0, 2 * Math.PI)
    pen.strokeStyle = currentTheme().cord
    pen.lineWidth = 1.25
    pen.setLineDash([5, 4])
    pen.stroke()
    pen.setLineDash([])
  },
  leave() {
    pointer = null
  },
  cancel() {
    if (pull) cancelGesture()
    pull = null
  },
}
