/** Actions around responses and controls. */
import { discardRecording, keepRecording, recordingNow } from './recording'
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
    shown: 'Ctrl Enter',
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
    id: 'responses',
    label: 'List of responses',
    group: 'Responses',
    run: ({ editor }) => useSession.of(editor).setState({ list: 'responses' }),
  },
  { id: 'wiring', label: 'Connections: what moves what…', group: 'Responses', run: ({ editor }) => openPanel(editor, 'wiring') },
]
