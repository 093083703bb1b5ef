/** Heavy work on the open puppet whose result is a few edits: run in a worker, then done as one step. */
import { toast } from 'sonner'
import { assetsOfParts } from '@marionette/core/document/tree'
import type { Puppet } from '@marionette/core/document/schema'
import { editsOf } from '../workers/edits'
import { Cancelled } from '../workers/client'
import type { Worked } from '../workers/cutting'
import { loadAssets, sendAssets } from './assets'
import { openPuppet, perform } from './document'

/**
 * Runs work on the puppet as it is now and does what it came to, as one entry of the history. Failures are said;
 * what was cancelled is not.
 *
 * @param needed parts whose pictures the work needs, or the pictures themselves
 * @returns whether the edits were done
 */
export async function work(
  label: string,
  needed: readonly string[] | ((puppet: Puppet) => ReadonlySet<string>),
  run: (puppet: Puppet, assets: ReadonlyMap<string, Uint8Array>) => Promise<Worked>,
): Promise<boolean> {
  const done = await orSaid(async () => {
    const puppet = openPuppet()
    const hashes = typeof needed === 'function' ? needed(puppet) : assetsOfParts(puppet, needed)
    const { edits, assets } = await run(puppet, await loadAssets(hashes))
    await sendAssets(assets)
    return perform(editsOf(edits), label)
  })
  return done ?? false
}

/** Runs work and says why it failed; null then, and where it was cancelled. */
export async function orSaid<T>(run: () => Promise<T>): Promise<T | null> {
  try {
    return await run()
  } catch (error) {
    if (!(error instanceof Cancelled)) toast.error((error as Error).message)
    return null
  }
}

/** Runs work that has no place of its own on the screen: a note says that it goes on, and ends it on demand. */
export async function withNote<T>(text: string, run: (signal: AbortSignal) => Promise<T>): Promise<T | null> {
  const abort = new AbortController()
  const note = toast.loading(text, { action: { label: 'Cancel', onClick: () => abort.abort() } })
  try {
    return await orSaid(() => run(abort.signal))
  } finally {
    toast.dismiss(note)
  }
}
