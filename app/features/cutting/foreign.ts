/** What a selection takes along of something that is beside it, and the offer to leave it out. */
import { assetsOfParts } from '@marionette/core/parts/tree'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { editorState, type Editor } from '../../editor/editor'
import { orSaid } from '../../editor/work'
import { useCut } from './selection'
import { cutSource } from './source'

const stateOf = editorState((): { abort: AbortController | null } => ({ abort: null }))

/** Looks at the selection once it is drawn; what it takes along of a neighbour is kept beside it. A look at an older one ends. */
export async function lookBeside(editor: Editor, area: Area): Promise<void> {
  const own = stateOf(editor)
  own.abort?.abort()
  const { signal } = (own.abort = new AbortController())
  const source = cutSource(editor)
  if (source === null) return
  const puppet = openPuppet(editor)
  await orSaid(editor, async () => {
    const foreign = await editor.jobs.foreign(puppet, source, area, await loadAssets(editor, assetsOfParts(puppet, [source])), signal)
    // Meanwhile it may have been sent.
    if (useCut.of(editor).getState().area === area) useCut.of(editor).setState({ foreign })
  })
}
