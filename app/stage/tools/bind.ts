/** Bind: click parts to tie them whole to the selected bone, again to untie them. */
import { Link2 } from 'lucide-react'
import { bindWhole, unbind } from '@marionette/core/edit/binds'
import { edit } from '@marionette/core/edit/command'
import { toast } from 'sonner'
import { openPuppet, perform } from '../../state/document'
import { selectBones, useSession } from '../../state/session'
import { boneAt, markHover, partsUnder } from './pick'
import type { Tool } from './tool'

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
    if (event.type === 'hover') return markHover(hit ? 'bone' : 'part', hit?.id ?? part)
    if (event.type !== 'up' || event.dragging) return
    if (hit) return selectBones(hit.id)
    if (!part) return
    const { selection } = useSession.getState()
    const bone = selection.kind === 'bone' ? selection.ids[0] : undefined
    if (!bone) return void toast('Click a bone first, then the parts that follow it.')
    const { name, bind } = openPuppet().parts[part]!
    const boneName = openPuppet().bones[bone]!.name
    const isTied = bind?.kind === 'whole' && bind.bone === bone
    perform(
      [isTied ? edit(unbind, { parts: [part] }) : edit(bindWhole, { parts: [part], bone })],
      isTied ? `Untie ${name}` : `Bind ${name} to ${boneName}`,
    )
  },
  cancel() {
    markHover('part', undefined)
  },
}
