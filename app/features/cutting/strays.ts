/** Stray pieces: looked for in pictures of the parts, kept as long as the artwork stays, and taken out on demand. */
import type { StrayPiece } from '@marionette/authoring/strays'
import { assetsOf } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { editorStore, type Editor } from '../../editor/editor'
import { orSaid, withNote, work } from '../../editor/work'

interface Found {
  readonly pieces: readonly StrayPiece[]
  /** What was looked at. */
  readonly from: Pick<Puppet, 'drawings' | 'pictures'>
}

export const useStrays = editorStore<{ readonly found: Found | null }>(() => ({ found: null }))

const NONE: readonly StrayPiece[] = []

/** Stray pieces that were found and are still there. */
export function straysIn({ found }: { readonly found: Found | null }, { drawings, pictures }: Puppet): readonly StrayPiece[] {
  return found && found.from.drawings === drawings && found.from.pictures === pictures ? found.pieces : NONE
}

/** Looks for stray pieces in all parts, and says what was found. */
export async function lookForStrays(editor: Editor): Promise<void> {
  const puppet = openPuppet(editor)
  const pieces = await withNote(editor, 'Looking for stray pieces…', async (signal) =>
    editor.jobs.strays(puppet, null, await loadAssets(editor, assetsOf(puppet)), () => undefined, signal),
  )
  if (!pieces) return
  useStrays.of(editor).setState({ found: { pieces, from: puppet } })
  editor.notify(
    pieces.length === 0
      ? 'No part carries a stray piece.'
      : `${pieces.length === 1 ? 'A stray piece was' : `${pieces.length} stray pieces were`} found.`,
    pieces.length === 0 ? {} : { action: { label: 'Remove', onClick: () => void removeStrays(editor) } },
  )
}

/** Looks at what was just cut, without a word where nothing is found. */
export async function lookAtNew(editor: Editor, part: string): Promise<void> {
  const puppet = openPuppet(editor)
  if (!puppet.parts[part]) return
  await orSaid(editor, async () => {
    const pieces = await editor.jobs.strays(puppet, [part], await loadAssets(editor, assetsOf(puppet)), () => undefined)
    if (pieces.length > 0) useStrays.of(editor).setState({ found: { pieces, from: puppet } })
  })
}

/** Takes the stray pieces that are known out of a part, or out of all. */
export async function removeStrays(editor: Editor, part: string | null = null): Promise<void> {
  const known = straysIn(useStrays.of(editor).getState(), openPuppet(editor))
  const wanted = known.filter((p) => part === null || p.part === part)
  if (wanted.length === 0) return
  const isDone = await work(editor, 'Remove stray pieces', assetsOf, (puppet, assets) => editor.jobs.removeScraps(puppet, wanted, assets))
  if (isDone) useStrays.of(editor).setState({ found: { pieces: known.filter((p) => !wanted.includes(p)), from: openPuppet(editor) } })
}
