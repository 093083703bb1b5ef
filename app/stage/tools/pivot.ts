/** Pivot: drag the spot where the selected part turns. The part stays where it is. */
import type { Vec } from '@marionette/core/document/schema'
import { restMatrix, restPivot } from '@marionette/core/document/tree'
import { edit } from '@marionette/core/edit/command'
import { setPivot } from '@marionette/core/edit/parts'
import { apply, invert } from '@marionette/core/geometry/affine'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../state/document'
import { selectNothing, selectParts, useSession } from '../../state/session'
import { PivotIcon } from '../../ui/icons'
import { caught } from '../../touch/target'
import { nextPartUnder, partsUnder } from './pick'
import type { Tool, ToolHost } from './tool'

let dragging: string | null = null

const selectedPart = (): string | null => {
  const { selection } = useSession.getState()
  return selection.kind === 'part' ? (selection.ids[0] ?? null) : null
}

const isOnPivot = (host: ToolHost, part: string, at: Vec): boolean => {
  const pivot = restPivot(openPuppet(), part)
  return Math.hypot(pivot.x - at.x, pivot.y - at.y) <= host.px(12)
}

export const pivotTool: Tool = {
  id: 'pivot',
  name: 'Pivot',
  icon: PivotIcon,
  cursor: 'default',
  hint: [
    ['Drag the pivot', 'of the selected part'],
    ['click the drawing', 'to select another part'],
  ],
  cursorAt(at, host) {
    const part = selectedPart()
    return part && isOnPivot(host, part, at) ? 'move' : null
  },
  pointer(event, host) {
    if (event.type === 'cancel') return this.cancel()
    const part = selectedPart()
    if (event.type === 'down' && part && isOnPivot(host, part, event.at)) {
      dragging = part
      beginGesture(`Move pivot of ${openPuppet().parts[part]!.name}`)
    } else if (event.type === 'move' && dragging) {
      const into = invert(restMatrix(useDocument.getState().history!.puppet, dragging))
      const pivot = into && apply(into, caught(host, event.at, { pivots: new Set([dragging]) }).at)
      if (pivot)
        updateGesture([edit(setPivot, { part: dragging, pivot: { x: Math.round(pivot.x * 10) / 10, y: Math.round(pivot.y * 10) / 10 } })])
    } else if (event.type === 'up' && dragging) {
      commitGesture()
      dragging = null
    } else if (event.type === 'up' && !event.dragging) {
      const next = nextPartUnder(partsUnder(host, event.at), part ?? undefined)
      if (next) selectParts(next)
      else selectNothing()
    }
  },
  cancel() {
    if (dragging) cancelGesture()
    dragging = null
  },
}
