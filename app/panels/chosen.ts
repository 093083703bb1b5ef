/** What is selected, as actions ask for it. */
import { openPuppet } from '../editor/document'
import { useSession } from '../editor/session'
import type { Editor } from '../editor/editor'

/** Selected things of a kind; nothing where another kind is selected. */
export const chosen = (editor: Editor, kind: 'part' | 'bone'): readonly string[] => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === kind ? selection.ids : []
}

/** Of some addresses those of what is selected; null where nothing is, which means all of them. */
export function addressesOfChosen(editor: Editor, addresses: readonly string[]): string[] | null {
  const { selection } = useSession.of(editor).getState()
  if (selection.ids.length === 0) return null
  return addresses.filter((address) => selection.ids.some((id) => address.startsWith(`${selection.kind}/${id}/`)))
}

export const anyChosen = (editor: Editor): boolean => useSession.of(editor).getState().selection.ids.length > 0

/** Selected parts that may be taken away or put into groups: all but the topmost. */
export const movable = (editor: Editor): string[] => chosen(editor, 'part').filter((id) => id !== openPuppet(editor).root)
