/** Data that cannot be lost: versions, trash, pictures, backups, and a disk or file that fails. */
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { strToU8, zipSync } from 'fflate'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet, generatePuppet } from '@marionette/core/test/puppets'
import { importSvg } from '@marionette/formats/svg/import'
import { writeBackup } from './backup/write'
import { LibraryError, openDatabase } from './db/database'
import { STRETCHES, thinned, type Aged } from './revisions'
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

  test('twenty saves within a minute are twenty versions', async () => {
    await ask('POST', '/api/puppets/import', { document: armPuppet() })
    for (let n = 1; n < 20; n++) await save(`${n}`, n)
    expect((await ask('GET', '/api/puppets/arm/revisions')).body.revisions).toHaveLength(20)
  })

  test('the one before a conflict, before going back, and before a long pause stay', async () => {
    await ask('POST', '/api/puppets/import', { document: armPuppet() })
    await save('two', 1)
    await save('too late', 1)
    await ask('PUT', '/api/puppets/arm', { document: armPuppet(), before: 'restore' }, { 'If-Match': '"2"' })
    await library.db.revisions.update({ createdAt: new Date(Date.now() - 3 * HOUR) }, { where: { revision: 3 }, silent: true })
    await save('after lunch', 3)
    const rows = await library.db.revisions.findAll({ attributes: ['revision', 'pinned'], order: ['revision'] })
    expect(rows.map((r) => r.pinned)).toEqual([null, 'conflict', 'pause', null])
  })
})

const [SECOND, MINUTE, HOUR, DAY] = [1000, 60_000, 3_600_000, 24 * 3_600_000]

/** Weeks of saving: what is kept after each save is all that the next one finds. */
function afterSaving(moments: readonly number[]): Aged[] {
  let kept: Aged[] = []
  moments.forEach((at, i) => {
    kept.push({ revision: i + 1, name: null, pinned: null, createdAt: new Date(at) })
    const gone = new Set(thinned(kept, at))
    kept = kept.filter((r) => !gone.has(r.revision))
  })
  return kept
}

/** Stretches of a length, within an age, in which something was saved and nothing is left of it. */
function stretchesLost(moments: readonly number[], kept: readonly Aged[], from: number, to: number, stretch: number): number[] {
  const now = moments.at(-1)!
  const within = moments.filter((at) => now - at <= to && now - at > from)
  const stretches = (list: readonly number[]): Set<number> => new Set(list.map((at) => Math.floor(at / stretch)))
  const there = stretches(kept.map((r) => r.createdAt.getTime()))
  return [...stretches(within)].filter((s) => !there.has(s))
}

describe('what is kept of weeks of saving', () => {
  const start = Date.parse('2030-01-01T08:00:00Z')
  /** Ten days of eight hours, a save about every eighteen seconds. */
  const tenDays = Array.from({ length: 10 }, (_, day) =>
    Array.from({ length: 1584 }, (_, n) => start + day * DAY + n * 18 * SECOND + ((n * 7919) % 9) * SECOND),
  ).flat()

  test('all of the last minutes, one in 20 seconds of the hour, in five minutes of the day, hourly for a week, daily before', () => {
    const kept = afterSaving(tenDays)
    const now = tenDays.at(-1)!
    const young = tenDays.filter((at) => now - at <= 10 * MINUTE)
    expect(kept.filter((r) => now - r.createdAt.getTime() <= 10 * MINUTE)).toHaveLength(young.length)
    expect(stretchesLost(tenDays, kept, 0, HOUR, 20 * SECOND)).toEqual([])
    expect(stretchesLost(tenDays, kept, 0, DAY, 5 * MINUTE)).toEqual([])
    expect(stretchesLost(tenDays, kept, 0, 7 * DAY, HOUR)).toEqual([])
    expect(stretchesLost(tenDays, kept, 0, 366 * DAY, DAY)).toEqual([])
    expect(kept.length).toBeLessThan(600)
  })

  test('a year of a save each hour is a year of days', () => {
    const year = Array.from({ length: 24 * 360 }, (_, n) => start + n * HOUR)
    const kept = afterSaving(year)
    expect(stretchesLost(year, kept, 0, 366 * DAY, DAY)).toEqual([])
    expect(kept.length).toBeLessThan(600)
  })

  test('stretches are made of whole ones of the row above, so that nothing kept is lost by growing older', () => {
    for (let i = 2; i < STRETCHES.length; i++) expect(STRETCHES[i]!.stretch % STRETCHES[i - 1]!.stretch).toBe(0)
  })

  test('named and pinned ones stay, and thinning again takes nothing more', () => {
    const old = (revision: number, more: Partial<Aged> = {}): Aged => ({
      revision,
      name: null,
      pinned: null,
      createdAt: new Date(start + revision),
      ...more,
    })
    const list = [old(1), old(2), old(3, { name: 'Keep me' }), old(4), old(5, { pinned: 'pause' }), old(6), old(7)]
    const now = start + 400 * DAY
    const gone = thinned(list, now)
    expect(gone.sort()).toEqual([2, 4, 6])
    expect(
      thinned(
        list.filter((r) => !gone.includes(r.revision)),
        now,
      ),
    ).toEqual([])
  })
})

