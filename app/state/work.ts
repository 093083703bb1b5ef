/** Heavy work on the open puppet whose result is a few edits: run in a worker, then done as one step. */
import { toast } from 'sonner'
import { assetsOf } from '@marionette/core/document/tree'
import type { Puppet } from '@marionette/core/document/schema'
import { editsOf, type WrittenEdit } from '../workers/edits'
import { Cancelled } from '../workers/client'
import { loadAssets, sendAssets } from './assets'
import { openPuppet, perform } from './document'

type Assets = ReadonlyMap<string, Uint8Array>

interface Worked {
  readonly edits: readonly WrittenEdit[]
  readonly assets: Assets
}

/**
 * Runs work on the puppet as it is now and does what it came to, as one entry of the history. Failures are said;
 * what was cancelled is not.
 *
 * @returns whether the edits were done
 */
export async function work(label: string, run: (puppet: Puppet, assets: Assets) => Promise<Worked>): Promise<boolean> {
  try {
    const puppet = openPuppet()
    const { edits, assets } = await run(puppet, await loadAssets(assetsOf(puppet)))
    await sendAssets(assets)
    return perform(editsOf(edits), label)
  } catch (error) {
    if (!(error instanceof Cancelled)) toast.error((error as Error).message)
    return false
  }
}
