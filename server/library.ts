/** `npm run -s library -- backup|restore|rescue FILE`: the whole library to one file and back, from the shell. */
import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { commitRestore, prepareRestore } from './backup/restore'
import { writeBackup } from './backup/write'
import { readConfig } from './config'
import { DATABASE_FILE, openDatabase } from './db/database'
import { storageMessage } from './db/problems'
import { passingFolder } from './routes/backup'

const USAGE = `usage:
  library backup FILE     writes all puppets, their versions, pictures and templates into one file
  library restore FILE    brings a backup into the library; nothing there is overwritten
  library rescue FILE     writes what can still be read of a damaged library into a backup

The library is the one in MARIONETTE_DATA.`

/** Paths are meant from where the person called. */
const at = (path: string): string => resolve(process.env['INIT_CWD'] ?? process.cwd(), path)

async function backup(file: string): Promise<string> {
  // Opened once, so that an older library gets its tables first.
  const db = await openDatabase(readConfig().dataFolder)
  try {
    const { bytes, puppets } = await writeBackup({ database: db.file, file: at(file) })
    return `The library with its ${puppets} puppets is in ${file} (${Math.ceil(bytes / 1024)} KB).`
  } finally {
    await db.close()
  }
}

async function restore(file: string): Promise<string> {
  if (!existsSync(at(file))) throw new Error(`${at(file)}: there is no such file.`)
  const db = await openDatabase(readConfig().dataFolder)
  mkdirSync(passingFolder(db.folder), { recursive: true })
  const request = { database: db.file, backup: at(file), staging: join(passingFolder(db.folder), `${randomUUID()}.sqlite`) }
  try {
    await prepareRestore(request)
    const { added, copied, unchanged } = await commitRestore(request)
    return `${added} puppets were added, ${copied} came in as copies beside what is there, ${unchanged} were there already.`
  } finally {
    rmSync(request.staging, { force: true })
    await db.close()
  }
}

async function rescue(file: string): Promise<string> {
  const { lost } = await writeBackup({ database: join(readConfig().dataFolder, DATABASE_FILE), file: at(file), spare: true })
  const rest = lost.length === 0 ? 'Everything could be read.' : `Not readable any more: ${lost.join(', ')}.`
  return `What could be read is in ${file}. ${rest}`
}

const VERBS: Readonly<Record<string, (file: string) => Promise<string>>> = { backup, restore, rescue }

try {
  const [verb = '', file] = process.argv.slice(2)
  const work = Object.hasOwn(VERBS, verb) ? VERBS[verb] : undefined
  if (!work || !file) throw new Error(USAGE)
  console.log(await work(file))
} catch (error) {
  console.error(storageMessage(error) ?? (error as Error).message)
  process.exitCode = 2
}
