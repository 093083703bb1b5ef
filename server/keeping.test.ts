/** What the library keeps and what it lets go: pictures, thumbnails, saves that come twice, and who may come in. */
import { createHash, randomBytes } from 'node:crypto'
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet } from '@marionette/core/test/puppets'
import { CURRENT_VERSION } from '@marionette/core/puppet/schema'
import { importSvg } from '@marionette/formats/svg/import'
import { GRACE } from './assetStore'
import { readConfig } from './config'
import { inlineJobs } from './jobs/inline'
import { makeApp } from './app'
import { openLog } from './middleware/log'
import { PLAIN_PICTURE } from './plainPicture'
import { TestLibrary } from './test'

let library: TestLibrary
const ask: TestLibrary['ask'] = (...request) => library.ask(...request)

beforeEach(async () => {
  library = await TestLibrary.open()
})
afterEach(() => library.close())

const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
const HASH = createHash('sha256').update(PNG).digest('hex')
const pictured = (): Puppet => ({
  ...importSvg(
    `<svg xmlns="http://www.w3.org/2000/svg"><image width="9" height="9" href="data:image/png;base64,${PNG.toString('base64')}"/></svg>`,
    'Pictured',
  ).puppet,
  id: 'pictured',
})
const later = (): number => Date.now() + 2 * GRACE

describe('pictures that nothing uses', () => {
  beforeEach(async () => {
    await library.store.assets.add(HASH, PNG)
  })

  test('go after the time of grace, not before', async () => {
    expect(await library.store.assets.sweep()).toBe(0)
    expect(await library.store.assets.sweep(later())).toBe(1)
    expect((await ask('GET', `/api/assets/${HASH}`)).status).toBe(404)
  })

  test('stay while a puppet, a version of it or the trash needs them', async () => {
    await library.store.add(pictured())
    await library.store.save('pictured', { ...armPuppet(), id: 'pictured' }, 1)
    expect(await library.store.assets.sweep(later())).toBe(0)
    await library.store.remove('pictured')
    expect(await library.store.assets.sweep(later())).toBe(0)
    await library.store.purge('pictured')
    expect(await library.store.assets.sweep(later())).toBe(1)
  })

  test('stay while a page says that it needs them, and are asked for when they are gone', async () => {
    const [other] = ['b'.repeat(64)]
    expect((await ask('POST', '/api/assets/needed', { hashes: [HASH, other] })).body).toEqual({ missing: [other] })
    await library.db.assets.update({ createdAt: new Date(0) } as never, { where: { hash: HASH }, silent: true })
    expect(await library.store.assets.sweep()).toBe(0)
    expect(await library.store.assets.sweep(later())).toBe(1)
  })
})

describe('thumbnails', () => {
  test('are those of the content: a purged id that comes back shows what it is now', async () => {
    await library.store.add({ ...armPuppet(), id: 'one' })
    const before = (await ask('GET', '/api/puppets/one/thumbnail')).body as Uint8Array
    await library.store.remove('one')
    await library.store.purge('one')
    const changed = { ...armPuppet(), id: 'one' }
    changed.drawings = { ...changed.drawings, 'd-hand': { ...changed.drawings['d-hand']!, shapes: [] } }
    await library.store.add(changed)
    expect(Buffer.from((await ask('GET', '/api/puppets/one/thumbnail')).body as Uint8Array).equals(before)).toBe(false)
  })

  test('that cannot be drawn are plain, and are not tried again at every visit', async () => {
    let tries = 0
    library.jobs = {
      ...inlineJobs,
      thumbnail: async () => {
        tries++
        throw new Error('too much')
      },
    }
    await library.store.add(armPuppet())
    for (let visit = 0; visit < 3; visit++)
      expect(Buffer.from((await ask('GET', '/api/puppets/arm/thumbnail')).body as Uint8Array).equals(PLAIN_PICTURE)).toBe(true)
    await library.reopen()
    await ask('GET', '/api/puppets/arm/thumbnail')
    expect(tries).toBe(1)
  })
})

