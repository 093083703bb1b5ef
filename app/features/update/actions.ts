/** Taking in a new version of the artwork. */
import { openPanel } from '../../editor/session'
import type { Action } from '../../panels/action'

export const UPDATE_ACTIONS: readonly Action[] = [
  {
    id: 'update',
    label: 'Take in a new version of the artwork…',
    group: 'Parts and bones',
    keys: 'u',
    run: ({ editor }) => openPanel(editor, 'update'),
  },
]
