/** Actions around the face. */
import { edit } from '@marionette/core/edit/command'
import { freshId } from '@marionette/core/document/ids'
import { groupParts } from '@marionette/core/edit/parts'
import { makeSwap } from '@marionette/core/edit/swaps'
import { openPuppet, perform } from '../state/document'
import { speakOrStop } from '../state/playing'
import { openPanel, selectParts, useSession } from '../state/session'
import { recordingNow } from '../state/recording'
import type { Action } from './actions'

const chosenPart = () => {
  const { selection } = useSession.getState()
  return selection.kind === 'part' ? openPuppet().parts[selection.ids[0] ?? ''] : undefined
}
/** Several parts become the alternates of a new swap, a group by itself becomes one. */
const canSwap = (): boolean => {
  const part = chosenPart()
  const { selection } = useSession.getState()
  return part !== undefined && (selection.ids.length > 1 || (part.content.kind === 'group' && part.swap === null))
}

export function makeSwapOfSelection(): void {
  const { ids } = useSession.getState().selection
  const [first] = ids
  if (ids.length === 1) return void perform([edit(makeSwap, { group: first! })])
  const group = freshId('part')
  const name = `${openPuppet().parts[first!]!.name} and others`
  if (perform([edit(groupParts, { parts: [...ids], id: group, name }), edit(makeSwap, { group })], 'Make a swap')) selectParts(group)
}

const isFree = (): boolean => recordingNow() === null

export const FACE_ACTIONS: readonly Action[] = [
  { id: 'mouth', label: 'Build a mouth…', group: 'Face', enabled: isFree, run: () => openPanel('mouth') },
  { id: 'eyes', label: 'Build eyes…', group: 'Face', enabled: isFree, run: () => openPanel('eyes') },
  { id: 'melting', label: 'Melting of a swap…', group: 'Face', enabled: isFree, run: () => openPanel('melting') },
  { id: 'faces', label: 'Check moods and sounds…', group: 'Face', enabled: isFree, run: () => openPanel('faces') },
  {
    id: 'swap',
    label: 'Make a swap of what is selected',
    group: 'Face',
    enabled: () => isFree() && canSwap(),
    run: makeSwapOfSelection,
  },
  {
    id: 'speak',
    label: 'Speak the line, or stop',
    group: 'Face',
    run: () => speakOrStop(),
  },
]
