import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Hono } from 'hono'
import { expect, test } from 'vitest'
import { logFailure, logRequests, openLog } from './log'

test('says when, what address and how long, and nothing of what was sent or answered', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-log-'))
  const log = openLog(folder, 'file')
  const app = new Hono().use(logRequests(log)).post('/api/puppets/:id', (c) => c.text('a secret answer'))
  await app.request('http://localhost/api/puppets/heron?name=a-secret-query', { method: 'POST', body: 'a secret body' })
  logFailure(log, Object.assign(new Error('SQLITE_ERROR'), { sql: 'INSERT a secret row', parameters: ['a secret'] }), '/api/puppets/heron')
  const lines = readFileSync(join(folder, 'log', 'server.log'), 'utf8')
    .trim()
    .split('\n')
  expect(JSON.parse(lines[0]!)).toMatchObject({
    method: 'POST',
    path: '/api/puppets/heron',
    status: 200,
    ms: expect.any(Number),
    time: expect.stringMatching(/Z$/),
  })
  expect(JSON.parse(lines[1]!)).toMatchObject({ message: 'SQLITE_ERROR', path: '/api/puppets/heron' })
  expect(lines.join('')).not.toContain('secret')
  rmSync(folder, { recursive: true, force: true })
})
