/** Runs the server from the shell. */
import { readConfig } from './config'
import { LibraryError } from './db/database'
import { startServer } from './start'
import { recordOf } from '@marionette/core/kernel/sure'

/** Longest that the server takes to end once it is told to, ms. */
const LAST_MOMENT = 4500

const REASONS: Readonly<Record<string, string>> = {
  EADDRINUSE: 'That port is taken already; set MARIONETTE_PORT to another one.',
  EACCES: 'That port or folder may not be used by this user; set MARIONETTE_PORT or MARIONETTE_DATA to another one.',
  EADDRNOTAVAIL: 'This machine does not have that address; set MARIONETTE_HOST to one of its own.',
  ENOTFOUND: 'There is no such host; set MARIONETTE_HOST to an address of this machine.',
}

/** Why the server did not start, in a sentence. */
function reasonOf(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException
  if (code !== undefined && Object.hasOwn(REASONS, code)) return recordOf(REASONS, code)
  if (error instanceof LibraryError || code === undefined) return message
  return `The server could not start (${code}). Look whether its data folder is whole and may be written.`
}

try {
  const config = readConfig()
  const { url, close } = await startServer(config)
  console.log(`Your puppets are in ${config.dataFolder}`)
  console.log(`Eager Marionette is ready at ${url} (stop it with Ctrl+C)`)
  const end = (): void => {
    setTimeout(() => process.exit(0), LAST_MOMENT).unref()
    void close().then(
      () => process.exit(0),
      () => process.exit(0),
    )
  }
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, end)
} catch (error) {
  console.error(reasonOf(error))
  process.exit(2)
}
