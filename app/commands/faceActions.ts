/** Actions around the face. */
import { edit } from '@marionette/core/edit/command'
import { makeSwap } from '@marionette/core/edit/swaps'
import { openPuppet, perform } from '../state/document'
import { speakLine, stopPlaying, usePlaying } from '../state/playing'
import { openPanel, useSession } from '../state/session'
import { recordingNow } from '../state/recording'
import type { Action } from './actions'

const chosenPart = () => {
  const { selection } = useSession.getState()
  return selection.kind === 'part' ? openPuppet().parts[selection.ids[0] ?? ''] : undefined
}
const isFree = (): boolean => recordingNow() === null

export const FACE_ACTIONS: readonly Action[] = [
  { id: 'mouth', label: 'Build a mouth…', group: 'Face', enabled: isFree, run: () => openPanel('mouth') },
  { id: 'eyes', label: 'Build eyes…', group: 'Face', enabled: isFree, run: () => openPanel('eyes') },
  { id: 'faces', label: 'Check moods and sounds…', group: 'Face', enabled: isFree, run: () => openPanel('faces') },
  {
    id: 'swap',
    label: 'Make the group a swap',
    group: 'Face',
    enabled: () => isFree() && chosenPart()?.content.kind === 'group' && chosenPart()?.swap === null,
    run: () => void perform([edit(makeSwap, { group: chosenPart()!.id })]),
  },
  {
    id: 'speak',
    label: 'Speak the line, or stop',
    group: 'Face',
    run: () => (usePlaying.getState().isPlaying ? stopPlaying() : void speakLine(usePlaying.getState().line)),
  },
]
