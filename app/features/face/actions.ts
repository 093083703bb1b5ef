/** Actions around the face. */
import { freshId } from '@marionette/core/kernel/ids'
import { groupParts } from '@marionette/core/parts/commands'
import { makeSwap } from '@marionette/core/alternates/commands'
import { openPuppet, perform } from '../../editor/document'
import { speakOrStop } from './playing'
import { openPanel, selectParts, useSession } from '../../editor/session'
import { recordingNow } from '../responses/recording'
import type { Action } from '../../panels/action'
import { edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

const chosenPart = (editor: Editor) => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === 'part' ? openPuppet(editor).parts[selection.ids[0] ?? ''] : undefined
}
/** Several parts become the alternates of a new swap, a group by itself becomes one. */
const canSwap = (editor: Editor): boolean => {
  const part = chosenPart(editor)
  const { selection } = useSession.of(editor).getState()
  return part !== undefined && (selection.ids.length > 1 || (part.content.kind === 'group' && part.swap === null))
}

export function makeSwapOfSelection(editor: Editor): void {
  const { ids } = useSession.of(editor).getState().selection
  const [first] = ids
  if (ids.length === 1) return void perform(editor, [edit(makeSwap, { group: sure(first) })])
  const group = freshId('part')
  const name = `${partOf(openPuppet(editor), sure(first)).name} and others`
  if (perform(editor, [edit(groupParts, { parts: [...ids], id: group, name }), edit(makeSwap, { group })], 'Make alternates'))
    selectParts(editor, group)
}

const isFree = (editor: Editor): boolean => recordingNow(editor) === null

export const FACE_ACTIONS: readonly Action[] = [
  {
    id: 'mouth',
    label: 'Build a mouth…',
    words: 'lip sync visemes',
    group: 'Face',
    enabled: isFree,
    run: ({ editor }) => openPanel(editor, 'mouth'),
  },
  { id: 'eyes', label: 'Build eyes…', group: 'Face', enabled: isFree, run: ({ editor }) => openPanel(editor, 'eyes') },
  {
    id: 'morphing',
    label: 'Morphing of alternates…',
    words: 'tween in-between interpolate',
    group: 'Face',
    enabled: isFree,
    run: ({ editor }) => openPanel(editor, 'morphing'),
  },
  {
    id: 'faces',
    label: 'Check expressions and mouth shapes…',
    group: 'Face',
    enabled: isFree,
    run: ({ editor }) => openPanel(editor, 'faces'),
  },
  {
    id: 'swap',
    label: 'Make alternates of what is selected',
    group: 'Face',
    enabled: (editor) => isFree(editor) && canSwap(editor),
    run: ({ editor }) => makeSwapOfSelection(editor),
  },
  {
    id: 'speak',
    label: 'Speak the line, or stop',
    group: 'Face',
    run: ({ editor }) => speakOrStop(editor),
  },
]
