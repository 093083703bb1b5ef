/** Putting deformers on parts. */
import type { Action } from '../../panels/action'
import { chosen } from '../../panels/chosen'
import { KINDS, putOn } from './DeformersGroup'
import { viewOf } from './table'
import { nth } from '@marionette/core/kernel/sure'

export const DEFORM_ACTIONS: readonly Action[] = KINDS.map((kind): Action => {
  const { action, aroundSeveral } = viewOf({ kind })
  return {
    id: `deform.${kind}`,
    label: action,
    group: 'Deform',
    enabled: (editor) => chosen(editor, 'part').length === 1 || (aroundSeveral && chosen(editor, 'part').length > 0),
    run: ({ editor }) => void putOn(editor, nth(chosen(editor, 'part'), 0), kind),
  }
})
