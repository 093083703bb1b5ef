/** Taking a file into the library, all of it off the main thread: read, pictures sent, stored, nesting folded. */
import { edit } from '@marionette/core/edit/command'
import { perform, startHistory } from '@marionette/core/edit/history'
import { foldGroups, foldLabel } from '@marionette/core/edit/nesting'
import { readPuppetFile } from '@marionette/formats/read'
import type { Warning } from '@marionette/formats/warnings'
import { importPuppet, savePuppet, sendAsset, type PuppetSummary } from '../state/api'
import { keep } from '../state/keep'

export interface TakenIn {
  readonly puppet: PuppetSummary
  readonly warnings: readonly Warning[]
}

/**
 * Reads a file and stores what is in it as a puppet. Folding its nested groups becomes the first step of the puppet's
 * history, so that it can be undone. Throws FormatError or RequestError; then nothing was stored.
 */
export async function takeIn(bytes: Uint8Array, fileName: string): Promise<TakenIn> {
  const { puppet, nesting, warnings, assets } = readPuppetFile(bytes, fileName)
  for (const [hash, asset] of assets) await sendAsset(hash, asset)
  const stored = await importPuppet(puppet)
  if (!nesting || nesting.groups.length === 0) return { puppet: stored, warnings }
  const folded = perform(startHistory({ ...puppet, id: stored.id }), [edit(foldGroups, nesting)], foldLabel(nesting.groups.length))
  const saved = await savePuppet(folded.puppet, stored.revision)
  await keep(folded, saved.revision, true)
  return { puppet: saved, warnings }
}
