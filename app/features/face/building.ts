/** What a sheet that builds part of a face does in the end. */
import { perform } from '../../editor/document'
import { openPanel, selectNothing, useSession } from '../../editor/session'
import type { Edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'

/** Applies what was built and shows its controls; a refusal leaves the sheet open. */
export function build(editor: Editor, edits: readonly Edit[], label: string): void {
  if (!perform(editor, edits, label)) return
  openPanel(editor, null)
  selectNothing(editor)
  useSession.of(editor).setState({ shelfOpen: true })
}
