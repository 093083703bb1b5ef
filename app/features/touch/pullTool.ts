/** Soft pull: a spot of the drawing is dragged, and what is near goes along. */
import { Hand } from 'lucide-react'
import { changePaths } from '@marionette/core/artwork/touch/points'
import { softPull } from '@marionette/core/artwork/touch/softPull'
import type { Vec } from '@marionette/core/puppet/schema'
import { caught, touchEdits, touchTarget, type TouchTarget } from './target'
import { beginGesture, cancelGesture, commitGesture, updateGesture } from '../../editor/document'
import { selectParts } from '../../editor/session'
import { useTouch } from './settings'
import { toScreen } from '../../stage/camera'
import { partsUnder } from '../../stage/pick'
import { radiusAfter } from '../../stage/stroke'
import type { Tool } from '../../stage/tool'
import { drawPoints } from './touchMarks'
import { currentTheme } from '../../stage/theme'
import { editorState } from '../../editor/editor'

interface Own {
  pull: { from: Vec; target: TouchTarget } | null
  pointer: Vec | null
}

const stateOf = editorState((): Own => ({ pull: null, pointer: null }))

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
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    own.pointer = event.at
    if (event.type === 'down') {
      if (!touchTarget(host)) {
        const [part] = partsUnder(host, event.at)
        if (part) selectParts(host.editor, part)
      }
      const target = touchTarget(host)
      own.pull = target && { from: event.at, target }
      if (own.pull) beginGesture(host.editor, 'Soft pull')
    } else if (event.type === 'move' && own.pull && event.dragging) {
      const { from, target } = own.pull
      const { radius, falloff } = useTouch.of(host.editor).getState()
      const to = caught(host, event.at, { drawing: true }).at
      const edits = touchEdits(
        host.editor,
        target,
        changePaths(target.posed, (p) => softPull(p, from, radius, falloff, to.x - from.x, to.y - from.y)),
      )
      if (edits) updateGesture(host.editor, edits)
    } else if (event.type === 'up' && own.pull) {
      own.pull = null
      commitGesture(host.editor)
    }
    host.redraw()
  },
  key(key, host) {
    const radius = radiusAfter(key, useTouch.of(host.editor).getState().radius, WIDEST)
    if (radius === null) return false
    useTouch.of(host.editor).setState({ radius })
    host.redraw()
    return true
  },
  draw(pen, host) {
    const own = stateOf(host.editor)
    const target = touchTarget(host)
    if (target) drawPoints(host.editor, pen, host.camera, target.posed, new Set())
    const at = own.pull?.from ?? own.pointer
    if (!at) return
    const p = toScreen(host.camera, at)
    pen.beginPath()
    pen.arc(p.x, p.y, useTouch.of(host.editor).getState().radius * host.camera.zoom, 0, 2 * Math.PI)
    pen.strokeStyle = currentTheme(host.editor).cord
    pen.lineWidth = 1.25
    pen.setLineDash([5, 4])
    pen.stroke()
    pen.setLineDash([])
  },
  leave(editor) {
    const own = stateOf(editor)
    own.pointer = null
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.pull) cancelGesture(editor)
    own.pull = null
  },
}