describe('a save that comes twice', () => {
  const noted = (note: string): Puppet => run(armPuppet(), setNote, { note })
  const put = (note: string, base: number, id: string) =>
    ask('PUT', '/api/puppets/arm', { document: noted(note) }, { 'If-Match': `"${base}"`, 'Save-Id': id })

  test('is answered as the first time, and is no conflict', async () => {
    await library.store.add(armPuppet())
    expect((await put('a', 1, 'save-0001')).body.revision).toBe(2)
    expect(await put('a', 1, 'save-0001')).toMatchObject({ status: 200, body: { revision: 2 } })
    expect((await put('b', 2, 'save-0002')).body.revision).toBe(3)
    expect(await put('a', 1, 'save-0001')).toMatchObject({ status: 200, body: { revision: 2 } })
    expect((await ask('GET', '/api/puppets/arm')).body).toMatchObject({ revision: 3, saveId: 'save-0002', puppet: { note: 'b' } })
  })

  test('of another person is a conflict that says whose', async () => {
    await library.store.add(armPuppet())
    await put('theirs', 1, 'save-0001')
    expect(await put('mine', 1, 'save-0002')).toMatchObject({ status: 412, body: { revision: 2, saveId: 'save-0001' } })
    expect((await put('mine', 1, 'no')).status).toBe(400)
  })
})

describe('documents of other versions', () => {
  test('an older one is brought up when it is opened; a newer one is named, listed, backed up and comes back', async () => {
    await library.store.add(armPuppet())
    const document = JSON.stringify({ ...armPuppet(), id: 'newer', version: 99, news: true })
    await library.db.puppets.create({
      ...{ id: 'newer', name: 'Newer', note: '', parts: 1, bones: 1 },
      revision: 1,
      document,
      deletedAt: null,
    })
    await library.db.puppets.update({ document: JSON.stringify({ ...armPuppet(), version: 10 }) }, { where: { id: 'arm' } })
    expect((await ask('GET', '/api/puppets/arm')).body.puppet.version).toBe(CURRENT_VERSION)
    expect(await ask('GET', '/api/puppets/newer')).toMatchObject({ status: 409, body: { code: 'puppet.newer' } })
    expect((await ask('GET', '/api/puppets')).body).toHaveLength(2)
    expect((await ask('GET', '/api/puppets/newer/thumbnail')).status).toBe(200)
    const file = (await ask('GET', '/api/backup')).body as Uint8Array
    const other = await TestLibrary.open()
    await other.db.puppets.create({
      ...{ id: 'newer', name: 'There', note: '', parts: 1, bones: 1 },
      revision: 1,
      document: '{}',
      deletedAt: null,
    })
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 1, copied: 1, unchanged: 0 })
    const [copy] = (await other.db.puppets.findAll()).filter((p) => p.id !== 'newer' && p.name === 'Arm' && p.document.includes('news'))
    expect(JSON.parse(copy!.document)).toMatchObject({ version: 99, news: true, id: copy!.id })
    await other.close()
  })
})

describe('backups', () => {
  test('hold templates, unnamed versions and the trash; names and places come back', async () => {
    await library.store.add(armPuppet())
    await library.store.save('arm', run(armPuppet(), setNote, { note: 'two' }), 1)
    await library.store.revisions.name('arm', 1, 'First')
    await library.store.remove('arm')
    const file = (await ask('GET', '/api/backup')).body as Uint8Array
    const other = await TestLibrary.open()
    await other.ask('POST', '/api/backup', file)
    expect(await other.store.list('trash')).toHaveLength(1)
    expect((await other.store.revisions.list('arm')).map((r) => [r.revision, r.name])).toEqual([
      [2, null],
      [1, 'First'],
    ])
    // A name that was taken away since comes back with the same backup.
    await other.store.revisions.name('arm', 1, null)
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 0, copied: 0, unchanged: 1 })
    expect((await other.store.revisions.list('arm')).at(-1)!.name).toBe('First')
    await other.close()
  })
})

