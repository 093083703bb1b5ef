/** A data folder with the demo puppets, made once for all suites of a run; each server of a test begins with a copy of it. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { SEED, startTestServer } from './server'

export default async function seed(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'marionette-seed-'))
  await (await startTestServer({ MARIONETTE_DATA: folder })).stop()
  process.env[SEED] = folder
  return () => rmSync(folder, { recursive: true, force: true })
}
