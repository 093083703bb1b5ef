/** Bind: click parts to tie them whole to the selected bone, again to untie them. */
import { Link2 } from 'lucide-react'
import { bindWhole, unbind } from '@marionette/core/binds/commands'
import { openPuppet, perform } from '../../editor/document'
import { selectBones, useSession } from '../../editor/session'
import { boneAt, markHover, partsUnder } from '../../stage/pick'
import type { Tool } from '../../stage/tool'
import { edit } from '@marionette/core/kernel/command'
import { partOf } from '@marionette/core/parts/lookup'
import { boneOf } from '@marionette/core/bones/lookup'

export const bindTool: Tool = {
  id: 'bind',
  name: 'Bind',
  icon: Link2,
  cursor: 'default',
  hint: [
    ['Click a bone,', 'then the parts that follow it whole'],
    ['again', 'to untie a part'],
  ],
  pointer(event, host) {
    const hit = boneAt(host, event.at)
    const part = hit ? undefined : partsUnder(host, event.at)[0]
    if (event.type === 'hover') return markHover(host.editor, hit ? 'bone' : 'part', hit?.id ?? part)
    if (event.type !== 'up' || event.dragging) return
    if (hit) return selectBones(host.editor, hit.id)
    if (!part) return
    const { selection } = useSession.of(host.editor).getState()
    const bone = selection.kind === 'bone' ? selection.ids[0] : undefined
    if (!bone) return void host.editor.notify('Click a bone first, then the parts that follow it.')
    const { name, bind } = partOf(openPuppet(host.editor), part)
    const boneName = boneOf(openPuppet(host.editor), bone).name
    const isTied = bind?.kind === 'whole' && bind.bone === bone
    perform(
      host.editor,
      [isTied ? edit(unbind, { parts: [part] }) : edit(bindWhole, { parts: [part], bone })],
      isTied ? `Untie ${name}` : `Bind ${name} to ${boneName}`,
    )
  },
  cancel(editor) {
    markHover(editor, 'part', undefined)
  },
}
