/** Mask: with a part selected, a click on another one lets the first show only where that one is. */
import { Blend } from 'lucide-react'
import { toast } from 'sonner'
import { isWithinPart } from '@marionette/core/document/tree'
import { maskBy } from '../../face/masking'
import { openPuppet } from '../../state/document'
import { selectParts, useSession } from '../../state/session'
import { markHover, partsUnder } from './pick'
import type { Tool } from './tool'

/** The part that is to be masked. */
function masked(): string | undefined {
  const { selection } = useSession.getState()
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
    const part = masked()
    const puppet = openPuppet()
    // What is masked lies over its mask as a rule, and is looked through.
    const stack = partsUnder(host, event.at)
    const shape = part && !event.shift ? stack.find((id) => !isWithinPart(puppet, id, part) && !isWithinPart(puppet, part, id)) : undefined
    const hit = part && !event.shift ? shape : stack[0]
    if (event.type === 'hover') return markHover('part', hit)
    if (event.type !== 'up' || event.dragging || !hit) return
    if (!part || event.shift) return selectParts(hit)
    const { masks, name } = puppet.parts[part]!
    if (masks.some((m) => m.shape === hit)) return void toast(`${name} is masked by ${puppet.parts[hit]!.name} already.`)
    maskBy(part, hit)
  },
  cancel() {
    markHover('part', undefined)
  },
}
