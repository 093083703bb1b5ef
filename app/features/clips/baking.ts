/** What moves by itself in the open clip, made into keys. */
import type { Edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import type { BakeOptions } from '@marionette/core/playing/bake'
import type { Puppet } from '@marionette/core/puppet/schema'
import { perform, useDocument } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { clipNow } from './acting'
import { chosenSpan } from './playing'

/** Bakes in the stretch between the chosen keys, in the range that plays, or in all of the clip; says why where that cannot be. */
export function bakeStretch(
  editor: Editor,
  label: string,
  tolerance: number,
  editsOf: (puppet: Puppet, options: BakeOptions) => Edit[],
): void {
  const clip = clipNow(editor)
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!clip || !puppet) return
  const stretch = chosenSpan(editor) ?? clip.range ?? {}
  try {
    perform(editor, editsOf(puppet, { clip: clip.id, layer: freshId('layer'), tolerance, ...stretch }), label)
  } catch (error) {
    editor.notify(error instanceof Error ? error.message : String(error))
  }
}
