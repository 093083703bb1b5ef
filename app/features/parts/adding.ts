/** New parts that show nothing yet: a group, a drawing to be drawn. */
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { edit } from '@marionette/core/kernel/command'
import { freshId } from '@marionette/core/kernel/ids'
import { movePart } from '@marionette/core/parts/commands'
import { newPart } from '@marionette/core/parts/new'
import { partOf } from '@marionette/core/parts/lookup'
import type { Drawing, Part } from '@marionette/core/puppet/schema'
import { openPuppet, perform } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import type { Editor } from '../../editor/editor'

/** Adds a part above the selected one, or on top of everything, selects it and asks for its name. */
function addAbove(editor: Editor, part: Part, drawings: readonly Drawing[], label: string): boolean {
  const puppet = openPuppet(editor)
  const { selection } = useSession.of(editor).getState()
  const beside = selection.kind === 'part' ? puppet.parts[selection.ids[0] ?? ''] : undefined
  const parent = beside?.parent ?? puppet.root
  const index = beside?.parent ? partOf(puppet, parent).children.indexOf(beside.id) + 1 : partOf(puppet, parent).children.length
  const edits = [edit(addArtwork, { parent, parts: [part], drawings: [...drawings] }), edit(movePart, { part: part.id, parent, index })]
  if (!perform(editor, edits, label)) return false
  selectParts(editor, part.id)
  useSession.of(editor).setState({ renaming: part.id })
  return true
}

export const addGroup = (editor: Editor): boolean => addAbove(editor, newPart(freshId('part'), 'Group'), [], 'Add group')

/** An empty drawing: what is drawn while it is selected goes into it. */
export function addDrawing(editor: Editor): boolean {
  const puppet = openPuppet(editor)
  const drawing: Drawing = { id: freshId('drawing'), shapes: [] }
  const count = Object.values(puppet.parts).filter((p) => /^Drawing \d+$/.test(p.name)).length
  const part = { ...newPart(freshId('part'), `Drawing ${count + 1}`, { kind: 'drawing' }), art: { [puppet.view]: drawing.id } }
  return addAbove(editor, part, [drawing], 'Add drawing')
}
