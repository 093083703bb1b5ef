/** Mask: with a part selected, a click on another one lets the first show only where that one is. */
import { Blend } from 'lucide-react'
import { isWithinPart } from '@marionette/core/parts/tree'
import { maskBy } from './masking'
import { openPuppet } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import { markHover, partsUnder } from '../../stage/pick'
import type { Tool } from '../../stage/tool'
import type { Editor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'

/** The part that is to be masked. */
function masked(editor: Editor): string | undefined {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' && selection.ids.length === 1 ? selection.ids[0] : undefined
}

export const maskTool: Tool = {
  id: 'mask',
  name: 'Mask',
  icon: Blend,
  cursor: 'default',
  hint: [
    ['Click the part to mask,', 'then the part inside of which it shows'],
    ['Shift', 'chooses another part to mask'],
  ],
  pointer(event, host) {
    const part = masked(host.editor)
    const puppet = openPuppet(host.editor)
    // What is masked lies over its mask as a rule, and is looked through.
    const stack = partsUnder(host, event.at)
    const shape = part && !event.shift ? stack.find((id) => !isWithinPart(puppet, id, part) && !isWithinPart(puppet, part, id)) : undefined
    const hit = part && !event.shift ? shape : stack[0]
    if (event.type === 'hover') return markHover(host.editor, 'part', hit)
    if (event.type !== 'up' || event.dragging || !hit) return
    if (!part || event.shift) return selectParts(host.editor, hit)
    const { masks, name } = partOf(puppet, part)
    if (masks.some((m) => m.shape === hit)) return void host.editor.notify(`${name} is masked by ${partOf(puppet, hit).name} already.`)
    maskBy(host.editor, part, hit)
  },
  cancel(editor) {
    markHover(editor, 'part', undefined)
  },
}
