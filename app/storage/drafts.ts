/**
 * What the browser itself keeps: edits that the server has not confirmed, and the history of each puppet, so that undo still works
 * after a reload. One draft for each puppet and window.
 */
import { del, entries, set } from 'idb-keyval'
import { readPuppet } from '@marionette/core/puppet/migrate'
import { CURRENT_VERSION, type Puppet } from '@marionette/core/puppet/schema'
import type { HistoryEntry } from '@marionette/core/puppet/edit'
import { startHistory, type History } from '@marionette/core/puppet/history'
import type { Recording } from './recording'

export interface Draft {
  /** The window that keeps it. */
  readonly tab: string
  /** Grows with every draft of a window, and is part of the ids of its saves. */
  readonly seq: number
  /** Revision of the server on which it is based. */
  readonly revision: number
  readonly puppet: Puppet
  readonly changes: readonly HistoryEntry[]
  readonly done: number
  /** Whether the server has it. */
  readonly confirmed: boolean
  readonly at: number
  /** What was being recorded. */
  readonly recording: Recording | null
}

const keyOf = (puppet: string, tab: string): string => `draft/${puppet}/${tab}`
/** Before there was a draft for each window there was one for each puppet. */
const oldKeyOf = (puppet: string): string => `puppet/${puppet}`

/** Keeps a draft; tells whether the browser did. Storage that is full or forbidden is no reason to stop working. */
export async function keepDraft(draft: Draft): Promise<boolean> {
  try {
    await set(keyOf(draft.puppet.id, draft.tab), draft)
    return true
  } catch {
    return false
  }
}

/** All drafts of a puppet, those of an older version of the document brought up, the newest first. */
export async function draftsOf(puppet: string): Promise<Draft[]> {
  const all = await entries<string, Partial<Draft> & Pick<Draft, 'puppet'>>().catch(() => [])
  return all
    .filter(([key]) => key === oldKeyOf(puppet) || String(key).startsWith(keyOf(puppet, '')))
    .flatMap(([key, draft]) => {
      const tab = key === oldKeyOf(puppet) ? OLD_TAB : key.slice(keyOf(puppet, '').length)
      const read = asPresent({ seq: 0, at: 0, recording: null, revision: 0, changes: [], done: 0, confirmed: true, ...draft, tab })
      return read ? [read] : []
    })
    .sort((a, b) => b.at - a.at)
}

const OLD_TAB = 'before'

/** A draft of an older version holds changes that do not fit the document any more: what it shows stays, its steps go. */
function asPresent(draft: Draft): Draft | null {
  if (draft.puppet.version === CURRENT_VERSION) return draft
  try {
    return { ...draft, puppet: readPuppet(draft.puppet), changes: [], done: 0, recording: null }
  } catch {
    return null
  }
}

export const forgetDraft = (puppet: string, tab: string): Promise<void> =>
  del(tab === OLD_TAB ? oldKeyOf(puppet) : keyOf(puppet, tab)).catch(() => undefined)

/** A draft as a history. */
export const historyOf = ({ puppet, changes, done }: Draft): History =>
  changes.length > 0 ? { puppet, changes, done } : startHistory(puppet)
