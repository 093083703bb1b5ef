/** Pivot: drag the spot where the selected part turns. The part stays where it is. */
import type { Vec } from '@marionette/core/puppet/schema'
import { restMatrix, restPivot } from '@marionette/core/parts/tree'
import { setPivot } from '@marionette/core/parts/commands'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../editor/document'
import { selectNothing, selectParts, useSession } from '../../editor/session'
import { PivotIcon } from '../../ui/icons'
import { caught } from '../touch/target'
import { nextPartUnder, partsUnder } from '../../stage/pick'
import type { Tool, ToolHost } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import { editorState, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

interface Own {
  dragging: string | null
}

const stateOf = editorState((): Own => ({ dragging: null }))

const selectedPart = (editor: Editor): string | null => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' ? (selection.ids[0] ?? null) : null
}

const isOnPivot = (host: ToolHost, part: string, at: Vec): boolean => {
  const pivot = restPivot(openPuppet(host.editor), part)
  return Math.hypot(pivot.x - at.x, pivot.y - at.y) <= host.px(12)
}

export const pivotTool: Tool = {
  id: 'pivot',
  escapeDeselects: true,
  name: 'Pivot',
  icon: PivotIcon,
  cursor: 'default',
  hint: [
    ['Drag the pivot', 'of the selected part'],
    ['click the drawing', 'to select another part'],
  ],
  cursorAt(at, host) {
    const part = selectedPart(host.editor)
    return part && isOnPivot(host, part, at) ? 'move' : null
  },
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'cancel') return this.cancel(host.editor)
    const part = selectedPart(host.editor)
    if (event.type === 'down' && part && isOnPivot(host, part, event.at)) {
      own.dragging = part
      beginGesture(host.editor, `Move pivot of ${partOf(openPuppet(host.editor), part).name}`)
    } else if (event.type === 'move' && own.dragging) {
      const into = invert(restMatrix(sure(useDocument.of(host.editor).getState().history).puppet, own.dragging))
      const pivot = into && apply(into, caught(host, event.at, { pivots: new Set([own.dragging]) }).at)
      if (pivot)
        updateGesture(host.editor, [
          edit(setPivot, { part: own.dragging, pivot: { x: Math.round(pivot.x * 10) / 10, y: Math.round(pivot.y * 10) / 10 } }),
        ])
    } else if (event.type === 'up' && own.dragging) {
      commitGesture(host.editor)
      own.dragging = null
    } else if (event.type === 'up' && !event.dragging) {
      const next = nextPartUnder(partsUnder(host, event.at), part ?? undefined)
      if (next) selectParts(host.editor, next)
      else selectNothing(host.editor)
    }
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.dragging) cancelGesture(editor)
    own.dragging = null
  },
}
