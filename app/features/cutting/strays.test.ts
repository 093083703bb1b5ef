import { expect, test } from 'vitest'
import type { StrayPiece } from '@marionette/authoring/strays'
import { changeArt } from '@marionette/core/joints/commands'
import { run } from '@marionette/core/puppet/edit'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { newPuppet } from '@marionette/core/puppet/new'
import { box, drawingPart } from '@marionette/core/test/puppets'
import { sure } from '@marionette/core/kernel/sure'
import { quietEditor } from '../../test/quietEditor'
import { openDocument } from '../../editor/document'
import { lookAtNew, straysIn, useStrays } from './strays'

const drawings = [box('a-art', 0, 0, 40, 40), box('b-art', 60, 0, 40, 40)]
const start = newPuppet('p', 'Boots', { width: 200, height: 100 })
const puppet = run(start, addArtwork, {
  parent: start.root,
  parts: [drawingPart('a', 'A', sure(drawings[0])), drawingPart('b', 'B', sure(drawings[1]))],
  drawings,
})
const piece = (part: string): StrayPiece => ({
  ...{ part, name: part, view: puppet.view, across: 5, of: null },
  area: { paths: [], rule: 'nonzero' },
})
const redrawn = (id: string) => run(puppet, changeArt, { drawings: [box(id, 0, 0, 30, 40)], pictures: [] })

test('what was found in a part is known until the artwork of that part changes, whatever is looked at meanwhile', async () => {
  const found: Record<string, StrayPiece[]> = { a: [piece('a')], b: [] }
  const { editor } = quietEditor({ strays: (_, { parts }) => Promise.resolve(sure(found[sure(parts?.[0])])) })
  openDocument(editor, { puppet, revision: 1 })
  await lookAtNew(editor, 'a')
  await lookAtNew(editor, 'b')
  const names = (now: typeof puppet): string[] => straysIn(useStrays.of(editor).getState(), now).map((p) => p.name)
  expect(names(puppet)).toEqual(['a'])
  expect(names(redrawn('b-art'))).toEqual(['a'])
  expect(names(redrawn('a-art'))).toEqual([])
})
