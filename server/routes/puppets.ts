/** /api/puppets and /api/trash */
import { Hono, type Context } from 'hono'
import { z } from 'zod'
import { newPuppet } from '@marionette/core/puppet/new'
import { freshId, PuppetId } from '@marionette/core/kernel/ids'
import { CURRENT_VERSION, Name } from '@marionette/core/puppet/schema'
import { ApiError, missing } from '../errors'
import type { Jobs } from '../jobs/jobs'
import type { PuppetStore } from '../puppetStore'
import type { Thumbnails } from '../thumbnails'
import { body } from './body'

/** The revision that a save is based on, from the If-Match header. */
function knownRevision(header: string | undefined): number {
  const match = /^(?:W\/)?"?(\d{1,9})"?$/.exec(header ?? '')
  if (!match) throw new ApiError(428, 'puppet.revision', 'A save must say in If-Match which revision it is based on.')
  return Number(match[1])
}

/** What a page calls a save, from the Save-Id header; null where it calls it nothing. */
function saveIdOf(header: string | undefined): string | null {
  if (header === undefined) return null
  if (!/^[A-Za-z0-9-]{8,64}$/.test(header)) throw new ApiError(400, 'request.invalid', 'A Save-Id has 8 to 64 letters, digits or -.')
  return header
}

/** The number of a version in an address. */
function versionOf(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new ApiError(400, 'request.invalid', `"${text.slice(0, 40)}" is no version number.`)
  return Number(text)
}

/** The id in an address. Anything that is no id names no puppet. */
function idIn(c: Context): string {
  const id = c.req.param('id') ?? ''
  if (!PuppetId.safeParse(id).success) throw missing(id.replaceAll(/[^\w -]/g, '?').slice(0, 64))
  return id
}

const PICTURE = { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000' }

/** The version that a stored document says it has; canonical JSON has it once at the top, behind all records. */
function storedVersion(document: string): number {
  const at = document.lastIndexOf('"version":')
  return at < 0 ? 0 : Number.parseInt(document.slice(at + '"version":'.length, at + 20), 10)
}

export const puppetRoutes = (store: PuppetStore, thumbnails: Thumbnails, jobs: Jobs) => {
  /** A document as the page reads it: as it is stored where it is of this version, else brought up to it. */
  const present = async (document: string): Promise<string> => {
    const version = storedVersion(document)
    if (version === CURRENT_VERSION) return document
    if (version > CURRENT_VERSION)
      throw new ApiError(
        409,
        'puppet.newer',
        `This puppet was made by a newer version of the program (document ${version}, this one reads up to ${CURRENT_VERSION}). It is kept as it is; update the program to open it.`,
      )
    return (await jobs.check(document)).document
  }
  return new Hono()
    .get('/', async (c) => c.json(await store.list()))
    .post('/', body(z.object({ name: Name })), async (c) =>
      c.json(await store.add(newPuppet(freshId('puppet'), c.req.valid('json').name)), 201),
    )
    .post('/import', async (c) => c.json(await store.addChecked(await jobs.checkBody(new Uint8Array(await c.req.arrayBuffer()))), 201))
    .get('/:id', async (c) => {
      const id = idIn(c)
      const { document, revision } = await store.text(id)
      const saveId = await store.revisions.saveIdOf(id, revision)
      c.header('ETag', `"${revision}"`)
      // Put together from text: a large document is not parsed here only to be written again.
      return c.body(`{"puppet":${await present(document)},"revision":${revision},"saveId":${JSON.stringify(saveId)}}`, 200, {
        'Content-Type': 'application/json',
      })
    })
    .put('/:id', async (c) => {
      const revision = knownRevision(c.req.header('If-Match'))
      const saveId = saveIdOf(c.req.header('Save-Id'))
      const checked = await jobs.checkBody(new Uint8Array(await c.req.arrayBuffer()))
      return c.json(
        await store.saveChecked(idIn(c), checked, { revision, saveId, before: checked.before === 'restore' ? 'restore' : null }),
      )
    })
    .patch('/:id', body(z.object({ name: Name })), async (c) =>
      c.json(await store.change(idIn(c), (document) => jobs.copy(document, { name: c.req.valid('json').name }))),
    )
    .post('/:id/duplicate', async (c) => {
      const { document } = await store.text(idIn(c))
      return c.json(await store.addChecked(await jobs.copy(document, { id: 'fresh', suffix: ' copy' })), 201)
    })
    .delete('/:id', async (c) => {
      await store.remove(idIn(c))
      return c.body(null, 204)
    })
    .post('/:id/restore', async (c) => c.json(await store.restore(idIn(c))))
    .get('/:id/thumbnail', async (c) => {
      const { revision, png } = await thumbnails.get(idIn(c))
      return c.body(png as Uint8Array<ArrayBuffer>, 200, { ...PICTURE, ETag: `"${revision}"` })
    })
    .get('/:id/revisions', async (c) => {
      const { revision } = await store.text(idIn(c))
      return c.json({ present: revision, revisions: await store.revisions.list(idIn(c)) })
    })
    .get('/:id/revisions/:revision', async (c) => {
      const id = idIn(c)
      const document = await present(await store.revisions.text(id, versionOf(c.req.param('revision'))))
      return c.body(`{"puppet":${document},"id":${JSON.stringify(id)}}`, 200, { 'Content-Type': 'application/json' })
    })
    .patch('/:id/revisions/:revision', body(z.object({ name: Name.nullable() })), async (c) => {
      await store.revisions.name(idIn(c), versionOf(c.req.param('revision')), c.req.valid('json').name)
      return c.body(null, 204)
    })
    .get('/:id/revisions/:revision/thumbnail', async (c) => {
      const png = await thumbnails.ofRevision(idIn(c), versionOf(c.req.param('revision')))
      return c.body(png as Uint8Array<ArrayBuffer>, 200, PICTURE)
    })
}

export const trashRoutes = (store: PuppetStore) =>
  new Hono()
    .get('/', async (c) => c.json(await store.list('trash')))
    .delete('/:id', async (c) => {
      await store.purge(idIn(c))
      return c.body(null, 204)
    })
