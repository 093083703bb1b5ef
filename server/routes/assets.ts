/** /api/assets: raster pictures by the hash of their bytes. */
import { Hono } from 'hono'
import { z } from 'zod'
import { AssetHash } from '@marionette/core/kernel/ids'
import type { AssetStore } from '../assetStore'
import { ApiError } from '../errors'
import { body } from './body'

function hashOf(text: string): string {
  if (!AssetHash.safeParse(text).success) throw new ApiError(400, 'request.invalid', 'A picture is named by the SHA-256 of its bytes.')
  return text
}

export const assetRoutes = (assets: AssetStore) =>
  new Hono()
    /** A page says which pictures it needs, also for what could still be undone; told is which of them are not there. */
    .post('/needed', body(z.object({ hashes: z.array(AssetHash).max(20_000) })), async (c) =>
      c.json({ missing: await assets.needed(c.req.valid('json').hashes) }),
    )
    .get('/:hash', async (c) => {
      const { type, bytes } = await assets.get(hashOf(c.req.param('hash')))
      return c.body(bytes as Uint8Array<ArrayBuffer>, 200, { 'Content-Type': type, 'Cache-Control': 'public, max-age=31536000, immutable' })
    })
    .put('/:hash', async (c) => {
      await assets.add(hashOf(c.req.param('hash')), new Uint8Array(await c.req.arrayBuffer()))
      return c.body(null, 204)
    })
