/** The colour under the pointer, whatever is drawn there. */
import type { Vec } from '@marionette/core/puppet/schema'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import { loadAssets } from '../../editor/assets'
import { openPuppet } from '../../editor/document'
import { useTouch } from './settings'
import { orSaid } from '../../editor/work'
import type { Editor } from '../../editor/editor'

/** Takes the colour of a spot for the ink, or for the line. */
export async function pickColour(editor: Editor, spot: Vec, forLine: boolean): Promise<void> {
  const puppet = openPuppet(editor)
  const colour = await orSaid(editor, async () => editor.jobs.colour(puppet, spot, await loadAssets(editor, paintedAssetsOf(puppet))))
  if (colour === null) return
  const swatch = puppet.palette.find((s) => s.colour === colour)?.id ?? null
  useTouch.of(editor).setState(forLine ? { line: colour } : { ink: colour, swatch })
}
