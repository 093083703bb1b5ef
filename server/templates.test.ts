import { afterEach, beforeEach, expect, test } from 'vitest'
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
