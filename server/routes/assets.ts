/** /api/assets: raster pictures by the hash of their bytes. */
import { Hono } from 'hono'
import { AssetHash } from '@marionette/core/document/ids'
import type { AssetStore } from '../assetStore'
import { ApiError } from '../errors'

function hashOf(text: string): string {
  if (!AssetHash.safeParse(text).success) throw new ApiError(400, 'request.invalid', 'A picture is named by the SHA-256 of its bytes.')
  return text
}

export const assetRoutes = (assets: AssetStore) =>
  new Hono()
    .get('/:hash', async (c) => {
      const { type, bytes } = await assets.get(hashOf(c.req.param('hash')))
      return c.body(bytes as Uint8Array<ArrayBuffer>, 200, { 'Content-Type': type, 'Cache-Control': 'public, max-age=31536000, immutable' })
    })
    .put('/:hash', async (c) => {
      await assets.add(hashOf(c.req.param('hash')), new Uint8Array(await c.req.arrayBuffer()))
      return c.body(null, 204)
    })
