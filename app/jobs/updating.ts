/** Comparing a puppet with a new version of a file, inside of a worker. */
import { freshId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { applyUpdate } from '@marionette/core/update/apply'
import { compareVersions, type UpdateEntry } from '@marionette/core/update/match'
import { run } from '@marionette/core/puppet/edit'
import { foldGroups } from '@marionette/core/parts/nesting'
import type { Progress } from '@marionette/formats/layers/import'
import type { Warning } from '@marionette/formats/warnings'
import { readFiles } from './reading'
import { writtenEdits, type WrittenEdit } from './edits'
import { nth } from '@marionette/core/kernel/sure'

export interface Compared {
  readonly incoming: Puppet
  readonly entries: readonly UpdateEntry[]
  readonly assets: ReadonlyMap<string, Uint8Array>
  readonly warnings: readonly Warning[]
}

export interface TakenUpdate {
  readonly edits: readonly WrittenEdit[]
  /** Names of parts that could not take their new artwork. */
  readonly left: readonly string[]
}

/** @param source the name of the file as the puppet knows it */
export async function startUpdate(puppet: Puppet, file: File, source: string, progress: Progress): Promise<Compared> {
  const { puppet: read, nesting, assets, warnings } = await readFiles([file], file.name, progress)
  // What was folded when the file came in is folded again, so that like is compared with like.
  const incoming = nesting && nesting.groups.length > 0 ? run(read, foldGroups, nesting) : read
  return { incoming, entries: compareVersions(puppet, incoming, source), assets, warnings }
}

export function takeUpdate(puppet: Puppet, { incoming, entries }: Compared, ticked: readonly number[]): TakenUpdate {
  const { edits, left } = applyUpdate(puppet, incoming, entries, new Set(ticked.map((i) => nth(entries, i))), freshId)
  return { edits: writtenEdits(edits), left }
}
