/** Watching an artwork file for being saved again, where the browser can. */
import { READ_FORMATS, READABLE_ENDINGS } from '@marionette/formats/endings'
import { useDocument } from '../../editor/document'
import { openPanel } from '../../editor/session'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

/** The part of a file handle that is used here; not all browsers have one. */
interface FileHandle {
  readonly name: string
  getFile(): Promise<File>
}

type Picker = (options: object) => Promise<FileHandle[]>

const picker = (): Picker | undefined => (window as { showOpenFilePicker?: Picker }).showOpenFilePicker

export const canWatch = (): boolean => typeof picker() === 'function'

/** Endings of artwork that can be read: all but those of whole puppets. */
const ARTWORK: readonly string[] = READABLE_ENDINGS.filter(
  (ending) => !(READ_FORMATS.archive.endings as readonly string[]).includes(ending),
)

/** Lets the person choose a file; null where that was called off. */
export async function chooseFile(): Promise<FileHandle | null> {
  try {
    const [handle] = await sure(picker())({
      types: [{ description: 'Artwork', accept: { 'image/*': ARTWORK } }],
    })
    return handle ?? null
  } catch {
    return null
  }
}

const EVERY_MS = 2000

/** Whether the watched file was saved again and has not been looked at. */
export const useWatched = editorStore<{ waiting: boolean }>(() => ({ waiting: false }))

interface Own {
  handle: FileHandle | null
  seen: number
  timer: ReturnType<typeof setInterval> | undefined
}

const stateOf = editorState((): Own => ({ handle: null, seen: 0, timer: undefined }))

/** Watches a file until another one is watched or the puppet is closed. */
export function watch(editor: Editor, next: FileHandle): void {
  const own = stateOf(editor)
  clearInterval(own.timer)
  own.handle = next
  own.seen = 0
  const puppet = useDocument.of(editor).getState().puppet?.id
  own.timer = setInterval(() => void look(editor, puppet), EVERY_MS)
}

async function look(editor: Editor, puppet: string | undefined): Promise<void> {
  const own = stateOf(editor)
  if (useDocument.of(editor).getState().puppet?.id !== puppet) {
    clearInterval(own.timer)
    own.handle = null
    return
  }
  const file = await own.handle?.getFile().catch(() => null)
  if (!file) return
  const isNew = own.seen !== 0 && file.lastModified !== own.seen
  own.seen = file.lastModified
  if (!isNew) return
  useWatched.of(editor).setState({ waiting: true })
  editor.notify(`${file.name} was saved again.`, {
    duration: 20_000,
    action: { label: 'See what is new', onClick: () => openPanel(editor, 'update') },
  })
}

/** The watched file as it is now; it counts as looked at. */
export async function onSaved(editor: Editor): Promise<File | null> {
  const own = stateOf(editor)
  useWatched.of(editor).setState({ waiting: false })
  return (await own.handle?.getFile().catch(() => null)) ?? null
}
