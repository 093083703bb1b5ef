/** How the touch-up tools work. */
import { useTouch } from './settings'
import type { Action } from '../../panels/action'

export const TOUCH_ACTIONS: readonly Action[] = [
  {
    id: 'snap',
    label: 'Snap to points, pivots and guides',
    group: 'View',
    keys: 'shift+g',
    run: ({ editor }) => useTouch.of(editor).setState((s) => ({ snaps: !s.snaps })),
  },
]
