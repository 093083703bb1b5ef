/** Bones at rest: select them, move their ends, or the whole with all that hangs from it. */
import { edit } from '@marionette/core/edit/command'
import { dragBoneEnd, setBoneEnds } from '@marionette/core/edit/bones'
import type { Vec } from '@marionette/core/document/schema'
import { beginGesture, cancelGesture, commitGesture, openPuppet, updateGesture, useDocument } from '../../state/document'
import { selectBones, selectNothing, selectParts, toggleSelected, useSession } from '../../state/session'
import { BoneIcon } from '../../ui/icons'
import { boneAt, markHover, nextPartUnder, partsUnder, type BoneHit, type BoneSpot } from './pick'
import type { Tool } from './tool'
import { caught } from '../../touch/target'

type State = { at: 'idle' } | { at: 'pointing' | 'dragging'; hit: BoneHit; from: Vec; end: Vec }

let state: State = { at: 'idle' }

const WHAT: Record<BoneSpot, 'start' | 'end' | 'both'> = { ring: 'start', bead: 'end', rod: 'both' }

/** Half pixels are fine enough at rest and keep documents readable. */
const rounded = (p: Vec): Vec => ({ x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 })

export const moveBonesTool: Tool = {
  id: 'bones',
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
    if (event.type === 'hover') return markHover('bone', boneAt(host, event.at)?.id)
    if (event.type === 'cancel') return this.cancel()
    if (state.at === 'idle') {
      if (event.type !== 'down') return
      const hit = boneAt(host, event.at)
      if (hit) {
        if (event.shift) return toggleSelected('bone', hit.id)
        selectBones(hit.id)
        const bone = openPuppet().bones[hit.id]!
        state = { at: 'pointing', hit, from: event.at, end: hit.spot === 'bead' ? bone.end : bone.start }
        return
      }
      const { selection } = useSession.getState()
      const part = nextPartUnder(partsUnder(host, event.at), selection.kind === 'part' ? selection.ids[0] : undefined)
      return part ? selectParts(part) : selectNothing()
    }
    if (state.at === 'pointing') {
      if (event.type === 'up') {
        state = { at: 'idle' }
        return
      }
      if (!event.dragging) return
      beginGesture(`Move ${openPuppet().bones[state.hit.id]!.name}`)
      state = { ...state, at: 'dragging' }
    }
    if (state.at !== 'dragging') return
    if (event.type === 'up') {
      commitGesture()
      state = { at: 'idle' }
      return
    }
    const to = rounded(caught(host, { x: state.end.x + event.at.x - state.from.x, y: state.end.y + event.at.y - state.from.y }).at)
    updateGesture([edit(setBoneEnds, dragBoneEnd(useDocument.getState().history!.puppet, state.hit.id, WHAT[state.hit.spot], to))])
  },
  cancel() {
    if (state.at === 'dragging') cancelGesture()
    state = { at: 'idle' }
  },
}
