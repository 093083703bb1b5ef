/** What is cut. */
import { openPuppet } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'

/** The part that is cut: the selected one. */
export function cutSource(editor: Editor): string | null {
  const { selection } = useSession.of(editor).getState()
  const [id] = selection.ids
  return selection.kind === 'part' && id !== undefined && openPuppet(editor).parts[id] ? id : null
}
