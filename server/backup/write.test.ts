import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, test } from 'vitest'
import { unzipSync } from 'fflate'
import { armPuppet } from '@marionette/core/test/puppets'
import { TestLibrary } from '../test'
import { writeBackup } from './write'

let library: TestLibrary
let folder: string

beforeEach(async () => {
  library = await TestLibrary.open()
  folder = mkdtempSync(join(tmpdir(), 'marionette-backup-'))
})
afterEach(async () => {
  await library.close()
  rmSync(folder, { recursive: true, force: true })
})

test('a backup that fails leaves the older one as it was, and nothing beside it', async () => {
  await library.store.add(armPuppet())
  const file = join(folder, 'all.zip')
  writeFileSync(file, 'the older one')
  // A version whose bytes are none: found out while the backup is being written.
  await library.db.revisions.update({ document: Buffer.from('broken') }, { where: { puppetId: 'arm' } })
  await expect(writeBackup({ database: library.db.file, file })).rejects.toThrow()
  expect(readFileSync(file, 'utf8')).toBe('the older one')
  expect(readdirSync(folder)).toEqual(['all.zip'])
})

test('what is saved, deleted and restored meanwhile is no part of it: it is the library at one moment', async () => {
  for (let n = 0; n < 12; n++) await library.store.add({ ...armPuppet(), id: `arm-${n}` })
  const file = join(folder, 'all.zip')
  const writing = writeBackup({ database: library.db.file, file })
  for (let n = 0; n < 6; n++) {
    await library.store.remove(`arm-${n}`)
    if (n % 2 === 0) await library.store.purge(`arm-${n}`)
    await library.store.add({ ...armPuppet(), id: `new-${n}` })
  }
  await writing
  const files = Object.keys(unzipSync(new Uint8Array(readFileSync(file))))
  const listed = JSON.parse(Buffer.from(unzipSync(new Uint8Array(readFileSync(file)))['library.json']!).toString()) as {
    puppets: { id: string; where: string }[]
  }
  // Each that is listed is there once, as the list says.
  expect(new Set(listed.puppets.map((p) => p.id)).size).toBe(listed.puppets.length)
  for (const { id, where } of listed.puppets) expect(files).toContain(`${where}/${id}.json`)
  expect(listed.puppets.filter((p) => p.id.startsWith('arm-')).length).toBe(12)
})
