/** Target: click the end of a limb to give it a target; drag targets to where they are at rest. */
import { SquareDashedMousePointer } from 'lucide-react'
import { makeConstraint } from './constraintMaking'
import { selectBones, selectNothing } from '../../editor/session'
import { boneAt, markHover } from '../../stage/pick'
import { TargetDrag, targetUnder } from './targetDrag'
import type { Tool } from '../../stage/tool'
import { editorState } from '../../editor/editor'

interface Own {
  drag: TargetDrag
}

const stateOf = editorState((): Own => ({ drag: new TargetDrag(true) }))

export const targetTool: Tool = {
  id: 'target',
  name: 'Target',
  words: 'ik inverse kinematics reach goal',
  icon: SquareDashedMousePointer,
  cursor: 'crosshair',
  hint: [
    ['Click the last bone', 'of a limb, and it reaches for a target'],
    ['drag a target', 'to its place at rest'],
  ],
  cursorAt: (at, host) => (targetUnder(host, at) ? 'grab' : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'hover') return markHover(host.editor, 'bone', targetUnder(host, event.at) ? undefined : boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (own.drag.pointer(event, host)) return
    if (event.type !== 'up' || event.dragging) return
    const hit = boneAt(host, event.at)
    if (!hit) return selectNothing(host.editor)
    selectBones(host.editor, hit.id)
    const limb = host.model.rig.puppet.constraints.some((c) => c.kind === 'reach' && (c.bones.at(-1) === hit.id || c.level === hit.id))
    if (!limb) makeConstraint(host.editor, 'reach', hit.id)
  },
  cancel(editor) {
    const own = stateOf(editor)
    own.drag.cancel(editor)
  },
}
