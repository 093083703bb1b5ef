/** Data that cannot be lost: versions, trash, pictures, backups, and a disk or file that fails. */
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import { canonicalJson } from '@marionette/core/document/json'
import type { Puppet } from '@marionette/core/document/schema'
import { run } from '@marionette/core/edit/command'
import { setNote } from '@marionette/core/edit/puppet'
import { armPuppet, generatePuppet } from '@marionette/core/test/puppets'
import { importSvg } from '@marionette/formats/svg/import'
import { readBackup, restoreBackup, writeBackup } from './backup'
import { LibraryError, openDamaged, openDatabase } from './db/database'
import { PuppetStore } from './puppetStore'
import { thinned } from './revisions'
import { TestLibrary } from './test'

const root = fileURLToPath(new URL('..', import.meta.url))

let library: TestLibrary
const ask: TestLibrary['ask'] = (...request) => library.ask(...request)

beforeEach(async () => {
  library = await TestLibrary.open()
})
afterEach(() => library.close())

const noted = (note: string): Puppet => run(armPuppet(), setNote, { note })
const save = (note: string, revision: number) => ask('PUT', '/api/puppets/arm', { document: noted(note) }, { 'If-Match': `"${revision}"` })

describe('versions', () => {
  test('each save is kept; one can be named, looked at and taken as it was', async () => {
    await ask('POST', '/api/puppets/import', { document: armPuppet() })
    // Versions that follow each other within seconds are thinned out, so the first two are named.
    await ask('PATCH', '/api/puppets/arm/revisions/1', { name: 'As imported' })
    await save('two', 1)
    await ask('PATCH', '/api/puppets/arm/revisions/2', { name: 'With a note' })
    await save('three', 2)
    const { body } = await ask('GET', '/api/puppets/arm/revisions')
    expect(body.present).toBe(3)
    expect(body.revisions.map((r: { revision: number; name: string }) => [r.revision, r.name])).toEqual([
      [3, null],
      [2, 'With a note'],
      [1, 'As imported'],
    ])
    expect((await ask('GET', '/api/puppets/arm/revisions/1')).body.puppet).toEqual(armPuppet())
    expect((await ask('GET', '/api/puppets/arm/revisions/2')).body.puppet.note).toBe('two')
    expect((await ask('GET', '/api/puppets/arm/revisions/1/thumbnail')).headers.get('Content-Type')).toBe('image/png')
    expect(await ask('GET', '/api/puppets/arm/revisions/99')).toMatchObject({ status: 404, body: { code: 'revision.missing' } })
    expect((await ask('GET', '/api/puppets/arm/revisions/..%2Fx')).status).toBe(400)
  })

  test('old versions are thinned by age; named ones, the newest and the first never', () => {
    const now = Date.parse('2030-01-31T12:00:00Z')
    const minutes = (n: number): Date => new Date(now - n * 60_000)
    const list = [
      ...[0, 0.1, 0.2, 0.4, 5].map(minutes),
      ...[30, 31, 33].map(minutes),
      ...[600, 605, 630].map(minutes),
      ...[3000, 3100, 5000].map(minutes),
      ...[90_000, 91_000, 110_000].map(minutes),
    ].map((createdAt, i) => ({ revision: 100 - i, name: i === 9 ? 'Keep me' : null, createdAt }))
    expect(thinned(list, now)).toEqual([99, 98, 94, 88, 85])
    expect(
      thinned(
        list.filter((r) => !thinned(list, now).includes(r.revision)),
        now,
      ),
    ).toEqual([])
  })
})

describe('trash', () => {
  test('what was deleted lies there until it is taken back or purged', async () => {
    await ask('POST', '/api/puppets/import', { document: armPuppet() })
    expect((await ask('DELETE', '/api/puppets/trash/arm')).status).toBe(409)
    await ask('DELETE', '/api/puppets/arm')
    expect((await ask('GET', '/api/puppets/trash')).body).toMatchObject([{ id: 'arm', deletedAt: expect.stringMatching(/Z$/) }])
    await ask('POST', '/api/puppets/arm/restore')
    expect((await ask('GET', '/api/puppets/trash')).body).toEqual([])
    await ask('DELETE', '/api/puppets/arm')
    expect((await ask('DELETE', '/api/puppets/trash/arm')).status).toBe(204)
    expect((await ask('POST', '/api/puppets/arm/restore')).status).toBe(404)
    expect(await library.db.revisions.count()).toBe(0)
  })
})

