/** The server and the commands killed in the middle, 25 times each: in seeding, backup, restore, purge, import; and two servers on one folder. */
import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { unzipSync } from 'fflate'
import { run } from '@marionette/core/puppet/edit'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet, generatePuppet, TYPICAL } from '@marionette/core/test/puppets'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { writeBackup } from './backup/write'
import { openDatabase } from './db/database'
import { PuppetStore } from './puppetStore'

const KILLS = 25
const root = fileURLToPath(new URL('..', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'marionette-killed-'))
const random = seededRandom(31)
let made = 0
const freshFolder = (): string => join(folder, `data-${++made}`)
/** A library of twelve puppets with versions, one in the trash, and its backup. */
const full = join(folder, 'full')
const backup = join(folder, 'full.zip')

beforeAll(async () => {
  const db = await openDatabase(full)
  const store = new PuppetStore(db)
  for (let n = 0; n < 12; n++) {
    const id = `p-${n}`
    await store.add({ ...generatePuppet(TYPICAL, n + 1), id })
    await store.save(id, run({ ...generatePuppet(TYPICAL, n + 1), id }, setNote, { note: 'two' }), 1)
  }
  await store.remove('p-11')
  await writeBackup({ database: db.file, file: backup })
  await db.close()
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const start = (args: string[], data: string, more: Record<string, string> = {}): ChildProcess =>
  spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, MARIONETTE_PORT: '0', MARIONETTE_DATA: data, MARIONETTE_LOG: 'off', INIT_CWD: folder, ...more },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
const ended = (child: ChildProcess): Promise<number | null> => new Promise((resolve) => child.once('exit', resolve))
const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** Kills a process some time after it began, and waits for its end. */
async function killedAfter(child: ChildProcess, ms: number): Promise<void> {
  const end = ended(child)
  await wait(ms)
  child.kill('SIGKILL')
  await end
}

function urlOf(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    child.stdout!.on('data', (chunk: Buffer) => {
      const url = /ready at (http:\S+)/.exec(chunk.toString())?.[1]
      if (url) resolve(url)
    })
    child.once('exit', (code) => reject(new Error(`ended with ${code}`)))
  })
}

async function idsIn(data: string): Promise<{ library: string[]; trash: string[] }> {
  const db = await openDatabase(data)
  const store = new PuppetStore(db)
  const ids = async (where: 'library' | 'trash'): Promise<string[]> => (await store.list(where)).map((p) => p.id).sort()
  const found = { library: await ids('library'), trash: await ids('trash') }
  await db.close()
  return found
}

test('seeding: all demo puppets or none', async () => {
  for (let n = 0; n < KILLS; n++) {
    const data = freshFolder()
    await killedAfter(start(['server/dist/main.mjs'], data, { MARIONETTE_DEMO: '1' }), 1000 + random() * 9000)
    if (existsSync(join(data, 'library.sqlite'))) expect([0, 4]).toContain((await idsIn(data)).library.length)
    rmSync(data, { recursive: true, force: true })
  }
})

test('backup: the older file or the newer one, whole', async () => {
  const file = join(folder, 'backup.zip')
  for (let n = 0; n < KILLS; n++) {
    cpSync(backup, file)
    await killedAfter(start(['server/dist/library.mjs', 'backup', file], full), 600 + random() * 1500)
    expect(Object.keys(unzipSync(new Uint8Array(readFileSync(file))))).toContain('library.json')
  }
})

test('restore: everything or nothing', async () => {
  for (let n = 0; n < KILLS; n++) {
    const data = freshFolder()
    await (await openDatabase(data)).close()
    await killedAfter(start(['server/dist/library.mjs', 'restore', backup], data), 600 + random() * 2500)
    const { library, trash } = await idsIn(data)
    expect([0, 12]).toContain(library.length + trash.length)
    if (library.length > 0) expect(trash).toEqual(['p-11'])
    rmSync(data, { recursive: true, force: true })
  }
})

test('purge and import: each puppet is there whole or not at all, and the library opens', async () => {
  const data = freshFolder()
  cpSync(full, data, { recursive: true })
  for (let n = 0; n < KILLS; n++) {
    const server = start(['server/dist/main.mjs'], data, { MARIONETTE_DEMO: '0' })
    const url = await urlOf(server)
    const big = JSON.stringify({ document: { ...generatePuppet(TYPICAL, 99), id: `import-${n}` } })
    const busy = (async () => {
      for (const [method, path, body] of [
        ['POST', '/api/puppets/import', big],
        ['DELETE', `/api/puppets/import-${n - 1}`],
        ['DELETE', `/api/trash/import-${n - 1}`],
      ] as const)
        await fetch(`${url}${path}`, { method, ...(body && { body, headers: { 'Content-Type': 'application/json' } }) })
    })().catch(() => undefined)
    await killedAfter(server, random() * 2500)
    await busy
    const db = await openDatabase(data)
    const store = new PuppetStore(db)
    for (const where of ['library', 'trash'] as const)
      for (const { id } of await store.list(where)) {
        await store.get(id, true)
        expect((await store.revisions.list(id)).length).toBeGreaterThan(0)
      }
    await db.close()
  }
})

test('two servers on one folder: every confirmed save is there', async () => {
  const data = freshFolder()
  const servers = [start(['server/dist/main.mjs'], data, { MARIONETTE_DEMO: '0' })]
  const urls = [await urlOf(servers[0]!)]
  servers.push(start(['server/dist/main.mjs'], data, { MARIONETTE_DEMO: '0' }))
  urls.push(await urlOf(servers[1]!))
  const json = { 'Content-Type': 'application/json' }
  const confirmed = [0, 0]
  const writing = urls.map(async (url, w) => {
    const id = `w-${w}`
    await fetch(`${url}/api/puppets/import`, { method: 'POST', headers: json, body: JSON.stringify({ document: { ...armPuppet(), id } }) })
    for (let n = 1, revision = 1; n <= 60; n++) {
      const document = { ...run(armPuppet(), setNote, { note: `${n}` }), id }
      const answer = await fetch(`${url}/api/puppets/${id}`, {
        method: 'PUT',
        headers: { ...json, 'If-Match': `"${revision}"` },
        body: JSON.stringify({ document }),
      })
      if (answer.status !== 200) continue
      revision = ((await answer.json()) as { revision: number }).revision
      confirmed[w] = n
    }
  })
  await Promise.all(writing)
  for (const [w, count] of confirmed.entries()) {
    const { puppet } = (await (await fetch(`${urls[1 - w]}/api/puppets/w-${w}`)).json()) as { puppet: { note: string } }
    expect(Number(puppet.note)).toBe(count)
    expect(count).toBeGreaterThan(50)
  }
  for (const server of servers) server.kill('SIGKILL')
  writeFileSync(join(folder, 'done'), '')
})
