/** Proposals: a pad that turns a form of parts, and corrections of a joint at its limits. */
import { toast } from 'sonner'
import { create } from 'zustand'
import { freshId } from '@marionette/core/document/ids'
import { edit } from '@marionette/core/edit/command'
import { addResponse } from '@marionette/core/edit/responses'
import { openPuppet, perform } from '../state/document'
import { useRecording } from '../state/recording'
import { openPanel, selectNothing, useSession } from '../state/session'

/** The group that a turn is being proposed for. */
export const useTurn = create<{ group: string | null }>(() => ({ group: null }))

export function openTurn(group: string): void {
  useTurn.setState({ group })
  openPanel('turn')
}

/** Records both limits of a joint at once, as a proposal to accept or reshape. */
export async function proposeCorrective(bone: string): Promise<void> {
  const { proposedCorrective } = await import('@marionette/core/artwork/correctives')
  const { name } = openPuppet().bones[bone]!
  const response = proposedCorrective(openPuppet(), bone, freshId('response'))
  if (!response) return void toast.error(`No drawing lies around the joint of ${name}, so there is nothing to correct.`)
  if (!perform([edit(addResponse, { response })], `Propose corrections of ${name}`)) return
  selectNothing()
  useSession.setState({ list: 'responses' })
  useRecording.setState({ open: response.id })
}