const PNG = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')
const pictured = (): Puppet =>
  importSvg(
    `<svg xmlns="http://www.w3.org/2000/svg"><image width="9" height="9" href="data:image/png;base64,${PNG.toString('base64')}"/></svg>`,
    'Pictured',
  ).puppet

describe('pictures', () => {
  test('are kept by the hash of their bytes, and told by their bytes', async () => {
    const hash = hashOf(PNG)
    expect((await ask('PUT', `/api/assets/${hash}`, new Uint8Array(PNG), { 'Content-Type': 'text/html' })).status).toBe(204)
    expect((await ask('GET', `/api/assets/${hash}`)).headers.get('Content-Type')).toBe('image/png')
    const script = strToU8('<script>alert(1)</script>')
    expect((await ask('PUT', `/api/assets/${hashOf(script)}`, script, { 'Content-Type': 'image/png' })).status).toBe(415)
    expect((await ask('PUT', `/api/assets/${hash}`, Uint8Array.of(...PNG, 0))).status).toBe(422)
    expect((await ask('PUT', '/api/assets/..%2f..%2fetc', new Uint8Array(PNG))).status).toBe(400)
  })

  test('a puppet is not taken in before its pictures', async () => {
    expect(await ask('POST', '/api/puppets/import', { document: pictured() })).toMatchObject({
      status: 422,
      body: { missing: [hashOf(PNG)] },
    })
    await ask('PUT', `/api/assets/${hashOf(PNG)}`, new Uint8Array(PNG))
    expect((await ask('POST', '/api/puppets/import', { document: pictured() })).status).toBe(201)
  })
})

describe('backup', () => {
  test('the whole library goes into one file and comes back equal elsewhere', async () => {
    await library.store.add(noted('first'))
    await library.store.revisions.name('arm', 1, 'Before')
    await library.store.save('arm', noted('second'), 1)
    await library.store.assets.add(hashOf(PNG), PNG)
    await library.store.add(pictured())
    const { id } = await library.store.duplicate('arm')
    await library.store.remove(id)
    const file = (await ask('GET', '/api/backup')).body as Uint8Array

    const other = await TestLibrary.open()
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 3, copied: 0, unchanged: 0 })
    for (const where of ['library', 'trash'] as const)
      expect((await other.store.list(where)).map((p) => p.id).sort()).toEqual((await library.store.list(where)).map((p) => p.id).sort())
    expect(canonicalJson((await other.store.get('arm')).puppet)).toBe(canonicalJson(noted('second')))
    const [, named] = await other.store.revisions.list('arm')
    expect(named!.name).toBe('Before')
    expect((await other.store.revisions.get('arm', named!.revision)).note).toBe('first')
    expect((await other.store.assets.get(hashOf(PNG))).bytes.equals(PNG)).toBe(true)

    // A second time nothing changes; what differs comes in beside what is there.
    expect(await restoreBackup(other.store, readBackup(file))).toEqual({ added: 0, copied: 0, unchanged: 3 })
    await other.store.save('arm', noted('elsewhere'), (await other.store.get('arm')).revision)
    expect(await restoreBackup(other.store, readBackup(file))).toEqual({ added: 0, copied: 1, unchanged: 2 })
    expect((await other.store.get('arm')).puppet.note).toBe('elsewhere')
    await other.close()
  })

  test.each([
    ['something else', strToU8('hello')],
    ['a zip of something else', zipSync({ 'a.txt': strToU8('a') })],
    ['a damaged list', zipSync({ 'library.json': strToU8('{') })],
    [
      'a list without its puppets',
      zipSync({
        'library.json': strToU8('{"format":"eager-marionette/library","version":1,"puppets":[{"id":"x","where":"puppets","versions":[]}]}'),
      }),
    ],
  ])('%s is refused in one sentence and changes nothing', async (_, bytes) => {
    expect(await ask('POST', '/api/backup', bytes)).toMatchObject({
      status: 422,
      body: { code: 'backup.invalid', message: expect.stringMatching(/^[A-Z].*\.$/) },
    })
    expect(await library.store.list()).toEqual([])
  })
})

