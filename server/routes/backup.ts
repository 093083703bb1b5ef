/** /api/backup: the whole library as one file, and back. */
import { randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream, mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Hono } from 'hono'
import type { Database } from '../db/database'
import { ApiError } from '../errors'
import type { Jobs } from '../jobs/jobs'

/** Folder for what is only on its way; emptied when the server starts. */
export const passingFolder = (folder: string): string => join(folder, 'passing')

export const backupRoutes = (db: Database, jobs: Jobs) => {
  const passing = (ending: string): string => {
    mkdirSync(passingFolder(db.folder), { recursive: true })
    return join(passingFolder(db.folder), `${randomUUID()}.${ending}`)
  }
  return new Hono()
    .get('/', async (c) => {
      const file = passing('zip')
      const { bytes } = await jobs.backup({ database: db.file, file })
      const day = new Date().toISOString().slice(0, 10)
      const stream = createReadStream(file)
      stream.once('close', () => rmSync(file, { force: true }))
      return c.body(Readable.toWeb(stream) as ReadableStream<Uint8Array>, 200, {
        'Content-Type': 'application/zip',
        'Content-Length': String(bytes),
        'Content-Disposition': `attachment; filename="library-${day}.zip"`,
        'Cache-Control': 'no-store',
      })
    })
    .post('/', async (c) => {
      const { body } = c.req.raw
      if (!body) throw new ApiError(400, 'request.invalid', 'The request holds no backup.')
      const backup = passing('zip')
      const request = { database: db.file, backup, staging: passing('sqlite') }
      try {
        await pipeline(Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]), createWriteStream(backup))
        await jobs.prepareRestore(request)
        return c.json(await db.alone(() => jobs.commitRestore(request)))
      } finally {
        rmSync(backup, { force: true })
        rmSync(request.staging, { force: true })
      }
    })
}
