/** Keys that show a value of a channel: with Alt held down, or until they are pressed again. They lie over the pose and leave it as it is. */
import { isDialogOpen } from '../../ui/keys'
import type { Cue } from '@marionette/core/puppet/schema'
import { useDocument } from '../../editor/document'
import { cue } from '../../editor/live'
import { editorState, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

interface Own {
  /** Keys that are down, and those that were pressed to stay. */
  held: Set<string>
  staying: Set<string>
}

const stateOf = editorState((): Own => ({ held: new Set<string>(), staying: new Set<string>() }))

const cueOf = (editor: Editor, key: string): Cue | undefined =>
  useDocument
    .of(editor)
    .getState()
    .puppet?.cues.find((c) => c.key === key)

function show(editor: Editor): void {
  const own = stateOf(editor)
  const cues = useDocument.of(editor).getState().puppet?.cues ?? []
  const shown = cues.filter((c) => (c.how === 'hold' ? own.held : own.staying).has(c.key))
  cue(editor, shown.length === 0 ? null : Object.fromEntries(shown.map((c) => [c.channel, c.value])))
}

/** The letter or digit of a key event, wherever Alt would make another sign of it. */
export const keyOf = (e: Pick<KeyboardEvent, 'code'>): string | null => /^(?:Key|Digit)([A-Z0-9])$/.exec(e.code)?.[1]?.toLowerCase() ?? null

function press(editor: Editor, e: KeyboardEvent): void {
  const own = stateOf(editor)
  const key = e.altKey && !e.ctrlKey && !e.metaKey ? keyOf(e) : null
  const found = key === null ? undefined : cueOf(editor, key)
  if (!found || isDialogOpen()) return
  e.preventDefault()
  e.stopPropagation()
  if (e.repeat) return
  if (found.how === 'hold') own.held.add(found.key)
  else if (!own.staying.delete(found.key)) own.staying.add(found.key)
  show(editor)
}

function release(editor: Editor, e: KeyboardEvent): void {
  const own = stateOf(editor)
  const key = keyOf(e)
  if (e.key === 'Alt' ? own.held.size > 0 : key !== null && own.held.has(key)) {
    if (e.key === 'Alt') own.held.clear()
    else own.held.delete(sure(key))
    show(editor)
  }
}

/** Ends all that keys show. */
export function dropCues(editor: Editor): void {
  const own = stateOf(editor)
  own.held.clear()
  own.staying.clear()
  show(editor)
}

/** Listens to keys as long as a puppet is open; returns how to end it. */
export function listenToCues(editor: Editor): () => void {
  const own = stateOf(editor)
  const blurred = (): void => {
    own.held.clear()
    show(editor)
  }
  window.addEventListener('keydown', (e) => press(editor, e), { capture: true })
  window.addEventListener('keyup', (e) => release(editor, e), { capture: true })
  window.addEventListener('blur', blurred)
  // A key that is taken away lets go of what it shows.
  const unsubscribe = useDocument.of(editor).subscribe((s, before) => {
    if (s.puppet?.cues !== before.puppet?.cues && own.held.size + own.staying.size > 0) show(editor)
  })
  return () => {
    unsubscribe()
    window.removeEventListener('keydown', (e) => press(editor, e), { capture: true })
    window.removeEventListener('keyup', (e) => release(editor, e), { capture: true })
    window.removeEventListener('blur', blurred)
    dropCues(editor)
  }
}
