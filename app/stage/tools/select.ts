/** Select: a click takes the part under the pointer, again the one below it. */
import { MousePointer2 } from 'lucide-react'
import { NOTHING, selectNothing, selectParts, toggleSelected, useSession } from '../../state/session'
import { nextPartUnder, partsUnder } from './pick'
import type { Tool } from './tool'

function hover(id: string | undefined): void {
  const { hover: before } = useSession.getState()
  if (before.ids[0] === id) return
  useSession.setState({ hover: id === undefined ? NOTHING : { kind: 'part', ids: [id] } })
}

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
    if (event.type === 'hover') return hover(stack[0])
    if (event.type !== 'up' || event.dragging) return
    const { selection } = useSession.getState()
    if (stack.length === 0) {
      if (!event.shift) selectNothing()
    } else if (event.shift) toggleSelected('part', stack[0]!)
    else selectParts(nextPartUnder(stack, selection.kind === 'part' && selection.ids.length === 1 ? selection.ids[0] : undefined)!)
  },
  cancel() {
    hover(undefined)
  },
}
