/** Weights on the stage. */
import { useSession } from '../../editor/session'
import type { Action } from '../../panels/action'

export const BIND_ACTIONS: readonly Action[] = [
  {
    id: 'weights',
    label: 'Show or hide weights',
    group: 'View',
    keys: 'w',
    run: ({ editor }) => useSession.of(editor).setState((s) => ({ weights: !s.weights })),
  },
]
