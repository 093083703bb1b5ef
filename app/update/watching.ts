/** Watching an artwork file for being saved again, where the browser can. */
import { toast } from 'sonner'
import { create } from 'zustand'
import { useDocument } from '../state/document'
import { openPanel } from '../state/session'

/** The part of a file handle that is used here; not all browsers have one. */
interface FileHandle {
  readonly name: string
  getFile(): Promise<File>
}

type Picker = (options: object) => Promise<FileHandle[]>

const picker = (): Picker | undefined => (window as { showOpenFilePicker?: Picker }).showOpenFilePicker

export const canWatch = (): boolean => typeof picker() === 'function'

/** Lets the person choose a file; null where that was called off. */
export async function chooseFile(): Promise<FileHandle | null> {
  try {
    const [handle] = await picker()!({
      types: [{ description: 'Artwork', accept: { 'image/*': ['.svg', '.png', '.webp', '.ora', '.psd', '.psb'] } }],
    })
    return handle ?? null
  } catch {
    return null
  }
}

const EVERY_MS = 2000

/** Whether the watched file was saved again and has not been looked at. */
export const useWatched = create<{ waiting: boolean }>(() => ({ waiting: false }))

let handle: FileHandle | null = null
let seen = 0
let timer: ReturnType<typeof setInterval> | undefined

/** Watches a file until another one is watched or the puppet is closed. */
export function watch(next: FileHandle): void {
  clearInterval(timer)
  handle = next
  seen = 0
  const puppet = useDocument.getState().puppet?.id
  timer = setInterval(() => void look(puppet), EVERY_MS)
}

async function look(puppet: string | undefined): Promise<void> {
  if (useDocument.getState().puppet?.id !== puppet) {
    clearInterval(timer)
    handle = null
    return
  }
  const file = await handle?.getFile().catch(() => null)
  if (!file) return
  const isNew = seen !== 0 && file.lastModified !== seen
  seen = file.lastModified
  if (!isNew) return
  useWatched.setState({ waiting: true })
  toast(`${file.name} was saved again.`, { duration: 20_000, action: { label: 'See what is new', onClick: () => openPanel('update') } })
}

/** The watched file as it is now; it counts as looked at. */
export async function onSaved(): Promise<File | null> {
  useWatched.setState({ waiting: false })
  return (await handle?.getFile().catch(() => null)) ?? null
}
