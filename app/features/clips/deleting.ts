/** Delete means the chosen keys as long as some are chosen: what they belong to is selected as well, and must not go instead. */
import type { Editor } from '../../editor/editor'
import { clipNow, useActing } from './acting'
import { IN_TEXT } from '../../ui/grip'
import { isDialogOpen } from '../../ui/keys'
import { deleteChosen } from './keying'

/** Listens for the key before anything else does; returns how to end that. */
export function deleteByKey(editor: Editor): () => void {
  const listen = (e: KeyboardEvent): void => {
    if (e.key !== 'Delete' && e.key !== 'Backspace') return
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const { keys, pose, sound } = useActing.of(editor).getState()
    const isMeant = !(e.target instanceof Element && e.target.closest(IN_TEXT)) && !isDialogOpen()
    if (!isMeant || !clipNow(editor) || (keys.length === 0 && pose === null && sound === null)) return
    e.preventDefault()
    e.stopImmediatePropagation()
    deleteChosen(editor)
  }
  window.addEventListener('keydown', listen, true)
  return () => window.removeEventListener('keydown', listen, true)
}
