/** Filling what is missing of the selected part, and taking its lines apart from its colour. */
import { freshId } from '@marionette/core/kernel/ids'
import { useCut } from './selection'
import { openPuppet } from '../../editor/document'
import { withNote, work } from '../../editor/work'
import { whileBusy } from './busy'
import { dropArea } from './selecting'
import { cutSource } from './source'
import type { Editor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'

/** Fills the selected area of the selected part from what surrounds it. */
export async function fillSelected(editor: Editor): Promise<void> {
  const { area } = useCut.of(editor).getState()
  const part = cutSource(editor)
  if (!area || part === null) return
  const label = `Fill ${partOf(openPuppet(editor), part).name}`
  const isDone = await whileBusy(editor, (signal, progress) =>
    work(editor, label, [part], (puppet, assets) => editor.jobs.fill(puppet, part, area, assets, progress, signal)),
  )
  if (isDone) dropArea(editor)
}

/** Makes the lines of a part a part of their own, above its colour. */
export async function splitLinesOf(editor: Editor, part: string, threshold: number): Promise<void> {
  const { name } = partOf(openPuppet(editor), part)
  await withNote(editor, `Splitting line and colour of ${name}…`, (signal) =>
    work(editor, `Split line and colour of ${name}`, [part], (puppet, assets) =>
      editor.jobs.split(puppet, part, freshId('part'), threshold, assets, signal),
    ),
  )
}
