/** Proposals: a pad that turns a form of parts, and corrections of a joint at its limits. */
import { freshId } from '@marionette/core/kernel/ids'
import { addResponse } from '@marionette/core/responses/commands'
import { openPuppet, perform } from '../../editor/document'
import { useRecording } from './recording'
import { openPanel, selectNothing, useSession } from '../../editor/session'
import { edit } from '@marionette/core/kernel/command'
import { editorStore, type Editor } from '../../editor/editor'
import { boneOf } from '@marionette/core/bones/lookup'

/** The group that a turn is being proposed for. */
export const useTurn = editorStore<{ group: string | null }>(() => ({ group: null }))

export function openTurn(editor: Editor, group: string): void {
  useTurn.of(editor).setState({ group })
  openPanel(editor, 'turn')
}

/** Records both limits of a joint at once, as a proposal to accept or reshape. */
export async function proposeCorrective(editor: Editor, bone: string): Promise<void> {
  const { proposedCorrective } = await import('@marionette/core/responses/correctives')
  const { name } = boneOf(openPuppet(editor), bone)
  const response = proposedCorrective(openPuppet(editor), bone, freshId('response'))
  if (!response) return void editor.notify.error(`No drawing lies around the joint of ${name}, so there is nothing to correct.`)
  if (!perform(editor, [edit(addResponse, { response })], `Propose corrections of ${name}`)) return
  selectNothing(editor)
  useSession.of(editor).setState({ list: 'responses' })
  useRecording.of(editor).setState({ open: response.id })
}
