/** Cutting as before, and lines taken apart from colour. */
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import { repeatSending } from './sending'
import { splitLinesOf } from './filling'
import { useCut } from './selection'
import { lookForStrays } from './strays'
import { useSession } from '../../editor/session'
import { openPuppet } from '../../editor/document'
import type { Action } from '../../panels/action'
import { movable } from '../../panels/chosen'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

/** Whether a part that is selected is still there and shows artwork of its own. */
const isDrawn = (editor: Editor, id: string): boolean => (openPuppet(editor).parts[id]?.content.kind ?? 'group') !== 'group'

export const CUTTING_ACTIONS: readonly Action[] = [
  {
    id: 'splitLines',
    menu: { part: 2 },
    label: 'Split line and colour',
    group: 'Parts and bones',
    enabled: (editor) => movable(editor).length === 1 && isDrawn(editor, nth(movable(editor), 0)),
    run: ({ editor }) => void splitLinesOf(editor, nth(movable(editor), 0), LINE_THRESHOLD),
  },
  {
    id: 'findStrays',
    label: 'Look for stray pieces',
    group: 'Parts and bones',
    words: 'islands left over scraps clean up',
    enabled: (editor) => useSession.of(editor).getState().bench === 'parts',
    run: ({ editor }) => void lookForStrays(editor),
  },
  {
    id: 'repeatCut',
    label: 'Cut as the last piece',
    group: 'Parts and bones',
    keys: 'r',
    enabled: (editor) => useCut.of(editor).getState().area !== null && useCut.of(editor).getState().last !== null,
    run: ({ editor }) => repeatSending(editor),
  },
]
