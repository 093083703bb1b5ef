/** Masking one part by another. */
import { setMasks } from '@marionette/core/layering/commands'
import { openPuppet, perform } from '../../editor/document'
import { edit } from '@marionette/core/kernel/command'
import type { Editor } from '../../editor/editor'
import { recordOf } from '@marionette/core/kernel/sure'

/** Masks a part by another one: inside its area, until somebody says otherwise. */
export function maskBy(editor: Editor, part: string, shape: string): boolean {
  const { parts } = openPuppet(editor)
  const masks = [...recordOf(parts, part).masks, { shape, keep: 'inside' as const, by: 'area' as const }]
  return perform(editor, [edit(setMasks, { part, masks })], `Mask ${recordOf(parts, part).name} by ${recordOf(parts, shape).name}`)
}
