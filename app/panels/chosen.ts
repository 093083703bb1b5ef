/** What is selected, as actions ask for it. */
import { openPuppet } from '../editor/document'
import { useSession, type Selection } from '../editor/session'
import type { Editor } from '../editor/editor'

/** Selected things of a kind; nothing where another kind is selected. */
export const chosen = (editor: Editor, kind: 'part' | 'bone'): readonly string[] => {
  const { selection } = useSession.of(editor).getState()
  return selection.kind === kind ? selection.ids : []
}

/** Of some addresses those of what is selected; null where nothing is, which means all of them. */
export function addressesOfChosen(editor: Editor, addresses: readonly string[]): string[] | null {
  const { selection } = useSession.of(editor).getState()
  return selection.ids.length === 0 ? null : addresses.filter((address) => isOfSelected(selection, address))
}

/** Whether an address belongs to something that is selected. */
export const isOfSelected = ({ kind, ids }: Selection, address: string): boolean => ids.some((id) => address.startsWith(`${kind}/${id}/`))

export const anyChosen = (editor: Editor): boolean => useSession.of(editor).getState().selection.ids.length > 0

/** Selected parts that may be taken away or put into groups: all but the topmost. */
export const movable = (editor: Editor): string[] => chosen(editor, 'part').filter((id) => id !== openPuppet(editor).root)
