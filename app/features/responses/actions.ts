/** Actions around responses and controls. */
import { discardRecording, keepRecording, recordingNow } from './recording'
import { openPuppet } from '../../editor/document'
import { recordPosed } from './recordHere'
import { openPanel, useSession } from '../../editor/session'
import type { Action } from '../../panels/action'
import type { Editor } from '../../editor/editor'

const isRecording = (editor: Editor): boolean => recordingNow(editor) !== null

export const RESPONSE_ACTIONS: readonly Action[] = [
  {
    id: 'record.keep',
    label: 'Keep what is recorded',
    group: 'Responses',
    keys: 'mod+enter',
    enabled: isRecording,
    run: ({ editor }) => keepRecording(editor),
  },
  {
    id: 'record.discard',
    label: 'Discard what is recorded',
    group: 'Responses',
    enabled: isRecording,
    run: ({ editor }) => discardRecording(editor),
  },
  {
    id: 'record.posed',
    label: 'Record what the controls are set to',
    words: 'response correction combination corrective',
    group: 'Responses',
    enabled: (editor) => !isRecording(editor) && openPuppet(editor).controls.length > 0,
    run: ({ editor }) => recordPosed(editor),
  },
  {
    id: 'responses',
    label: 'List of responses',
    group: 'Responses',
    run: ({ editor }) => useSession.of(editor).setState({ list: 'responses' }),
  },
  { id: 'wiring', label: 'Connections: what moves what…', group: 'Responses', run: ({ editor }) => openPanel(editor, 'wiring') },
]
