/** Opening a puppet: what the server has, together with what the windows of this browser kept. */
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet } from '@marionette/core/puppet/schema'
import { startHistory } from '@marionette/core/puppet/history'
import { loadPuppet, type Loaded } from '../../storage/api'
import { openDocument } from '../document'
import { draftsOf, forgetDraft, historyOf, keepDraft, type Draft } from '../../storage/drafts'
import { isOfTab, seqOf } from '../../storage/saveIds'
import { liveTabs, thisTab } from './tab'
import type { Recording } from '../../storage/recording'
import type { Editor } from '../editor'
import { sure } from '@marionette/core/kernel/sure'

export interface Opening {
  readonly kind: 'fresh' | 'recovered' | 'conflict'
  /** What the server has, where edits were taken up that it does not have. */
  readonly stored: Puppet
  /** Work of windows that are gone, which no server ever confirmed, besides what was taken up. */
  readonly unsent: readonly Draft[]
  /** A recording that was going on. */
  readonly recording: Recording | null
}

const isSame = (draft: Draft, { puppet }: Loaded): boolean => canonicalJson(draft.puppet) === canonicalJson(puppet)

/** Whether the server has a later state of the same window than a draft. */
const isOvertaken = (draft: Draft, { saveId }: Loaded): boolean => isOfTab(saveId, draft.tab) && seqOf(sure(saveId)) > draft.seq

/** Whether nobody but the window of a draft saved since. */
const isUnderneath = (draft: Draft, { revision, saveId }: Loaded): boolean => draft.revision === revision || isOfTab(saveId, draft.tab)

/**
 * Loads and opens a puppet. Edits that were never confirmed are taken up again when nobody saved in between; if somebody did, they are
 * opened as a conflict, with both sides kept. What other windows left behind is handed back to be offered. Throws RequestError.
 */
export async function openStored(editor: Editor, id: string): Promise<Opening> {
  const [loaded, tab] = await Promise.all([loadPuppet(id), thisTab()])
  const { own, left } = await sortedDrafts(id, tab, loaded)
  const unsent = left.filter((d) => !d.confirmed && !isSame(d, loaded) && !isOvertaken(d, loaded))
  const fresh = { kind: 'fresh' as const, stored: loaded.puppet, unsent, recording: null }
  if (!own || (own.confirmed && !isSame(own, loaded)) || isOvertaken(own, loaded)) {
    openDocument(editor, { puppet: loaded.puppet, revision: loaded.revision, history: startHistory(loaded.puppet) })
    return fresh
  }
  const history = historyOf(own)
  const { recording } = own
  if (isSame(own, loaded)) {
    openDocument(editor, { puppet: loaded.puppet, revision: loaded.revision, history: { ...history, puppet: loaded.puppet } })
    return { ...fresh, recording }
  }
  const isConflict = !isUnderneath(own, loaded)
  openDocument(editor, {
    puppet: own.puppet,
    revision: loaded.revision,
    history,
    hasUnsent: true,
    conflict: isConflict ? loaded.revision : null,
  })
  return { ...fresh, kind: isConflict ? 'conflict' : 'recovered', recording }
}

/**
 * The draft to go on with, and what else windows that are gone left behind. Where this window has none, the newest of a window that is
 * gone takes its place: it is the same person after a crash. Drafts that say nothing new are forgotten.
 */
async function sortedDrafts(id: string, tab: string, loaded: Loaded): Promise<{ own: Draft | null; left: Draft[] }> {
  const live = await liveTabs()
  const drafts = await draftsOf(id)
  const mine = drafts.find((d) => d.tab === tab)
  const left = drafts.filter((d) => !live.has(d.tab))
  if (mine) return { own: mine, left }
  const fits = (d: Draft): boolean => isSame(d, loaded) || (!d.confirmed && isUnderneath(d, loaded) && !isOvertaken(d, loaded))
  const heir = left.find((d) => !d.confirmed && fits(d)) ?? left.find((d) => !d.confirmed && !isOvertaken(d, loaded)) ?? left.find(fits)
  for (const d of left) if (d.confirmed && d !== heir) await forgetDraft(id, d.tab)
  // It is kept under this window's name before it goes under the other's.
  if (heir && (await keepDraft({ ...heir, tab }))) await forgetDraft(id, heir.tab)
  return { own: heir ?? null, left: left.filter((d) => d !== heir && !d.confirmed) }
}
