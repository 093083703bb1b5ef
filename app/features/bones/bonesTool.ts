/** Bones at rest: select them, move their ends, or the whole with all that hangs from it. */
import { dragBoneEnd, setBoneEnds } from '@marionette/core/bones/commands'
import type { Vec } from '@marionette/core/puppet/schema'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../editor/document'
import { selectBones, selectNothing, selectParts, toggleSelected, useSession } from '../../editor/session'
import { BoneIcon } from '../../ui/icons'
import { boneAt, markHover, nextPartUnder, partsUnder, type BoneHit, type BoneSpot } from '../../stage/pick'
import type { Tool } from '../../stage/tool'
import { caught } from '../touch/target'
import { edit } from '@marionette/core/kernel/command'
import { editorState } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

type State = { at: 'idle' } | { at: 'pointing' | 'dragging'; hit: BoneHit; from: Vec; end: Vec }

interface Own {
  state: State
}

const stateOf = editorState((): Own => ({ state: { at: 'idle' } }))

const WHAT: Record<BoneSpot, 'start' | 'end' | 'both'> = { ring: 'start', bead: 'end', rod: 'both' }

/** Half pixels are fine enough at rest and keep documents readable. */
const rounded = (p: Vec): Vec => ({ x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 })

export const moveBonesTool: Tool = {
  id: 'bones',
  escapeDeselects: true,
  name: 'Bones',
  icon: BoneIcon,
  cursor: 'default',
  hint: [
    ['Drag the bead', 'or the ring to move an end'],
    ['the rod', 'to move bone and branch'],
    ['click the drawing', 'for its part'],
  ],
  cursorAt: (at, host) => (boneAt(host, at) ? 'grab' : null),
  pointer(event, host) {
    const own = stateOf(host.editor)
    if (event.type === 'hover') return markHover(host.editor, 'bone', boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel(host.editor)
    if (own.state.at === 'idle') {
      if (event.type !== 'down') return
      const hit = boneAt(host, event.at)
      if (hit) {
        if (event.shift) return toggleSelected(host.editor, 'bone', hit.id)
        selectBones(host.editor, hit.id)
        const bone = boneOf(openPuppet(host.editor), hit.id)
        own.state = { at: 'pointing', hit, from: event.at, end: hit.spot === 'bead' ? bone.end : bone.start }
        return
      }
      const { selection } = useSession.of(host.editor).getState()
      const part = nextPartUnder(partsUnder(host, event.at), selection.kind === 'part' ? selection.ids[0] : undefined)
      return part ? selectParts(host.editor, part) : selectNothing(host.editor)
    }
    if (own.state.at === 'pointing') {
      if (event.type === 'up') {
        own.state = { at: 'idle' }
        return
      }
      if (!event.dragging) return
      beginGesture(host.editor, `Move ${boneOf(openPuppet(host.editor), own.state.hit.id).name}`)
      own.state = { ...own.state, at: 'dragging' }
    }
    if (own.state.at !== 'dragging') return
    if (event.type === 'up') {
      commitGesture(host.editor)
      own.state = { at: 'idle' }
      return
    }
    const to = rounded(
      caught(host, { x: own.state.end.x + event.at.x - own.state.from.x, y: own.state.end.y + event.at.y - own.state.from.y }).at,
    )
    updateGesture(host.editor, [
      edit(
        setBoneEnds,
        dragBoneEnd(sure(useDocument.of(host.editor).getState().history).puppet, own.state.hit.id, WHAT[own.state.hit.spot], to),
      ),
    ])
  },
  cancel(editor) {
    const own = stateOf(editor)
    if (own.state.at === 'dragging') cancelGesture(editor)
    own.state = { at: 'idle' }
  },
}
