/**
 * Which window of the browser this is. Each keeps its own drafts: two windows with one puppet must not write over each other's. The
 * name outlives a reload, and a lock that the browser lets go of when the window is gone tells which windows are still there.
 */
import { once } from '../../ui/once'

const KEY = 'marionette-window'
const lockOf = (tab: string): string => `marionette-window/${tab}`

const fresh = (): string => Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) => b.toString(16).padStart(2, '0')).join('')

/** Holds the lock of a name as long as the page lives; false where another window has it, as after doubling one. */
function hold(tab: string): Promise<boolean> {
  if (!globalThis.navigator?.locks) return Promise.resolve(true)
  return new Promise((resolve) => {
    void navigator.locks
      .request(lockOf(tab), { ifAvailable: true }, (lock) => {
        resolve(lock !== null)
        // Held until the page is gone.
        return lock ? new Promise<never>(() => undefined) : undefined
      })
      .catch(() => resolve(true))
  })
}

async function claim(): Promise<string> {
  let tab = fresh()
  try {
    const before = sessionStorage.getItem(KEY)
    if (before && (await hold(before))) return before
    sessionStorage.setItem(KEY, tab)
  } catch {
    // Without storage each page is a window of its own.
    tab = fresh()
  }
  await hold(tab)
  return tab
}

/** The name of this window. */
export const thisTab: () => Promise<string> = once(claim)

/** Names of the windows that are there, this one included. */
export async function liveTabs(): Promise<ReadonlySet<string>> {
  const own = await thisTab()
  const { held = [] } = (await globalThis.navigator?.locks?.query()) ?? {}
  return new Set([own, ...held.flatMap(({ name }) => (name?.startsWith(lockOf('')) ? [name.slice(lockOf('').length)] : []))])
}
