/** Views: shown one after the other, added, and cut from a sheet. */
import { makeView, stepView } from './showing'
import { openPuppet } from '../../editor/document'
import { openPanel } from '../../editor/session'
import type { Action } from '../../panels/action'
import type { Editor } from '../../editor/editor'

const hasViews = (editor: Editor): boolean => openPuppet(editor).views.length > 1

export const VIEW_ACTIONS: readonly Action[] = [
  { id: 'cells', label: 'Split a sheet into views…', group: 'Parts and bones', run: ({ editor }) => openPanel(editor, 'cells') },
  { id: 'view.add', label: 'Add a view', group: 'View', run: ({ editor }) => makeView(editor) },
  {
    id: 'view.next',
    label: 'Show the next view',
    group: 'View',
    keys: 'n',
    enabled: hasViews,
    run: ({ editor }) => stepView(editor, 1),
  },
  {
    id: 'view.previous',
    label: 'Show the view before',
    group: 'View',
    keys: 'shift+n',
    enabled: hasViews,
    run: ({ editor }) => stepView(editor, -1),
  },
]
