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

async function addDemos(store: PuppetStore): Promise<void> {
  for (const build of Object.values(DEMOS)) {
    const { puppet, assets } = build()
    for (const [hash, bytes] of assets) await store.assets.add(hash, bytes)
    await store.add(puppet)
  }
}

export async function startServer(config: Config): Promise<RunningServer> {
  const db = await openDatabase(config.dataFolder)
  const store = new PuppetStore(db)
  if (config.demo && (await store.isNew())) await addDemos(store)
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
