/** /api/puppets */
import { zValidator } from '@hono/zod-validator'
import { Hono } from 'hono'
import { z } from 'zod'
import { newPuppet } from '@marionette/core/document/new'
import { freshId } from '@marionette/core/document/ids'
import { Name } from '@marionette/core/document/schema'
import { ApiError } from '../errors'
import type { PuppetStore } from '../puppetStore'
import type { Thumbnails } from '../thumbnails'

const body = <T extends z.ZodType>(schema: T) =>
  zValidator('json', schema, (result) => {
    if (!result.success) {
      const issue = result.error.issues[0]!
      throw new ApiError(400, 'request.invalid', `The request does not fit: ${issue.path.join('.') || 'body'}: ${issue.message}.`)
    }
  })

/** The revision that a save is based on, from the If-Match header. */
function knownRevision(header: string | undefined): number {
  const match = /^(?:W\/)?"?(\d+)"?$/.exec(header ?? '')
  if (!match) throw new ApiError(428, 'puppet.revision', 'A save must say in If-Match which revision it is based on.')
  return Number(match[1])
}

export const puppetRoutes = (store: PuppetStore, thumbnails: Thumbnails) =>
  new Hono()
    .get('/', async (c) => c.json(await store.list()))
    .post('/', body(z.object({ name: Name })), async (c) =>
      c.json(await store.add(newPuppet(freshId('puppet'), c.req.valid('json').name)), 201),
    )
    .post('/import', body(z.object({ document: z.unknown() })), async (c) => c.json(await store.add(c.req.valid('json').document), 201))
    .get('/:id', async (c) => {
      const { puppet, revision } = await store.get(c.req.param('id'))
      c.header('ETag', `"${revision}"`)
      return c.json({ puppet, revision })
    })
    .put('/:id', body(z.object({ document: z.unknown() })), async (c) =>
      c.json(await store.save(c.req.param('id'), c.req.valid('json').document, knownRevision(c.req.header('If-Match')))),
    )
    .patch('/:id', body(z.object({ name: Name })), async (c) => c.json(await store.rename(c.req.param('id'), c.req.valid('json').name)))
    .post('/:id/duplicate', async (c) => c.json(await store.duplicate(c.req.param('id')), 201))
    .delete('/:id', async (c) => {
      await store.remove(c.req.param('id'))
      return c.body(null, 204)
    })
    .post('/:id/restore', async (c) => c.json(await store.restore(c.req.param('id'))))
    .get('/:id/thumbnail', async (c) => {
      const { revision, png } = await thumbnails.get(c.req.param('id'))
      return c.body(png as Uint8Array<ArrayBuffer>, 200, {
        'Content-Type': 'image/png',
        ETag: `"${revision}"`,
        'Cache-Control': 'private, max-age=31536000',
      })
    })
