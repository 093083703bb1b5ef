/** Making joints. */
import { joinParts, makeProposedJoints } from './making'
import type { Action } from '../../panels/action'
import { movable } from '../../panels/chosen'
import { useSession } from '../../editor/session'
import { nth } from '@marionette/core/kernel/sure'

export const JOINT_ACTIONS: readonly Action[] = [
  {
    id: 'join',
    menu: { part: 2 },
    label: 'Join two parts',
    group: 'Parts and bones',
    keys: 'j',
    enabled: (editor) => movable(editor).length === 2,
    run: ({ editor }) => void joinParts(editor, nth(movable(editor), 0), nth(movable(editor), 1)),
  },
  {
    id: 'propose',
    label: 'Propose joints',
    group: 'Parts and bones',
    enabled: (editor) => useSession.of(editor).getState().bench === 'parts',
    run: ({ editor }) => void makeProposedJoints(editor),
  },
]