describe('from the shell', () => {
  const shell = (...args: string[]): { code: number; out: string; err: string } => {
    const env = { ...process.env, MARIONETTE_DATA: library.folder, INIT_CWD: library.folder }
    const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'server/library.ts', ...args], {
      cwd: root,
      env,
      encoding: 'utf8',
    })
    return { code: status ?? -1, out: stdout, err: stderr }
  }

  test('the library is backed up into a file and brought back from it', async () => {
    await library.store.add(noted('kept'))
    expect(shell('backup', 'all.zip')).toMatchObject({ code: 0, out: expect.stringContaining('all.zip') })
    await library.store.remove('arm')
    await library.store.purge('arm')
    expect(shell('restore', 'all.zip')).toMatchObject({ code: 0, out: expect.stringMatching(/^1 puppets were added/) })
    expect((await library.store.get('arm')).puppet.note).toBe('kept')
    expect(shell('restore', 'nowhere.zip')).toMatchObject({ code: 2, err: expect.stringContaining('there is no such file') })
    expect(shell('burn', 'all.zip').code).toBe(2)
  })
})

describe('a disk or file that fails', () => {
  const file = (): string => join(library.folder, 'library.sqlite')

  test('a full disk: the save is refused, what was confirmed stays, and saving goes on afterwards', async () => {
    await library.store.add(noted('confirmed'))
    library.limitPages(2)
    const large = { ...generatePuppet({ parts: 12, bones: 6, pointsPerPart: 134 }), id: 'arm' }
    expect(await ask('PUT', '/api/puppets/arm', { document: large }, { 'If-Match': '"1"' })).toMatchObject({
      status: 507,
      body: { code: 'storage.full', message: expect.stringContaining('nothing was lost') },
    })
    library.limitPages(Infinity)
    expect((await ask('GET', '/api/puppets/arm')).body.puppet.note).toBe('confirmed')
    expect((await save('later', 1)).status).toBe(200)
  })

  test('a library that may only be read says so and answers on', async () => {
    await library.store.add(noted('confirmed'))
    library.forbidWriting(true)
    expect(await save('mine', 1)).toMatchObject({ status: 503, body: { code: 'storage.readonly' } })
    expect((await ask('GET', '/api/puppets/arm')).body.puppet.note).toBe('confirmed')
    library.forbidWriting(false)
    expect((await save('mine', 1)).status).toBe(200)
  })

  test('a data folder that cannot be made is named with the way out', async () => {
    writeFileSync(join(library.folder, 'plain'), '')
    await expect(openDatabase(join(library.folder, 'plain', 'data'))).rejects.toThrow(/cannot be written.*MARIONETTE_DATA/)
  })

  test('a file that is no database, or a damaged one, is left as it is, and what is left can be rescued', async () => {
    for (let i = 0; i < 12; i++) await library.store.add({ ...noted(`puppet ${i} ${'x'.repeat(400)}`), id: `arm-${i}` })
    await library.db.close()
    rmSync(`${file()}-wal`, { force: true })
    damage(file())
    const before = readFileSync(file())
    await expect(openDatabase(library.folder)).rejects.toThrow(LibraryError)
    await expect(openDatabase(library.folder)).rejects.toThrow(/damaged.*left as it is.*rescue/)
    expect(readFileSync(file()).equals(before)).toBe(true)

    const lost: string[] = []
    const damaged = openDamaged(library.folder)
    const rescued = readBackup(await writeBackup(new PuppetStore(damaged), (name) => lost.push(name)))
    await damaged.close()
    expect(rescued.puppets.length).toBeGreaterThan(0)
    expect(rescued.puppets.length + lost.length).toBe(12)

    mkdirSync(join(library.folder, 'other'))
    writeFileSync(join(library.folder, 'other', 'library.sqlite'), 'this is a text')
    await expect(openDatabase(join(library.folder, 'other'))).rejects.toThrow('damaged')
  })
})

/** Overwrites a page in the later part of the file. */
function damage(path: string): void {
  const { size } = statSync(path)
  const handle = openSync(path, 'r+')
  writeSync(handle, Buffer.alloc(4096, 0xa5), 0, 4096, Math.floor((size * 0.7) / 4096) * 4096)
  closeSync(handle)
}
