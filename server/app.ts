/** The HTTP application: API and built interface. Takes its store as an argument, so that tests need no port. */
import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { serveStatic } from '@hono/node-server/serve-static'
import { Hono } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import { compress } from 'hono/compress'
import { HTTPException } from 'hono/http-exception'
import type { Logger } from 'pino'
import type { Config } from './config'
import type { Database } from './db/database'
import { ApiError } from './errors'
import { storageProblem } from './db/problems'
import type { Jobs } from './jobs/jobs'
import { guard, protectiveHeaders } from './middleware/guard'
import { logFailure, logRequests } from './middleware/log'
import { pace } from './middleware/pace'
import { Doorkeeper } from './middleware/passcode'
import type { PuppetStore } from './puppetStore'
import { assetRoutes } from './routes/assets'
import { backupRoutes } from './routes/backup'
import { puppetRoutes, trashRoutes } from './routes/puppets'
import { motionRoutes, templateRoutes } from './routes/templates'
import { Thumbnails } from './thumbnails'

type Settings = Pick<Config, 'allowedHosts' | 'maxUploadBytes' | 'maxRequests' | 'appFolder' | 'passcode'>

/** What the application stands on. */
export interface Ground {
  readonly store: PuppetStore
  readonly db: Database
  readonly jobs: Jobs
  readonly log: Logger
}

const apiRoutes = ({ store, db, jobs }: Ground, doorkeeper: Doorkeeper) =>
  new Hono()
    .get('/health', (c) => c.json({ ok: true }))
    .route('/session', doorkeeper.routes())
    .use('*', doorkeeper.guard())
    .route('/puppets', puppetRoutes(store, new Thumbnails(store, jobs, db), jobs))
    .route('/trash', trashRoutes(store))
    .route('/assets', assetRoutes(store.assets))
    .route('/templates', templateRoutes(store.templates))
    .route('/motions', motionRoutes(store.templates))
    .route('/backup', backupRoutes(db, jobs))

/** Routes for the typed client. */
export type Api = ReturnType<typeof apiRoutes>

export function makeApp(ground: Ground, settings: Settings): Hono {
  const app = new Hono()
  const { log } = ground
  app.onError((error, c) => {
    if (error instanceof ApiError) return c.json({ code: error.code, message: error.message, ...error.details }, error.status)
    if (error instanceof HTTPException)
      return c.json(
        { code: 'request.invalid', message: `The request cannot be read${error.message ? `: ${error.message}` : ''}.` },
        error.status,
      )
    const storage = storageProblem(error)
    if (storage) return c.json({ code: storage.code, message: storage.message }, storage.status)
    logFailure(log, error, c.req.path)
    return c.json({ code: 'server.failed', message: 'The server could not do that; nothing was changed. Its log tells more.' }, 500)
  })
  app.use(logRequests(log))
  app.use(protectiveHeaders())
  app.use(guard(settings.allowedHosts))
  app.use('/api/*', pace(settings.maxRequests))
  const limit = bodyLimit({ maxSize: settings.maxUploadBytes, onError: () => tooLarge(settings.maxUploadBytes) })
  // A backup is as large as its library; it goes to the disk as it comes.
  app.use('/api/*', (c, next) => (c.req.path === '/api/backup' ? next() : limit(c, next)))
  app.use(compress())
  app.route('/api', apiRoutes(ground, new Doorkeeper(settings.passcode)))
  app.all('/api/*', (c) => {
    throw new ApiError(404, 'request.unknown', `There is nothing at ${c.req.path}.`)
  })
  serveInterface(app, settings.appFolder)
  return app
}

function tooLarge(limit: number): never {
  throw new ApiError(413, 'request.large', `The request is larger than ${Math.round(limit / 1024 / 1024)} MB.`)
}

/**
 * Files with a hash in their name never change, and one that is not there is from another build: the page asks for the interface
 * again. That is never kept by the browser; every other address is the interface itself.
 */
function serveInterface(app: Hono, folder: string): void {
  app.use('/assets/*', async (c, next) => {
    await next()
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable')
  })
  app.use('*', async (c, next) => {
    await next()
    if (c.res.headers.get('Content-Type')?.startsWith('text/html')) c.header('Cache-Control', 'no-cache')
  })
  if (existsSync(folder)) app.use('*', serveStatic({ root: folder }))
  app.get('/assets/*', (c) =>
    c.text('This file is of another version of the interface; load the page again.', 404, { 'Cache-Control': 'no-store' }),
  )
  app.get('*', async (c) => {
    const index = join(folder, 'index.html')
    if (!existsSync(index)) return c.text('The interface is not built yet. Run "npm run build", or "npm run dev" for development.', 503)
    c.header('Cache-Control', 'no-cache')
    return c.html(await readFile(index, 'utf8'))
  })
}
