import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { armPuppet } from '@marionette/core/test/puppets'
import { run } from '@marionette/core/puppet/edit'
import { renamePart } from '@marionette/core/parts/commands'
import { readConfig } from './config'
import { TestLibrary } from './test'

let library: TestLibrary

beforeEach(async () => {
  library = await TestLibrary.open()
})

afterEach(() => library.close())

const ask = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  library.ask(method, path, body, { ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}), ...headers })
const put = (document: unknown, revision: string) => ask('PUT', '/api/puppets/arm', { document }, { 'If-Match': revision })
const addArm = () => ask('POST', '/api/puppets/import', { document: armPuppet() })

describe('library', () => {
  test('a new puppet is listed, opened, renamed, duplicated, deleted and restored', async () => {
    const made = await ask('POST', '/api/puppets', { name: 'Heron' })
    expect(made).toMatchObject({ status: 201, body: { name: 'Heron', revision: 1, parts: 0, bones: 0 } })
    const path = `/api/puppets/${made.body.id}`
    expect((await ask('PATCH', path, { name: 'Quill' })).body).toMatchObject({ name: 'Quill', revision: 2 })
    expect((await ask('GET', path)).body.puppet.name).toBe('Quill')
    expect((await ask('POST', `${path}/duplicate`)).body.name).toBe('Quill copy')
    expect((await ask('DELETE', path)).status).toBe(204)
    expect((await ask('GET', path)).status).toBe(404)
    expect((await ask('GET', '/api/puppets')).body.map((p: { name: string }) => p.name)).toEqual(['Quill copy'])
    await ask('POST', `${path}/restore`)
    expect((await ask('GET', '/api/puppets')).body).toHaveLength(2)
  })

  test('an imported puppet comes back equal and keeps its id while it is free', async () => {
    expect((await addArm()).body.id).toBe('arm')
    expect((await ask('GET', '/api/puppets/arm')).body.puppet).toEqual(armPuppet())
    expect((await addArm()).body.id).not.toBe('arm')
  })

  test('a save needs the revision that it is based on; nothing is overwritten', async () => {
    await addArm()
    const mine = run(armPuppet(), renamePart, { part: 'hand', name: 'Paw' })
    expect((await put(mine, '"1"')).body.revision).toBe(2)
    expect(await put(armPuppet(), '"1"')).toMatchObject({ status: 412, body: { code: 'puppet.conflict', revision: 2 } })
    expect((await put(mine, 'nonsense')).status).toBe(428)
    expect((await ask('GET', '/api/puppets/arm')).body.puppet.parts.hand.name).toBe('Paw')
  })

  test('of many saves at once on one revision exactly one is accepted', async () => {
    await addArm()
    const answers = await Promise.all(Array.from({ length: 40 }, () => put(armPuppet(), '"1"')))
    expect(answers.map((a) => a.status).sort()).toEqual([200, ...Array<number>(39).fill(412)])
  })

  test('the library outlives its server', async () => {
    await addArm()
    await library.reopen()
    expect((await library.store.get('arm')).puppet).toEqual(armPuppet())
  })

  test('a thumbnail is a PNG of the puppet', async () => {
    await addArm()
    const answer = await ask('GET', '/api/puppets/arm/thumbnail')
    expect(answer.headers.get('Content-Type')).toBe('image/png')
    expect([...answer.body.slice(1, 4)]).toEqual([0x50, 0x4e, 0x47])
  })
})

describe('refusals have one shape and change nothing', () => {
  test.each([
    ['a puppet that is not there', 'GET', '/api/puppets/nobody', undefined, 404, 'puppet.missing'],
    ['an address that is not there', 'GET', '/api/nothing', undefined, 404, 'request.unknown'],
    ['a body that does not fit', 'POST', '/api/puppets', { name: '' }, 400, 'request.invalid'],
    ['a body that is no JSON', 'POST', '/api/puppets', '{', 400, 'request.invalid'],
    [
      'a document that is not sound',
      'POST',
      '/api/puppets/import',
      { document: { ...armPuppet(), root: 'nobody' } },
      422,
      'puppet.invalid',
    ],
    ['a body that is too large', 'POST', '/api/puppets', { name: 'x'.repeat(2_000_000) }, 413, 'request.large'],
  ])('%s', async (_, method, path, body, status, code) => {
    const answer = await ask(method, path, body, body ? { 'Content-Length': String(JSON.stringify(body).length) } : {})
    expect(answer).toMatchObject({ status, body: { code, message: expect.stringMatching(/\.$/) } })
    expect((await ask('GET', '/api/puppets')).body).toEqual([])
  })

  test('a document of another puppet', async () => {
    await addArm()
    expect(await put({ ...armPuppet(), id: 'other' }, '"1"')).toMatchObject({ status: 422, body: { code: 'puppet.id' } })
  })

  test('strange hosts and origins', async () => {
    expect((await ask('GET', '/api/puppets', undefined, { Host: 'evil.example' })).status).toBe(421)
    expect((await ask('POST', '/api/puppets', { name: 'x' }, { Host: 'localhost', Origin: 'http://evil.example' })).status).toBe(403)
    expect((await ask('POST', '/api/puppets', { name: 'x' }, { Host: 'localhost', Origin: 'null' })).status).toBe(403)
    expect((await ask('POST', '/api/puppets', { name: 'x' }, { Host: 'localhost:4600', Origin: 'http://localhost:4600' })).status).toBe(201)
  })

  test('more requests than allowed', async () => {
    const hurried = await TestLibrary.open(5)
    const answers = []
    for (let i = 0; i < 7; i++) answers.push(await hurried.ask('GET', '/api/health'))
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200, 200, 429, 429])
    expect(answers[6]).toMatchObject({ body: { code: 'request.many' } })
    expect(Number(answers[6]!.headers.get('Retry-After'))).toBeGreaterThan(0)
    await hurried.close()
  })

  test('every answer carries the content security policy', async () => {
    expect((await ask('GET', '/api/health')).headers.get('Content-Security-Policy')).toContain("default-src 'self'")
  })
})

describe('configuration', () => {
  test('has defaults and names the variable that does not fit', () => {
    expect(readConfig({})).toMatchObject({ host: '127.0.0.1', port: 4600, demo: true })
    expect(readConfig({ MARIONETTE_ALLOWED_HOSTS: 'rig.local, other' }).allowedHosts).toEqual([
      'localhost',
      '127.0.0.1',
      '[::1]',
      'rig.local',
      'other',
    ])
    expect(() => readConfig({ MARIONETTE_PORT: 'many' })).toThrow('MARIONETTE_PORT')
  })
})
