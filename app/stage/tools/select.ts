/** Select: a click takes the part under the pointer, again the one below it. */
import { MousePointer2 } from 'lucide-react'
import { selectNothing, selectParts, toggleSelected, useSession } from '../../state/session'
import { markHover, nextPartUnder, partsUnder } from './pick'
import type { Tool } from './tool'

export const selectTool: Tool = {
  id: 'select',
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
    if (event.type === 'hover') return markHover('part', stack[0])
    if (event.type !== 'up' || event.dragging) return
    const { selection } = useSession.getState()
    if (stack.length === 0) {
      if (!event.shift) selectNothing()
    } else if (event.shift) toggleSelected('part', stack[0]!)
    else selectParts(nextPartUnder(stack, selection.kind === 'part' && selection.ids.length === 1 ? selection.ids[0] : undefined)!)
  },
  cancel() {
    markHover('part', undefined)
  },
}
