/** Stray pieces: looked for in pictures of the parts, known as long as the artwork stays that they were found in, and taken out on demand. */
import { counted } from '@marionette/core/kernel/counted'
import type { StrayPiece } from '@marionette/authoring/strays'
import { drawingBy, pictureBy } from '@marionette/core/artwork/art'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { editorStore, type Editor } from '../../editor/editor'
import { orSaid, withNote, work } from '../../editor/work'

interface Kept {
  readonly piece: StrayPiece
  /** The drawing or picture that it was found in. */
  readonly art: object | null
}

interface StrayState {
  readonly kept: readonly Kept[]
}

export const useStrays = editorStore<StrayState>(() => ({ kept: [] }))

function artOf(puppet: Puppet, { part, view }: StrayPiece): object | null {
  const id = puppet.parts[part]?.art[view] ?? ''
  return drawingBy(puppet, id) ?? pictureBy(puppet, id) ?? null
}

const keptFrom = (puppet: Puppet, pieces: readonly StrayPiece[]): Kept[] => pieces.map((piece) => ({ piece, art: artOf(puppet, piece) }))

/** Stray pieces that were found and are still there. */
export const straysIn = ({ kept }: StrayState, puppet: Puppet): StrayPiece[] =>
  kept.filter(({ piece, art }) => art !== null && artOf(puppet, piece) === art).map(({ piece }) => piece)

/** Looks for stray pieces in all parts, and says what was found. */
export async function lookForStrays(editor: Editor): Promise<void> {
  const puppet = openPuppet(editor)
  const pieces = await withNote(editor, 'Looking for stray pieces…', async (signal) =>
    editor.jobs.strays(puppet, {}, await loadAssets(editor, paintedAssetsOf(puppet)), signal),
  )
  if (!pieces) return
  useStrays.of(editor).setState({ kept: keptFrom(puppet, pieces) })
  editor.notify(
    pieces.length === 0 ? 'No part carries a stray piece.' : `${counted(pieces.length, 'stray piece was', 'stray pieces were')} found.`,
    pieces.length === 0 ? {} : { action: { label: 'Remove', onClick: () => void removeStrays(editor) } },
  )
}

/** Looks at what was just cut, in the view in which it was, without a word where nothing is found. */
export async function lookAtNew(editor: Editor, part: string): Promise<void> {
  const puppet = openPuppet(editor)
  if (!puppet.parts[part]) return
  await orSaid(editor, async () => {
    const where = { parts: [part], views: [puppet.view] }
    const pieces = await editor.jobs.strays(puppet, where, await loadAssets(editor, paintedAssetsOf(puppet)))
    const others = useStrays
      .of(editor)
      .getState()
      .kept.filter(({ piece }) => piece.part !== part || piece.view !== puppet.view)
    useStrays.of(editor).setState({ kept: [...others, ...keptFrom(puppet, pieces)] })
  })
}

/** Takes the stray pieces that are known out of a part, or out of all. */
export async function removeStrays(editor: Editor, part: string | null = null): Promise<void> {
  const known = straysIn(useStrays.of(editor).getState(), openPuppet(editor))
  const wanted = known.filter((p) => part === null || p.part === part)
  if (wanted.length > 0)
    await work(editor, 'Remove stray pieces', paintedAssetsOf, (puppet, assets) => editor.jobs.removeScraps(puppet, wanted, assets))
}
