/** What a sheet that builds part of a face does in the end. */
import type { Edit } from '@marionette/core/edit/command'
import { perform } from '../state/document'
import { openPanel, selectNothing, useSession } from '../state/session'

/** Applies what was built and shows its controls; a refusal leaves the sheet open. */
export function build(edits: readonly Edit[], label: string): void {
  if (!perform(edits, label)) return
  openPanel(null)
  selectNothing()
  useSession.setState({ shelfOpen: true })
}
