/** Fitting a template. */
import { openPanel } from '../../editor/session'
import type { Action } from '../../panels/action'

export const TEMPLATE_ACTIONS: readonly Action[] = [
  { id: 'fit', label: 'Fit a template…', group: 'Parts and bones', keys: 't', run: ({ editor }) => openPanel(editor, 'fit') },
]
