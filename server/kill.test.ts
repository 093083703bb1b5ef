/** The server is killed at random moments while it saves, again and again: no save that it confirmed may be lost. */
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, expect, test } from 'vitest'
import { run } from '@marionette/core/puppet/edit'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet } from '@marionette/core/test/puppets'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { often } from '@marionette/core/test/often'

/** Libraries that are killed beside each other, and how often each. */
const LIBRARIES = 3
const ROUNDS = often(4, 40)
const PUPPETS = 4
const root = fileURLToPath(new URL('..', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'marionette-kill-'))

afterAll(() => rmSync(folder, { recursive: true, force: true }))

function start(data: string): Promise<{ child: ChildProcess; url: string }> {
  const child = spawn(process.execPath, ['server/dist/main.mjs'], {
    cwd: root,
    env: { ...process.env, MARIONETTE_PORT: '0', MARIONETTE_DATA: data, MARIONETTE_DEMO: '0', MARIONETTE_MAX_REQUESTS: '1000000' },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  return new Promise((resolve, reject) => {
    let said = ''
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      const url = /ready at (http:\S+)/.exec(said)?.[1]
      if (url) resolve({ child, url })
    })
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)))
  })
}

interface Writer {
  readonly id: string
  revision: number
  /** Number in the note of the last save that was confirmed, and of the last that was tried. */
  confirmed: number
  tried: number
}

const document = (id: string, count: number) => ({ ...run(armPuppet(), setNote, { note: String(count) }), id })
const json = { 'Content-Type': 'application/json' }

/** Saves as fast as the server answers, until it is gone. */
async function saveOn(url: string, writer: Writer): Promise<void> {
  for (;;) {
    writer.tried++
    try {
      const body = JSON.stringify({ document: document(writer.id, writer.tried) })
      const answer = await fetch(`${url}/api/puppets/${writer.id}`, {
        method: 'PUT',
        body,
        headers: { ...json, 'If-Match': `"${writer.revision}"` },
      })
      const summary = (await answer.json()) as { revision: number }
      expect(answer.status).toBe(200)
      writer.revision = summary.revision
      writer.confirmed = writer.tried
    } catch (error) {
      // What was not answered any more is not confirmed.
      if (error instanceof TypeError || (error as Error).name === 'SyntaxError') return
      throw error
    }
  }
}

/** What a puppet holds must lie between the last save that was confirmed and the last that was tried; returns how many arrived. */
async function checkWriter(url: string, writer: Writer): Promise<number> {
  const answer = await fetch(`${url}/api/puppets/${writer.id}`)
  const { puppet, revision } = (await answer.json()) as { puppet: { note: string }; revision: number }
  const found = Number(puppet.note)
  // The last try may have arrived without its answer; anything older would be a loss.
  expect(found).toBeGreaterThanOrEqual(writer.confirmed)
  expect(found).toBeLessThanOrEqual(writer.tried)
  const saves = found - writer.confirmed + 1
  Object.assign(writer, { revision, confirmed: found, tried: found })
  return saves
}

async function addWriter(url: string, id: string): Promise<Writer> {
  const body = JSON.stringify({ document: document(id, 0) })
  expect((await fetch(`${url}/api/puppets/import`, { method: 'POST', body, headers: json })).status).toBe(201)
  return { id, revision: 1, confirmed: 0, tried: 0 }
}

/** Kills the server of one library again and again; returns how many saves arrived. */
async function killAgain(data: string, random: () => number): Promise<number> {
  const writers: Writer[] = []
  let saves = 0
  for (let round = 0; round < ROUNDS; round++) {
    const { child, url } = await start(data)
    for (let i = writers.length; i < PUPPETS; i++) writers.push(await addWriter(url, `arm-${i}`))
    for (const writer of writers) saves += await checkWriter(url, writer)
    const ended = new Promise((resolve) => child.once('exit', resolve))
    const working = Promise.all(writers.map((writer) => saveOn(url, writer)))
    await new Promise((resolve) => setTimeout(resolve, 20 + random() * 250))
    child.kill('SIGKILL')
    await Promise.all([ended, working])
  }
  return saves
}

test(`${LIBRARIES * ROUNDS} times killed under load, nothing confirmed is lost`, { timeout: 900_000 }, async () => {
  const libraries = Array.from({ length: LIBRARIES }, (_, k) => killAgain(join(folder, `${k}`), seededRandom(7 + k)))
  for (const saves of await Promise.all(libraries)) expect(saves).toBeGreaterThan(ROUNDS)
})
