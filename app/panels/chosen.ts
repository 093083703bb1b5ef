/** What is selected, as actions ask for it. */
import { openPuppet } from '../editor/document'
import { useSession } from '../editor/session'
import type { Editor } from '../editor/editor'

/** Selected things of a kind; nothing where another kind is selected. */
export const chosen = (editor: Editor, kind: 'part' | 'bone'): readonly string[] => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === kind ? selection.ids : []
}

export const anyChosen = (editor: Editor): boolean => useSession.of(editor).getState().selection.ids.length > 0

/** Selected parts that may be taken away or put into groups: all but the topmost. */
export const movable = (editor: Editor): string[] => chosen(editor, 'part').filter((id) => id !== openPuppet(editor).root)
