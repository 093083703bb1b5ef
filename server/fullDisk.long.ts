/** A real full disk: a small file system of its own, where the run may make one. */
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { run } from '@marionette/core/puppet/edit'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet, generatePuppet, TYPICAL } from '@marionette/core/test/puppets'
import { writeBackup } from './backup/write'
import { openDatabase } from './db/database'
import { storageProblem } from './db/problems'
import { PuppetStore } from './puppetStore'

const folder = mkdtempSync(join(tmpdir(), 'marionette-small-'))
const isMounted = process.getuid?.() === 0 && spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=48m', 'tmpfs', folder]).status === 0

test.skipIf(!isMounted)('on a full disk saving is refused, what was confirmed stays, deleting works, and then saving goes on', async () => {
  const db = await openDatabase(folder)
  const store = new PuppetStore(db)
  try {
    for (let n = 0; n < 4; n++) await store.add({ ...generatePuppet(TYPICAL, n + 1), id: `p-${n}` })
    await store.add(armPuppet())
    const { bsize, bavail } = statfsSync(folder)
    writeFileSync(join(folder, 'filler'), Buffer.alloc(Math.max(0, bsize * bavail - 8192), 1))
    let revision = 1
    let refused: unknown = null
    for (let n = 0; n < 200 && !refused; n++) {
      try {
        await store.add({ ...generatePuppet(TYPICAL, n + 9), id: `more-${n}` })
        revision = (await store.save('arm', run(armPuppet(), setNote, { note: `${n}` }), revision)).revision
      } catch (error) {
        refused = error
      }
    }
    expect(storageProblem(refused)?.code).toBe('storage.full')
    expect((await store.get('arm')).revision).toBe(revision)
    // An older backup survives one that finds no room.
    const file = join(folder, 'filler')
    await expect(writeBackup({ database: db.file, file })).rejects.toThrow()
    for (let n = 0; n < 4; n++) {
      await store.remove(`p-${n}`)
      await store.purge(`p-${n}`)
    }
    expect(await store.list('trash')).toEqual([])
    rmSync(file)
    expect((await store.save('arm', run(armPuppet(), setNote, { note: 'after' }), revision)).revision).toBe(revision + 1)
  } finally {
    await db.close()
    spawnSync('umount', [folder])
    rmSync(folder, { recursive: true, force: true })
  }
})