describe('trash', () => {
  test('what was deleted lies there until it is taken back or purged', async () => {
    await ask('POST', '/api/puppets/import', { document: armPuppet() })
    expect((await ask('DELETE', '/api/trash/arm')).status).toBe(409)
    await ask('DELETE', '/api/puppets/arm')
    expect((await ask('GET', '/api/trash')).body).toMatchObject([{ id: 'arm', deletedAt: expect.stringMatching(/Z$/) }])
    await ask('POST', '/api/puppets/arm/restore')
    expect((await ask('GET', '/api/trash')).body).toEqual([])
    await ask('DELETE', '/api/puppets/arm')
    expect((await ask('DELETE', '/api/trash/arm')).status).toBe(204)
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
    const { id } = (await ask('POST', '/api/puppets/arm/duplicate')).body as { id: string }
    await library.store.remove(id)
    const file = (await ask('GET', '/api/backup')).body as Uint8Array

    const other = await TestLibrary.open()
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 3, copied: 0, unchanged: 0 })
    for (const where of ['library', 'trash'] as const)
      expect((await other.store.list(where)).map((p) => p.id).sort()).toEqual((await library.store.list(where)).map((p) => p.id).sort())
    expect(canonicalJson((await other.store.get('arm')).puppet)).toBe(canonicalJson(noted('second')))
    const [, named] = await other.store.revisions.list('arm')
    expect(named!.name).toBe('Before')
    expect(JSON.parse(await other.store.revisions.text('arm', named!.revision)).note).toBe('first')
    expect((await other.store.assets.get(hashOf(PNG))).bytes.equals(PNG)).toBe(true)

    // A second time nothing changes; what differs comes in beside what is there.
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 0, copied: 0, unchanged: 3 })
    await other.store.save('arm', noted('elsewhere'), (await other.store.get('arm')).revision)
    expect((await other.ask('POST', '/api/backup', file)).body).toEqual({ added: 0, copied: 1, unchanged: 2 })
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
    const { status, stdout, stderr } = spawnSync(process.execPath, ['server/dist/library.mjs', ...args], {
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

  test('a file that cannot be opened is named in a sentence when the server starts, with a code of its own', async () => {
    const folder = join(library.folder, 'odd')
    mkdirSync(join(folder, 'library.sqlite'), { recursive: true })
    await expect(openDatabase(folder)).rejects.toThrow(/cannot be opened/)
    const env = { ...process.env, MARIONETTE_DATA: folder, MARIONETTE_PORT: '0', MARIONETTE_LOG: 'off' }
    const { status, stderr } = spawnSync(process.execPath, ['server/dist/main.mjs'], { cwd: root, env, encoding: 'utf8' })
    expect(status).toBe(2)
    expect(stderr).toMatch(/^The library in .* cannot be opened: /)
  })

  test('a data folder that cannot be made is named with the way out', async () => {
    writeFileSync(join(library.folder, 'plain'), '')
    await expect(openDatabase(join(library.folder, 'plain', 'data'))).rejects.toThrow(/cannot be written.*MARIONETTE_DATA/)
  })

  test('a file that is no database, or a damaged one, is left as it is, and what is left can be rescued', async () => {
    for (let i = 0; i < 12; i++) await library.store.add({ ...noted(`puppet ${i} ${'x'.repeat(400)}`), id: `arm-${i}` })
    // All of it is in the file itself, whichever connection closes last.
    await library.db.query('PRAGMA wal_checkpoint(TRUNCATE)')
    await library.db.close()
    rmSync(`${file()}-wal`, { force: true })
    damage(file())
    const before = readFileSync(file())
    await expect(openDatabase(library.folder)).rejects.toThrow(LibraryError)
    await expect(openDatabase(library.folder)).rejects.toThrow(/damaged.*left as it is.*rescue/)
    expect(readFileSync(file()).equals(before)).toBe(true)

    const { lost, puppets } = await writeBackup({ database: file(), file: join(library.folder, 'rescued.zip'), spare: true })
    expect(puppets).toBeGreaterThan(0)
    expect(puppets + lost.filter((name) => name.startsWith('arm-')).length).toBe(12)

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
