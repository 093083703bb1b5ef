import { afterAll, expect, test } from 'vitest'
import { armPuppet } from '@marionette/core/test/puppets'
import { CURRENT_VERSION } from '@marionette/core/puppet/schema'
import { LIMITS, workerJobs } from './pool'

const bytes = (document: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify({ document }))
const jobs = workerJobs({ ...LIMITS, thumbnail: 1 })
afterAll(() => jobs.close())

test('work is done in a worker, and a refusal comes back as one', async () => {
  expect(await jobs.checkBody(bytes(armPuppet()))).toMatchObject({ id: 'arm', parts: 2, bones: 3, assets: [] })
  await expect(jobs.checkBody(bytes({ ...armPuppet(), root: 'nobody' }))).rejects.toMatchObject({ status: 422, code: 'puppet.invalid' })
})

test('what takes too long is ended with its worker and refused in a sentence; the next is served', async () => {
  await expect(jobs.thumbnail(JSON.stringify(armPuppet()), new Map())).rejects.toMatchObject({ status: 422, code: 'request.heavy' })
  expect((await jobs.check(JSON.stringify(armPuppet()))).name).toBe('Arm')
})

test('a newer document is named, an older one brought up', async () => {
  await expect(jobs.check(JSON.stringify({ ...armPuppet(), version: 99 }))).rejects.toThrow('version 99')
  expect((await jobs.check(JSON.stringify({ ...armPuppet(), version: 10 }))).document).toContain(`"version":${CURRENT_VERSION}`)
})
