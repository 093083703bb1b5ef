/**
 * What the browser itself keeps: edits that the server has not confirmed, and the history of each puppet, so that
 * undo still works after a reload.
 */
import { del, get, set } from 'idb-keyval'
import type { Puppet } from '@marionette/core/document/schema'
import type { Change } from '@marionette/core/edit/command'
import type { History } from '@marionette/core/edit/history'

interface Kept {
  /** Revision of the server on which the kept state is based. */
  readonly revision: number
  readonly puppet: Puppet
  readonly changes: readonly Change[]
  readonly done: number
  readonly confirmed: boolean
}

const key = (id: string): string => `puppet/${id}`

/** Keeps the present state; storage that is full or forbidden is no reason to stop working. */
export async function keep(history: History, revision: number, confirmed: boolean): Promise<void> {
  const { puppet, changes, done } = history
  await set(key(puppet.id), { revision, puppet, changes, done, confirmed } satisfies Kept).catch(() => undefined)
}

export const readKept = async (id: string): Promise<Kept | null> => (await get<Kept>(key(id)).catch(() => undefined)) ?? null
export const forgetKept = (id: string): Promise<void> => del(key(id)).catch(() => undefined)
