/** Clips that people kept as ready motions: the library has them, for every puppet. */
import type { Clip } from '@marionette/core/clips/records'
import { counted } from '@marionette/core/kernel/counted'
import { freshId } from '@marionette/core/kernel/ids'
import { keepMotion, type KeptMotion } from '@marionette/core/motions/kept'
import { useDocument } from '../../editor/document'
import { editorStore, type Editor } from '../../editor/editor'
import { orSaid } from '../../editor/work'
import { listMotions, removeMotion, saveMotion } from '../../storage/api'

export const useOwnMotions = editorStore<{ readonly motions: readonly KeptMotion[] }>(() => ({ motions: [] }))

export async function readMotions(editor: Editor): Promise<void> {
  const motions = await orSaid(editor, listMotions)
  if (motions) useOwnMotions.of(editor).setState({ motions })
}

/** Keeps a clip as a ready motion, and says what of it goes along. */
export async function keepAsMotion(editor: Editor, clip: Clip): Promise<void> {
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!puppet) return
  const motion = keepMotion(puppet, clip, freshId('motion'))
  const [all, kept] = [clip.layers, motion.layers].map((layers) =>
    layers.reduce((sum, { tracks }) => sum + Object.keys(tracks).length, 0),
  ) as [number, number]
  if (kept === 0) return void editor.notify('Nothing in this clip could be acted by another puppet: key bones or controls first.')
  const done = await orSaid(editor, async () => (await saveMotion(motion), true))
  if (!done) return
  await readMotions(editor)
  const left = all - kept
  editor.notify.success(
    `“${clip.name}” is a ready motion now${left > 0 ? `, without ${counted(left, 'track')} that only this puppet has` : ''}.`,
  )
}

export async function forgetMotion(editor: Editor, id: string): Promise<void> {
  if (await orSaid(editor, async () => (await removeMotion(id), true))) await readMotions(editor)
}
