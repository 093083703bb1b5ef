/** Actions around responses and controls. */
import { openPuppet } from '../state/document'
import { discardRecording, keepRecording, recordingNow } from '../state/recording'
import { openPanel, useSession } from '../state/session'
import { makeControl } from '../controls/making'
import { restControls, shakeControls } from '../controls/setting'
import type { Action } from './actions'

const isRecording = (): boolean => recordingNow() !== null
const hasControls = (): boolean => openPuppet().controls.length > 0

export const RECORD_ACTIONS: readonly Action[] = [
  {
    id: 'record.keep',
    label: 'Keep what is recorded',
    group: 'Responses',
    keys: 'mod+enter',
    shown: 'Ctrl Enter',
    enabled: isRecording,
    run: keepRecording,
  },
  { id: 'record.discard', label: 'Discard what is recorded', group: 'Responses', enabled: isRecording, run: discardRecording },
  { id: 'responses', label: 'List of responses', group: 'Responses', run: () => useSession.setState({ list: 'responses' }) },
  { id: 'wiring', label: 'Wiring: what moves what…', group: 'Responses', run: () => openPanel('wiring') },
  ...(['slider', 'dial', 'pad', 'toggle'] as const).map((kind): Action => ({
    id: `control.${kind}`,
    label: `Add a ${kind}`,
    group: 'Responses',
    enabled: () => !isRecording(),
    run: () => makeControl(kind),
  })),
  {
    id: 'controls.rest',
    label: 'All controls back to rest',
    group: 'Pose',
    enabled: hasControls,
    run: () => restControls(openPuppet().controls),
  },
  {
    id: 'controls.shake',
    label: 'All controls at random',
    group: 'Pose',
    enabled: hasControls,
    run: () => shakeControls(openPuppet().controls),
  },
]
