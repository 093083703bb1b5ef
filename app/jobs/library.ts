/** Taking files into the library, all of it off the main thread: read, pictures sent, stored, nesting folded. */
import { perform, startHistory } from '@marionette/core/puppet/history'
import { withPuppetId } from '@marionette/core/puppet/renamed'
import { foldGroups, foldLabel } from '@marionette/core/parts/nesting'
import { heavyGroups, type HeavyGroup } from '@marionette/core/reports/heavy'
import { guessNaming, namedParts } from '@marionette/core/roles/naming'
import { wordsOf } from '@marionette/core/roles/words'
import type { Progress } from '@marionette/formats/layers/import'
import type { Warning } from '@marionette/formats/warnings'
import { importPuppet, savePuppet, sendAsset, type PuppetSummary } from '../storage/api'
import { keepDraft } from '../storage/drafts'
import { saveIdOf } from '../storage/saveIds'
import { readFiles } from './reading'
import { edit } from '@marionette/core/kernel/command'
import type { Naming } from '@marionette/core/roles/records'

export interface TakenIn {
  readonly puppet: PuppetSummary
  readonly warnings: readonly Warning[]
  readonly heavy: readonly HeavyGroup[]
  readonly sides: Sides | null
}

/** The convention that names of sides follow, and whether the artwork told it for certain; null where no name says a side. */
export interface Sides {
  readonly naming: Naming
  readonly isCertain: boolean
}

/**
 * Reads files and stores what is in them as one puppet. Folding its nested groups becomes the first step of the puppet's
 * history, so that it can be undone. Throws FormatError or RequestError; then nothing was stored.
 */
export async function takeIn(files: readonly File[], name: string, progress: Progress): Promise<TakenIn> {
  const { puppet, nesting, warnings, assets } = await readFiles(files, name, progress)
  for (const [hash, asset] of assets) await sendAsset(hash, asset)
  const stored = await importPuppet(puppet)
  const items = namedParts(puppet)
  const sides = items.some((i) => wordsOf(i.name).side) ? { naming: puppet.naming, isCertain: guessNaming(items) !== null } : null
  const found = { warnings, heavy: heavyGroups(puppet), sides: puppet.skeleton.length > 0 ? null : sides }
  if (!nesting || nesting.groups.length === 0) return { puppet: stored, ...found }
  const folded = perform(startHistory(withPuppetId(puppet, stored.id)), [edit(foldGroups, nesting)], foldLabel(nesting.groups.length))
  const tab = `import${Date.now().toString(36)}`
  const saved = await savePuppet({ puppet: folded.puppet, base: stored.revision, saveId: saveIdOf(tab, 1, 1), wentBack: false })
  const { puppet: made, changes, done } = folded
  // The window that opens it first takes the history up.
  await keepDraft({ tab, seq: 1, revision: saved.revision, puppet: made, changes, done, confirmed: true, at: Date.now(), recording: null })
  return { puppet: saved, ...found }
}
