/** Keys and commands of clips. They mean something where a clip is open. */
import type { Action } from '../../panels/action'
import { clipNow, setActing, useActing } from './acting'
import { addBreakdown, addPose, copyChosen, deleteChosen, dropUnkeyed, goByFrames, goToKey } from './keying'
import { goToBeat, hasCopied, keepAsKeys, keyNow, makeClip, pasteHere } from './keying'
import { spaceEvenly } from './evenSpacing'
import { chosenSpan, playChosen, playOrStop } from './playing'
import type { Editor } from '../../editor/editor'

const isOpen = (editor: Editor): boolean => clipNow(editor) !== null
const hasLoose = (editor: Editor): boolean => Object.keys(clipNow(editor)?.loose ?? {}).length > 0
const hasBeats = (editor: Editor): boolean => (clipNow(editor)?.tempo ?? null) !== null
const common = { group: 'Clips', place: 'Rehearse', enabled: isOpen } as const

export const CLIP_ACTIONS: readonly Action[] = [
  {
    id: 'clip.new',
    label: 'New clip',
    group: 'Clips',
    place: 'Rehearse',
    words: 'animation timeline act',
    run: ({ editor, go }) => {
      go('rehearse')
      makeClip(editor)
    },
  },
  { ...common, id: 'clip.play', label: 'Play or stop the clip', words: 'preview', keys: 'p', run: ({ editor }) => playOrStop(editor) },
  {
    ...common,
    id: 'clip.addPose',
    label: 'Add pose to the line',
    words: 'key all keyframe',
    keys: 'shift+k',
    run: ({ editor }) => addPose(editor),
  },
  {
    ...common,
    id: 'clip.copyKeys',
    label: 'Copy keys',
    keys: 'mod+shift+c',
    enabled: (editor) => isOpen(editor) && useActing.of(editor).getState().keys.length > 0,
    run: ({ editor }) => copyChosen(editor),
  },
  {
    ...common,
    id: 'clip.pasteKeys',
    label: 'Paste keys at the moment',
    keys: 'mod+shift+v',
    enabled: (editor) => isOpen(editor) && hasCopied(editor),
    run: ({ editor }) => pasteHere(editor),
  },
  { ...common, id: 'clip.key', label: 'Key what is selected', words: 'keyframe', keys: 'k', run: ({ editor }) => keyNow(editor) },
  {
    ...common,
    id: 'clip.autoKey',
    label: 'Auto key on or off',
    words: 'automatic keyframes',
    run: ({ editor }) => setActing(editor, { isAutoKey: !useActing.of(editor).getState().isAutoKey }),
  },
  {
    ...common,
    id: 'clip.keepLoose',
    label: 'Keep what is not keyed as keys',
    keys: 'shift+enter',
    enabled: hasLoose,
    run: ({ editor }) => keepAsKeys(editor),
  },
  {
    ...common,
    id: 'clip.dropLoose',
    label: 'Drop what is not keyed',
    keys: 'mod+backspace',
    enabled: hasLoose,
    run: ({ editor }) => dropUnkeyed(editor),
  },
  {
    ...common,
    id: 'clip.breakdown',
    label: 'Add breakdown half way',
    words: 'tween inbetween',
    run: ({ editor }) => addBreakdown(editor, 0.5),
  },
  { ...common, id: 'clip.previousKey', label: 'To the key before', keys: 'pageup', run: ({ editor }) => goToKey(editor, -1) },
  { ...common, id: 'clip.nextKey', label: 'To the key after', keys: 'pagedown', run: ({ editor }) => goToKey(editor, 1) },
  {
    ...common,
    id: 'clip.nextBeat',
    label: 'To the next beat',
    words: 'music tempo',
    enabled: hasBeats,
    run: ({ editor }) => goToBeat(editor, 1),
  },
  {
    ...common,
    id: 'clip.previousBeat',
    label: 'To the beat before',
    words: 'music tempo',
    enabled: hasBeats,
    run: ({ editor }) => goToBeat(editor, -1),
  },
  {
    ...common,
    id: 'clip.playChosen',
    label: 'Play from the first chosen key to the last',
    words: 'selection range loop',
    enabled: (editor) => chosenSpan(editor) !== null,
    run: ({ editor }) => playChosen(editor),
  },
  {
    ...common,
    id: 'clip.evenSpacing',
    label: 'Even spacing along the motion path',
    words: 'speed constant arc ease',
    run: ({ editor }) => spaceEvenly(editor),
  },
  { ...common, id: 'clip.frameBack', label: 'One frame back', keys: 'shift+pageup', run: ({ editor }) => goByFrames(editor, -1) },
  { ...common, id: 'clip.frameOn', label: 'One frame on', keys: 'shift+pagedown', run: ({ editor }) => goByFrames(editor, 1) },
  {
    ...common,
    id: 'clip.curves',
    label: 'Show or hide curves',
    words: 'graph tangents easing',
    keys: 'shift+c',
    run: ({ editor }) => setActing(editor, { showsCurves: !useActing.of(editor).getState().showsCurves }),
  },
  {
    ...common,
    id: 'clip.deleteKeys',
    label: 'Delete the chosen keys or pose',
    enabled: (editor) => {
      const { keys, pose } = useActing.of(editor).getState()
      return isOpen(editor) && (keys.length > 0 || pose !== null)
    },
    run: ({ editor }) => deleteChosen(editor),
  },
]
