/** Opens the library, fills an empty one with the demo puppets, and listens. */
import { rmSync } from 'node:fs'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { serve } from '@hono/node-server'
import { DEMOS } from '@marionette/demo/demos'
import { makeApp } from './app'
import type { Config } from './config'
import { openDatabase } from './db/database'
import { workerJobs } from './jobs/pool'
import { logFailure, openLog } from './middleware/log'
import { PuppetStore } from './puppetStore'
import { passingFolder } from './routes/backup'

export interface RunningServer {
  readonly url: string
  close(): Promise<void>
}

const DAY = 24 * 3600 * 1000
/** How long requests that are on their way may take when the server is told to end, ms. */
const LAST_ANSWERS = 1500
/** How long a connection may lie idle, ms: longer than a client is ever busy with itself, or it sends into one that is just being closed. */
const IDLE_CONNECTION = 65_000

export async function startServer(config: Config): Promise<RunningServer> {
  const db = await openDatabase(config.dataFolder)
  rmSync(passingFolder(config.dataFolder), { recursive: true, force: true })
  const store = new PuppetStore(db)
  // All of them or none: killed in between, the next start finds an empty library again.
  if (config.demo && (await store.isNew())) await store.addTogether(Object.values(DEMOS).map((build) => build()))
  const log = openLog(config.dataFolder, config.log)
  const jobs = workerJobs()
  const app = makeApp({ store, db, jobs, log }, config)
  const sweep = (): void => void store.assets.sweep().catch((error: unknown) => logFailure(log, error))
  const sweeping = setInterval(sweep, DAY)
  sweeping.unref()
  sweep()
  return new Promise((resolve, reject) => {
    const listening = {
      fetch: app.fetch,
      hostname: config.host,
      port: config.port,
      serverOptions: { keepAliveTimeout: IDLE_CONNECTION },
    }
    const server = serve(listening, (address: AddressInfo) =>
      resolve({
        url: `http://${config.host}:${address.port}`,
        close: async () => {
          clearInterval(sweeping)
          await closeListening(server as Server)
          await jobs.close()
          await db.close()
        },
      }),
    )
    server.on('error', reject)
  })
}

/** Takes no new requests, and lets go of those that do not end. */
async function closeListening(server: Server): Promise<void> {
  const closed = new Promise<void>((done) => server.close(() => done()))
  server.closeIdleConnections()
  const letGo = setTimeout(() => server.closeAllConnections(), LAST_ANSWERS)
  await closed
  clearTimeout(letGo)
}
