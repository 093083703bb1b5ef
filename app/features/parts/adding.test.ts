/** Groups and drawings that show nothing yet. */
import { beforeEach, expect, test } from 'vitest'
import { drawingBy } from '@marionette/core/artwork/art'
import { armPuppet } from '@marionette/core/test/puppets'
import { openDocument, openPuppet, undo } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import type { Editor } from '../../editor/editor'
import { quietEditor } from '../../test/quietEditor'
import { addDrawing, addGroup } from './adding'

let editor: Editor
beforeEach(() => {
  ;({ editor } = quietEditor())
  openDocument(editor, { puppet: armPuppet(), revision: 1 })
})
const children = (): string[] => openPuppet(editor).parts[openPuppet(editor).root]!.children.map((id) => openPuppet(editor).parts[id]!.name)

test('a new group lies above what is selected, is selected and asks for its name', () => {
  selectParts(editor, 'sleeve')
  expect(addGroup(editor)).toBe(true)
  expect(children()).toEqual(['Sleeve', 'Group', 'Hand'])
  const { selection, renaming } = useSession.of(editor).getState()
  expect(selection.ids).toEqual([renaming])
  undo(editor)
  expect(children()).toEqual(['Sleeve', 'Hand'])
})

test('a new drawing lies on top where nothing is selected, is empty, and each has a number of its own', () => {
  addDrawing(editor)
  selectParts(editor)
  addDrawing(editor)
  expect(children()).toEqual(['Sleeve', 'Hand', 'Drawing 1', 'Drawing 2'])
  const part = Object.values(openPuppet(editor).parts).find((p) => p.name === 'Drawing 2')!
  expect(part.content).toEqual({ kind: 'drawing' })
  expect(drawingBy(openPuppet(editor), part.art['front']!)?.shapes).toEqual([])
})
