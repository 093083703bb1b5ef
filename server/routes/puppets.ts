/** /api/puppets */
import { Hono } from 'hono'
import { z } from 'zod'
import { newPuppet } from '@marionette/core/document/new'
import { freshId } from '@marionette/core/document/ids'
import { Name } from '@marionette/core/document/schema'
import { ApiError } from '../errors'
import type { PuppetStore } from '../puppetStore'
import type { Thumbnails } from '../thumbnails'
import { body } from './body'

/** The revision that a save is based on, from the If-Match header. */
function knownRevision(header: string | undefined): number {
  const match = /^(?:W\/)?"?(\d+)"?$/.exec(header ?? '')
  if (!match) throw new ApiError(428, 'puppet.revision', 'A save must say in If-Match which revision it is based on.')
  return Number(match[1])
}

/** The number of a version in an address. */
function versionOf(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new ApiError(400, 'request.invalid', `"${text}" is no version number.`)
  return Number(text)
}

const PICTURE = { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000' }

export const puppetRoutes = (store: PuppetStore, thumbnails: Thumbnails) =>
  new Hono()
    .get('/', async (c) => c.json(await store.list()))
    .get('/trash', async (c) => c.json(await store.list('trash')))
    .delete('/trash/:id', async (c) => {
      await store.purge(c.req.param('id'))
      return c.body(null, 204)
    })
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
      return c.body(png as Uint8Array<ArrayBuffer>, 200, { ...PICTURE, ETag: `"${revision}"` })
    })
    .get('/:id/revisions', async (c) => {
      const { revision } = await store.get(c.req.param('id'))
      return c.json({ present: revision, revisions: await store.revisions.list(c.req.param('id')) })
    })
    .get('/:id/revisions/:revision', async (c) =>
      c.json({ puppet: await store.revisions.get(c.req.param('id'), versionOf(c.req.param('revision'))) }),
    )
    .patch('/:id/revisions/:revision', body(z.object({ name: Name.nullable() })), async (c) => {
      await store.revisions.name(c.req.param('id'), versionOf(c.req.param('revision')), c.req.valid('json').name)
      return c.body(null, 204)
    })
    .get('/:id/revisions/:revision/thumbnail', async (c) => {
      const png = await thumbnails.ofRevision(c.req.param('id'), versionOf(c.req.param('revision')))
      return c.body(png as Uint8Array<ArrayBuffer>, 200, PICTURE)
    })
