/** Making controls, and setting all of them. */
import { isForPeople } from '@marionette/core/controls/records'
import { openPuppet } from '../../editor/document'
import type { Action } from '../../panels/action'
import { recordingNow } from '../responses/recording'
import { makeControl } from './making'
import { restControls, shakeControls } from './setting'
import type { Editor } from '../../editor/editor'

const hasControls = (editor: Editor): boolean => openPuppet(editor).controls.some(isForPeople)

export const CONTROL_ACTIONS: readonly Action[] = [
  ...(['slider', 'dial', 'pad', 'toggle'] as const).map((kind): Action => ({
    id: `control.${kind}`,
    label: `Add a ${kind}`,
    group: 'Responses',
    enabled: (editor) => recordingNow(editor) === null,
    run: ({ editor }) => makeControl(editor, kind),
  })),
  {
    id: 'controls.rest',
    label: 'All controls back to rest',
    group: 'Pose',
    enabled: hasControls,
    run: ({ editor }) => restControls(editor, openPuppet(editor).controls.filter(isForPeople)),
  },
  {
    id: 'controls.shake',
    label: 'All controls at random',
    group: 'Pose',
    enabled: hasControls,
    run: ({ editor }) => shakeControls(editor, openPuppet(editor).controls.filter(isForPeople)),
  },
]