describe('a backup that is larger than any other request may be', () => {
  test('comes back', async () => {
    // Noise does not pack: two megabytes of it, twice what a test library takes in one request.
    const bytes = Buffer.concat([PNG, randomBytes(2 * 1024 * 1024)])
    await library.store.assets.add(createHash('sha256').update(bytes).digest('hex'), bytes)
    await library.store.add(armPuppet())
    const file = (await ask('GET', '/api/backup')).body as Uint8Array
    expect(file.length).toBeGreaterThan(2 * 1024 * 1024)
    const other = await TestLibrary.open()
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 1, copied: 0, unchanged: 0 })
    await other.close()
  })
})

describe('connections of the database', () => {
  test('all write through to the disk, also those that transactions open', async () => {
    const settings = async (transaction?: Parameters<typeof library.db.query>[1]) => {
      const [row] = await library.db.query<{ synchronous: number }>('PRAGMA synchronous', transaction)
      return row!.synchronous
    }
    const FULL = 2
    expect(await settings()).toBe(FULL)
    for (let n = 0; n < 3; n++) expect(await library.db.write((transaction) => settings(transaction))).toBe(FULL)
  })
})

describe('who may come in', () => {
  test('an address that others can reach needs a passcode', () => {
    for (const host of ['0.0.0.0', '192.168.1.4', '::', 'rig.local'])
      expect(() => readConfig({ MARIONETTE_HOST: host })).toThrow('MARIONETTE_PASSCODE')
    expect(readConfig({ MARIONETTE_HOST: '0.0.0.0', MARIONETTE_PASSCODE: 'saltmarsh' }).passcode).toBe('saltmarsh')
    for (const host of ['127.0.0.1', 'localhost', '::1']) expect(readConfig({ MARIONETTE_HOST: host }).passcode).toBeNull()
  })

  test('whoever knows it, until signing out; wrong ones are counted', async () => {
    library.passcode = 'saltmarsh'
    expect((await ask('GET', '/api/health')).status).toBe(200)
    expect(await ask('GET', '/api/puppets')).toMatchObject({ status: 401, body: { code: 'session.needed' } })
    expect((await ask('POST', '/api/session', { passcode: 'saltmarsx' })).status).toBe(401)
    const signedIn = await ask('POST', '/api/session', { passcode: 'saltmarsh' })
    const cookie = signedIn.headers.get('Set-Cookie')!
    expect(cookie).toMatch(/HttpOnly.*SameSite=Strict/)
    const with_ = { Cookie: cookie.split(';')[0]! }
    expect((await ask('GET', '/api/puppets', undefined, with_)).status).toBe(200)
    await ask('DELETE', '/api/session', undefined, with_)
    expect((await ask('GET', '/api/puppets', undefined, with_)).status).toBe(401)
    const tries = []
    for (let n = 0; n < 10; n++) tries.push((await ask('POST', '/api/session', { passcode: `wrong-${n}` })).status)
    expect(tries).toContain(429)
  })
})

describe('the interface', () => {
  test('is asked for anew each time, and files of another build are told missing', async () => {
    const folder = join(library.folder, 'built')
    mkdirSync(join(folder, 'assets'), { recursive: true })
    writeFileSync(join(folder, 'index.html'), '<html></html>')
    writeFileSync(join(folder, 'assets', 'here-1.js'), '1')
    const app = makeApp(
      { store: library.store, db: library.db, jobs: inlineJobs, log: openLog(library.folder, 'off') },
      { allowedHosts: ['localhost'], maxUploadBytes: 1e6, maxRequests: 1000, appFolder: folder, passcode: null },
    )
    const get = (path: string) => app.request(`http://localhost${path}`)
    for (const path of ['/', '/puppet/arm/parts', '/index.html']) expect((await get(path)).headers.get('Cache-Control')).toBe('no-cache')
    expect((await get('/assets/here-1.js')).headers.get('Cache-Control')).toContain('immutable')
    const gone = await get('/assets/gone-2.js')
    expect([gone.status, gone.headers.get('Cache-Control')]).toEqual([404, 'no-store'])
  })
})
