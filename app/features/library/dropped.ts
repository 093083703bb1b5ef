/** What was dropped: files, and all files in folders. */
import { sure } from '@marionette/core/kernel/sure'

interface Entry {
  readonly isFile: boolean
  readonly isDirectory: boolean
  readonly name: string
}

/** Most files that are taken from a drop. */
const MOST = 2000

export interface Dropped {
  readonly files: readonly File[]
  /** Name of the one folder that everything was in, if that is so. */
  readonly folder: string | null
}

/** Reads a drop; folders are walked. Has to be called before the event is over. */
export function readDrop(transfer: DataTransfer): Promise<Dropped> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() as FileSystemEntry | null)
  const plain = [...transfer.files]
  if (!entries.some((e) => e?.isDirectory)) return Promise.resolve({ files: plain, folder: null })
  return walk(entries.filter((e) => e !== null)).then((files) => ({
    files,
    folder: entries.length === 1 ? (entries[0]?.name ?? null) : null,
  }))
}

async function walk(entries: readonly (FileSystemEntry & Entry)[]): Promise<File[]> {
  const out: File[] = []
  const open = [...entries]
  while (open.length > 0 && out.length < MOST) {
    const entry = sure(open.shift())
    if (entry.isFile) out.push(await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)))
    else if (entry.isDirectory) open.push(...(await listed(entry as FileSystemDirectoryEntry)))
  }
  return out
}

/** A folder hands out its entries in portions until none is left. */
async function listed(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader()
  const out: FileSystemEntry[] = []
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (some.length === 0) return out
    out.push(...some)
  }
}
