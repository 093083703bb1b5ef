/** What a client may send: whatever it is, one sentence comes back, the server answers others meanwhile, and it ends when told to. */
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { deflateRawSync } from 'node:zlib'
import { zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { armPuppet } from '@marionette/core/test/puppets'
import { everything } from '@marionette/core/test/commands/everything'
import { newPart } from '@marionette/core/parts/new'

const root = fileURLToPath(new URL('..', import.meta.url))
const data = mkdtempSync(join(tmpdir(), 'marionette-hostile-'))
let server: ChildProcess
let url = ''

beforeAll(async () => {
  server = spawn(process.execPath, ['server/dist/main.mjs'], {
    cwd: root,
    env: { ...process.env, MARIONETTE_PORT: '0', MARIONETTE_DATA: data, MARIONETTE_DEMO: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  url = await new Promise((resolve) =>
    server.stdout!.on('data', (chunk: Buffer) => {
      const at = /ready at (http:\S+)/.exec(chunk.toString())?.[1]
      if (at) resolve(at)
    }),
  )
  // The first request starts a worker.
  await post('/api/puppets/import', JSON.stringify({ document: armPuppet() }))
}, 60_000)

afterAll(() => {
  server.kill('SIGKILL')
  rmSync(data, { recursive: true, force: true })
})

const post = (path: string, body: string | Uint8Array): Promise<Response> =>
  fetch(`${url}${path}`, { method: 'POST', body: body as BodyInit, headers: { 'Content-Type': 'application/json' } })

/** Sends a request, and asks after the server's health until the answer is there: it must be told every time. */
async function sentWhileAsked(request: Promise<Response>): Promise<{ status: number; message: string }> {
  let isDone = false
  const answer = request.finally(() => (isDone = true))
  do {
    expect((await fetch(`${url}/api/health`)).status).toBe(200)
    await new Promise((resolve) => setTimeout(resolve, 20))
  } while (!isDone)
  const { status } = await answer
  return { status, message: ((await (await answer).json()) as { message: string }).message }
}

const grown = (grow: (puppet: Puppet) => void): string => {
  const puppet = structuredClone(everything())
  grow(puppet)
  return JSON.stringify({ document: puppet })
}

const DOCUMENTS: readonly (readonly [string, () => string])[] = [
  ['a part that is its own parent', () => grown((p) => Object.assign(p.parts['face']!, { parent: 'face', children: ['face'] }))],
  [
    '20,000 nested parts',
    () =>
      grown((p) => {
        for (let i = 0, above = p.root; i < 20_000; i++) {
          const id = `n${i}`
          p.parts[id] = { ...newPart(id, id), parent: above }
          p.parts[above]!.children.push(id)
          above = id
        }
      }),
  ],
  [
    'half a million pose keys',
    () =>
      grown((p) => {
        for (let i = 0; i < 5e5; i++) p.pose[`bone/b${i}/x`] = 1
      }),
  ],
  ['sixty megabytes of nothing', () => `{"document":${' '.repeat(60_000_000)}}`],
  ['brackets without end', () => `{"document":${'['.repeat(5_000_000)}`],
  ['a colour of eighty thousand digits', () => grown((p) => (p.palette[0]!.colour = `#${'f'.repeat(80_000)}`))],
  ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map(
    (version) =>
      [
        `a document of version ${version} that is none`,
        () => JSON.stringify({ document: { format: 'eager-marionette/puppet', version, parts: { a: 1 }, drawings: [] } }),
      ] as const,
  ),
  ['a document of a version to come', () => JSON.stringify({ document: { ...armPuppet(), version: 99 } })],
]

describe('a document', () => {
  test.each(DOCUMENTS)('%s is refused in one sentence', async (_, make) => {
    const { status, message } = await sentWhileAsked(post('/api/puppets/import', make()))
    expect([400, 422]).toContain(status)
    expect(message).toMatch(/^[A-Z].*\.$/)
  })
})

describe('a backup', () => {
  test('that unpacks to gigabytes is refused before it is unpacked', async () => {
    const bomb = zipSync({ 'library.json': new Uint8Array(90 * 1024 * 1024) }, { level: 9 })
    expect(bomb.length).toBeLessThan(1024 * 1024)
    const { status, message } = await sentWhileAsked(post('/api/backup', bomb))
    expect(status).toBe(422)
    expect(message).toContain('far more than a library')
  })

  test('that is no zip, or none of ours', async () => {
    for (const bytes of [new Uint8Array(0), new Uint8Array(deflateRawSync('hello')), zipSync({ 'a.txt': new Uint8Array(9) })])
      expect([400, 422]).toContain((await post('/api/backup', bytes)).status)
  })
})

describe('an address', () => {
  test.each([
    ['%00 in an id', 'GET', '/api/puppets/a%00b', 404],
    ['broken escapes', 'GET', '/api/puppets/%E0%A4%A', 404],
    ['an id that every object knows', 'GET', '/api/puppets/constructor', 404],
    ['a thumbnail of __proto__', 'GET', '/api/puppets/__proto__/thumbnail', 404],
    ['a version that is no number', 'GET', '/api/puppets/arm/revisions/1e3', 400],
    ['a script that is not there', 'GET', '/assets/gone-12345.js', 404],
  ])('with %s is answered plainly', async (_, method, path, status) => {
    const answer = await fetch(`${url}${path}`, { method })
    expect(answer.status).toBe(status)
    if (path.startsWith('/assets')) expect(answer.headers.get('Cache-Control')).toBe('no-store')
  })

  test('a malformed origin is refused, not failed at', async () => {
    const answer = await fetch(`${url}/api/puppets`, { method: 'POST', body: '{}', headers: { Origin: 'http://[broken' } })
    expect(answer.status).toBe(403)
  })

  test('a puppet whose id is trash opens', async () => {
    expect((await post('/api/puppets/import', JSON.stringify({ document: { ...armPuppet(), id: 'trash' } }))).status).toBe(201)
    expect(((await (await fetch(`${url}/api/puppets/trash`)).json()) as { puppet: Puppet }).puppet.id).toBe('trash')
  })
})

describe('ending', () => {
  test('takes less than five seconds while a worker is busy and a request hangs', async () => {
    const hanging = fetch(`${url}/api/backup`, {
      method: 'POST',
      body: new ReadableStream({ start: (c) => c.enqueue(new Uint8Array(10)) }),
      duplex: 'half',
    } as RequestInit).catch(() => undefined)
    const busy = post('/api/puppets/import', `{"document":${' '.repeat(50_000_000)}}`).catch(() => undefined)
    const ended = new Promise<number | null>((resolve) => server.once('exit', resolve))
    const start = performance.now()
    server.kill('SIGTERM')
    expect(await ended).toBe(0)
    expect(performance.now() - start).toBeLessThan(5000)
    await Promise.all([hanging, busy])
  })
})
