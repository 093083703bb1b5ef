/** Opens the library, fills an empty one with the demo puppets, and listens. */
import type { AddressInfo } from 'node:net'
import { serve } from '@hono/node-server'
import { DEMOS } from '@marionette/demo/demos'
import { makeApp } from './app'
import type { Config } from './config'
import { openDatabase } from './db/database'
import { PuppetStore } from './puppetStore'

export interface RunningServer {
  readonly url: string
  close(): Promise<void>
}

export async function startServer(config: Config): Promise<RunningServer> {
  const db = await openDatabase(config.dataFolder)
  const store = new PuppetStore(db)
  if (config.demo && (await store.isNew())) for (const build of Object.values(DEMOS)) await store.add(build())
  const app = makeApp(store, config)
  return new Promise((resolve, reject) => {
    const server = serve({ fetch: app.fetch, hostname: config.host, port: config.port }, (address: AddressInfo) =>
      resolve({
        url: `http://${config.host}:${address.port}`,
        close: async () => {
          await new Promise((done) => server.close(done))
          await db.close()
        },
      }),
    )
    server.on('error', reject)
  })
}
