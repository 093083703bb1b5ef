/** Runs the server from the shell. */
import { readConfig } from './config'
import { startServer } from './start'

try {
  const { url, close } = await startServer(readConfig())
  console.log(`Eager Marionette is ready at ${url} (stop it with Ctrl+C)`)
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void close().then(() => process.exit(0)))
} catch (error) {
  const reason = error as NodeJS.ErrnoException
  if (reason.code === 'EADDRINUSE') console.error('That port is taken already; set MARIONETTE_PORT to another one.')
  else console.error(reason.message)
  process.exit(2)
}
