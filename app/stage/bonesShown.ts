/** Whether bones lie over the artwork. What does not show is not pressed. */
import { useSession } from '../editor/session'
import type { Editor } from '../editor/editor'

/** In Bones always, elsewhere where they are asked for; never on what is sent. */
export function areBonesShown(editor: Editor): boolean {
  const { bench, showBones } = useSession.of(editor).getState()
  return bench === 'bones' || (showBones && bench !== 'send')
}

/** Bones that show although the others do not: the selected ones, so that it is seen what a drag takes. */
export function bonesAtHand(editor: Editor): readonly string[] {
  const { bench, selection, hover } = useSession.of(editor).getState()
  if (bench === 'send') return []
  return [selection, hover].flatMap((what) => (what.kind === 'bone' ? what.ids : []))
}
