/** /api/backup: the whole library as one file, and back. */
import { Hono } from 'hono'
import { readBackup, restoreBackup, writeBackup } from '../backup'
import { ApiError } from '../errors'
import type { PuppetStore } from '../puppetStore'
import { FormatError } from '@marionette/formats/warnings'

export const backupRoutes = (store: PuppetStore) =>
  new Hono()
    .get('/', async (c) => {
      const day = new Date().toISOString().slice(0, 10)
      return c.body((await writeBackup(store)) as Uint8Array<ArrayBuffer>, 200, {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename="library-${day}.zip"`,
        'Cache-Control': 'no-store',
      })
    })
    .post('/', async (c) => {
      const bytes = new Uint8Array(await c.req.arrayBuffer())
      try {
        return c.json(await restoreBackup(store, readBackup(bytes)))
      } catch (error) {
        if (error instanceof FormatError) throw new ApiError(422, 'backup.invalid', error.message)
        throw error
      }
    })
