/** The range test in the interface. */
import { lazy } from 'react'
import { openPanel } from '../../editor/session'
import type { Feature } from '../../panels/feature'

export const rangeTest: Feature = {
  name: 'rangeTest',
  actions: [
    {
      id: 'rangeTest',
      label: 'Range test…',
      words: 'check stress calibrate contact sheet faults limits',
      group: 'Clips',
      run: ({ editor }) => openPanel(editor, 'rangeTest'),
    },
  ],
  sheets: { rangeTest: lazy(() => import('./RangeSheet')) },
}
