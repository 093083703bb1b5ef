import { afterEach, beforeEach, expect, test } from 'vitest'
import { addClip } from '@marionette/core/clips/commands'
import { newClip } from '@marionette/core/clips/new'
import { keepMotion } from '@marionette/core/motions/kept'
import { run } from '@marionette/core/puppet/edit'
import { armPuppet } from '@marionette/core/test/puppets'
import { PERSON } from '@marionette/core/templates/builtin'
import { TestLibrary } from './test'

let library: TestLibrary
beforeEach(async () => {
  library = await TestLibrary.open()
})
afterEach(() => library.close())

const mine = { ...PERSON, id: 'mine', name: 'My person' }

test('templates are kept, listed and taken away', async () => {
  expect((await library.ask('GET', '/api/templates')).body).toEqual([])
  expect((await library.ask('POST', '/api/templates', mine)).status).toBe(204)
  expect((await library.ask('GET', '/api/templates')).body).toEqual([mine])
  expect((await library.ask('POST', '/api/templates', mine)).status).toBe(409)
  expect((await library.ask('DELETE', '/api/templates/mine')).status).toBe(204)
  expect((await library.ask('DELETE', '/api/templates/mine')).status).toBe(404)
  expect((await library.ask('GET', '/api/templates')).body).toEqual([])
})

test('something else is refused in one sentence', async () => {
  const { status, body } = await library.ask('POST', '/api/templates', { ...mine, bones: [] })
  expect(status).toBe(400)
  expect(body.message).toMatch(/^The request does not fit: bones/)
})

test('clips that were kept as ready motions stand beside templates, and neither is taken for the other', async () => {
  const puppet = run(armPuppet(), addClip, { clip: newClip('act', 'Act') })
  const motion = keepMotion(puppet, puppet.clips[0]!, 'nod')
  expect((await library.ask('POST', '/api/motions', motion)).status).toBe(204)
  expect((await library.ask('POST', '/api/templates', mine)).status).toBe(204)
  expect((await library.ask('GET', '/api/motions')).body).toEqual([motion])
  expect((await library.ask('GET', '/api/templates')).body).toEqual([mine])
  expect((await library.ask('POST', '/api/motions', { ...motion, layers: [] })).status).toBe(400)
  expect((await library.ask('DELETE', '/api/motions/nod')).status).toBe(204)
  expect((await library.ask('GET', '/api/motions')).body).toEqual([])
})
