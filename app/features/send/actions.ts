/** Exporting the puppet. */
import type { Action } from '../../panels/action'

export const SEND_ACTIONS: readonly Action[] = [
  { id: 'export.png', label: 'Export a PNG', group: 'Export', run: ({ go }) => go('send') },
  { id: 'export.archive', label: 'Export a puppet archive', group: 'Export', run: ({ go }) => go('send') },
]
