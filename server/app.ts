/** The HTTP application: API and built interface. Takes its store as an argument, so that tests need no port. */
import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { serveStatic } from '@hono/node-server/serve-static'
import { Hono } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import { compress } from 'hono/compress'
import { HTTPException } from 'hono/http-exception'
import type { Config } from './config'
import { ApiError } from './errors'
import { storageProblem } from './db/problems'
import { guard, protectiveHeaders } from './middleware/guard'
import { pace } from './middleware/pace'
import type { PuppetStore } from './puppetStore'
import { assetRoutes } from './routes/assets'
import { backupRoutes } from './routes/backup'
import { puppetRoutes } from './routes/puppets'
import { templateRoutes } from './routes/templates'
import { Thumbnails } from './thumbnails'

type Settings = Pick<Config, 'allowedHosts' | 'maxUploadBytes' | 'maxRequests' | 'appFolder'>

const apiRoutes = (store: PuppetStore) =>
  new Hono()
    .get('/health', (c) => c.json({ ok: true }))
    .route('/puppets', puppetRoutes(store, new Thumbnails(store)))
    .route('/assets', assetRoutes(store.assets))
    .route('/templates', templateRoutes(store.templates))
    .route('/backup', backupRoutes(store))

/** Routes for the typed client. */
export type Api = ReturnType<typeof apiRoutes>

export function makeApp(store: PuppetStore, settings: Settings): Hono {
  const app = new Hono()
  app.onError((error, c) => {
    if (error instanceof ApiError) return c.json({ code: error.code, message: error.message, ...error.details }, error.status)
    if (error instanceof HTTPException)
      return c.json(
        { code: 'request.invalid', message: `The request cannot be read${error.message ? `: ${error.message}` : ''}.` },
        error.status,
      )
    const storage = storageProblem(error)
    if (storage) return c.json({ code: storage.code, message: storage.message }, storage.status)
    console.error(error)
    return c.json({ code: 'server.failed', message: 'The server could not do that; nothing was changed. Its log tells more.' }, 500)
  })
  app.use(protectiveHeaders())
  app.use(guard(settings.allowedHosts))
  app.use('/api/*', pace(settings.maxRequests))
  app.use('/api/*', bodyLimit({ maxSize: settings.maxUploadBytes, onError: () => tooLarge(settings.maxUploadBytes) }))
  app.use(compress())
  app.route('/api', apiRoutes(store))
  app.all('/api/*', (c) => {
    throw new ApiError(404, 'request.unknown', `There is nothing at ${c.req.path}.`)
  })
  serveInterface(app, settings.appFolder)
  return app
}

function tooLarge(limit: number): never {
  throw new ApiError(413, 'request.large', `The request is larger than ${Math.round(limit / 1024 / 1024)} MB.`)
}

/** Files with a hash in their name never change; every other address is the interface itself. */
function serveInterface(app: Hono, folder: string): void {
  app.use('/assets/*', async (c, next) => {
    await next()
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable')
  })
  app.use('*', serveStatic({ root: folder }))
  app.get('*', async (c) => {
    const index = join(folder, 'index.html')
    if (!existsSync(index)) return c.text('The interface is not built yet. Run "npm run build", or "npm run dev" for development.', 503)
    c.header('Cache-Control', 'no-cache')
    return c.html(await readFile(index, 'utf8'))
  })
}
