/** Target: click the end of a limb to give it a target; drag targets to where they are at rest. */
import { SquareDashedMousePointer } from 'lucide-react'
import { makeConstraint } from '../../details/constraintMaking'
import { selectBones, selectNothing } from '../../state/session'
import { boneAt, markHover } from './pick'
import { TargetDrag, targetUnder } from './targetDrag'
import type { Tool } from './tool'

const drag = new TargetDrag(true)

export const targetTool: Tool = {
  id: 'target',
  name: 'Target',
  icon: SquareDashedMousePointer,
  cursor: 'crosshair',
  hint: [
    ['Click the last bone', 'of a limb, and it reaches for a target'],
    ['drag a target', 'to its place at rest'],
  ],
  cursorAt: (at, host) => (targetUnder(host, at) ? 'grab' : null),
  pointer(event, host) {
    if (event.type === 'hover') return markHover('bone', targetUnder(host, event.at) ? undefined : boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel()
    if (drag.pointer(event, host)) return
    if (event.type !== 'up' || event.dragging) return
    const hit = boneAt(host, event.at)
    if (!hit) return selectNothing()
    selectBones(hit.id)
    const limb = host.model.rig.puppet.constraints.some((c) => c.kind === 'reach' && (c.bones.at(-1) === hit.id || c.level === hit.id))
    if (!limb) makeConstraint('reach', hit.id)
  },
  cancel() {
    drag.cancel()
  },
}
