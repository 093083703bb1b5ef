/** Select: a click takes the part under the pointer, again the one below it. */
import { MousePointer2 } from 'lucide-react'
import { selectNothing, selectParts, toggleSelected, useSession } from '../../editor/session'
import { markHover, nextPartUnder, partsUnder } from '../../stage/pick'
import type { Tool } from '../../stage/tool'
import { nth, sure } from '@marionette/core/kernel/sure'

export const selectTool: Tool = {
  id: 'select',
  escapeDeselects: true,
  name: 'Select',
  icon: MousePointer2,
  cursor: 'default',
  hint: [
    ['Click', 'selects a part'],
    ['again', 'the one below'],
    ['Shift', 'adds to the selection'],
  ],
  pointer(event, host) {
    const stack = partsUnder(host, event.at)
    if (event.type === 'hover') return markHover(host.editor, 'part', stack[0])
    if (event.type !== 'up' || event.dragging) return
    const { selection } = useSession.of(host.editor).getState()
    if (stack.length === 0) {
      if (!event.shift) selectNothing(host.editor)
    } else if (event.shift) toggleSelected(host.editor, 'part', nth(stack, 0))
    else
      selectParts(
        host.editor,
        sure(nextPartUnder(stack, selection.kind === 'part' && selection.ids.length === 1 ? selection.ids[0] : undefined)),
      )
  },
  cancel(editor) {
    markHover(editor, 'part', undefined)
  },
}
