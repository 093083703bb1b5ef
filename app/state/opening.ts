/** Opening a puppet: what the server has, together with what this browser kept. */
import { canonicalJson } from '@marionette/core/document/json'
import type { Puppet } from '@marionette/core/document/schema'
import { startHistory, type History } from '@marionette/core/edit/history'
import { loadPuppet } from './api'
import { openDocument, useDocument } from './document'
import { readKept } from './keep'

export type Opening =
  | { readonly kind: 'fresh' | 'conflict' }
  /** Edits were taken up that the server does not have; `stored` is what it has. */
  | { readonly kind: 'recovered'; readonly stored: Puppet }

const FRESH: Opening = { kind: 'fresh' }

/**
 * Loads and opens a puppet. Edits that were never confirmed are taken up again when nobody saved in between; if
 * somebody did, they are opened as a conflict, with both sides kept. Throws RequestError.
 */
export async function openStored(id: string): Promise<Opening> {
  const [{ puppet, revision }, kept] = await Promise.all([loadPuppet(id), readKept(id)])
  const keptHistory: History | null = kept && { puppet: kept.puppet, changes: kept.changes, done: kept.done }
  if (!kept || !keptHistory) {
    openDocument(puppet, revision)
    return FRESH
  }
  const same = canonicalJson(kept.puppet) === canonicalJson(puppet)
  if (same) {
    openDocument(puppet, revision, { ...keptHistory, puppet })
    return FRESH
  }
  if (kept.confirmed) {
    openDocument(puppet, revision, startHistory(puppet))
    return FRESH
  }
  openDocument(kept.puppet, kept.revision, keptHistory)
  const conflict = kept.revision !== revision
  useDocument.setState({ save: conflict ? { kind: 'conflict', revision } : { kind: 'changed' } })
  return conflict ? { kind: 'conflict' } : { kind: 'recovered', stored: puppet }
}
