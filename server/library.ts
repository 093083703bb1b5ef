/** `npm run -s library -- backup|restore|rescue FILE`: the whole library to one file and back, from the shell. */
import { readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { readBackup, restoreBackup, writeBackup } from './backup'
import { readConfig } from './config'
import { openDatabase, openDamaged } from './db/database'
import { PuppetStore } from './puppetStore'

const USAGE = `usage:
  library backup FILE     writes all puppets, their named versions and pictures into one file
  library restore FILE    brings a backup into the library; nothing there is overwritten
  library rescue FILE     writes what can still be read of a damaged library into a backup

The library is the one in MARIONETTE_DATA.`

/** Paths are meant from where the person called. */
const at = (path: string): string => resolve(process.env['INIT_CWD'] ?? process.cwd(), path)

async function backup(file: string): Promise<string> {
  const db = await openDatabase(readConfig().dataFolder)
  const bytes = await writeBackup(new PuppetStore(db))
  await db.close()
  writeFileSync(at(file), bytes)
  return `The library is in ${file} (${Math.ceil(bytes.length / 1024)} KB).`
}

async function restore(file: string): Promise<string> {
  const contents = readBackup(readFileSync(at(file)))
  const db = await openDatabase(readConfig().dataFolder)
  const { added, copied, unchanged } = await restoreBackup(new PuppetStore(db), contents)
  await db.close()
  return `${added} puppets were added, ${copied} came in as copies beside what is there, ${unchanged} were there already.`
}

async function rescue(file: string): Promise<string> {
  const db = openDamaged(readConfig().dataFolder)
  const lost: string[] = []
  const bytes = await writeBackup(new PuppetStore(db), (name) => lost.push(name))
  await db.close()
  writeFileSync(at(file), bytes)
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
  const { code, message, path } = error as NodeJS.ErrnoException
  console.error(code === 'ENOENT' ? `${path}: there is no such file.` : message)
  process.exitCode = 2
}
