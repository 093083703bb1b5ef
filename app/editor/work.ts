/** Heavy work on the open puppet whose result is a few edits: run in a worker, then done as one step. */
import { assetsOfParts } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { editsOf } from '../jobs/edits'
import { Cancelled } from '../jobs/client'
import type { Worked } from '../jobs/cutting'
import { loadAssets, sendAssets } from './assets'
import { openPuppet, perform } from './document'
import type { Editor } from './editor'

/**
 * Runs work on the puppet as it is now and does what it came to, as one entry of the history. Failures are said;
 * what was cancelled is not.
 *
 * @param needed parts whose pictures the work needs, or the pictures themselves
 * @returns whether the edits were done
 */
export async function work(
  editor: Editor,
  label: string,
  needed: readonly string[] | ((puppet: Puppet) => ReadonlySet<string>),
  run: (puppet: Puppet, assets: ReadonlyMap<string, Uint8Array>) => Promise<Worked>,
): Promise<boolean> {
  const done = await orSaid(editor, async () => {
    const puppet = openPuppet(editor)
    const hashes = typeof needed === 'function' ? needed(puppet) : assetsOfParts(puppet, needed)
    const { edits, assets } = await run(puppet, await loadAssets(editor, hashes))
    await sendAssets(editor, assets)
    return perform(editor, editsOf(edits), label)
  })
  return done ?? false
}

/** Runs work and says why it failed; null then, and where it was cancelled. */
export async function orSaid<T>(editor: Editor, run: () => Promise<T>): Promise<T | null> {
  try {
    return await run()
  } catch (error) {
    if (!(error instanceof Cancelled)) editor.notify.error((error as Error).message)
    return null
  }
}

/** Runs work that has no place of its own on the screen: a note says that it goes on, and ends it on demand. */
export async function withNote<T>(editor: Editor, text: string, run: (signal: AbortSignal) => Promise<T>): Promise<T | null> {
  const abort = new AbortController()
  const note = editor.notify.loading(text, { action: { label: 'Cancel', onClick: () => abort.abort() } })
  try {
    return await orSaid(editor, () => run(abort.signal))
  } finally {
    editor.notify.dismiss(note)
  }
}
