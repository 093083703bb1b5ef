/** Two editors on one page: each with its own puppet, history, selection, tools and recording, whatever goes on in the other. */
import React, { createElement } from 'react'
import { Tooltip } from 'radix-ui'
import { renderToStaticMarkup } from 'react-dom/server'
import { MemoryRouter } from 'react-router'
import { beforeEach, expect, test, vi } from 'vitest'
import { edit } from '@marionette/core/kernel/command'
import { deletePart, renamePart } from '@marionette/core/parts/commands'
import { setPose } from '@marionette/core/poses/commands'
import { armPuppet } from '@marionette/core/test/puppets'
import { openDocument, openPuppet, perform, redo, undo, useDocument } from '../editor/document'
import { EditorProvider, type Editor } from '../editor/editor'
import { play } from '../editor/live'
import { selectParts, useSession } from '../editor/session'
import { stageModel } from '../editor/stageModel'
import { layRecordingAround, recordNew, recordingNow } from '../features/responses/recording'
import { poseTool } from '../features/posing/poseTool'
import type { ToolEvent, ToolHost } from '../stage/tool'
import { quietEditor, type QuietEditor } from '../test/quietEditor'
import { Details } from './Details'

let left: QuietEditor
let right: QuietEditor

beforeEach(() => {
  left = quietEditor()
  right = quietEditor()
  openDocument(left.editor, { puppet: { ...armPuppet(), id: 'left', name: 'Left' }, revision: 1 })
  openDocument(right.editor, { puppet: { ...armPuppet(), id: 'right', name: 'Right' }, revision: 5 })
})

const entries = (editor: Editor): number => useDocument.of(editor).getState().history!.changes.length
const angleSeen = (editor: Editor): number => {
  const { rig, frame } = stageModel(editor).get(openPuppet(editor), false)
  const bone = 6 * rig.bones.index.get('lower')!
  return Math.round((Math.atan2(-frame.bones[bone + 1]!, frame.bones[bone]!) * 180) / Math.PI)
}

test('edits, refusals and undo of one are nothing to the other', () => {
  perform(left.editor, [edit(renamePart, { part: 'hand', name: 'Paw' })])
  perform(right.editor, [edit(renamePart, { part: 'hand', name: 'Claw' })])
  expect(perform(right.editor, [edit(deletePart, { part: 'nobody' })])).toBe(false)
  undo(left.editor)
  expect([left, right].map(({ editor }) => openPuppet(editor).parts['hand']!.name)).toEqual(['Hand', 'Claw'])
  expect([left.said.length, right.said.length]).toEqual([0, 1])
  redo(left.editor)
  expect([left, right].map(({ editor }) => entries(editor))).toEqual([1, 1])
})

test('what plays in one does not move the other', () => {
  const before = angleSeen(right.editor)
  play(left.editor, { 'bone/lower/angle': 30 })
  expect(angleSeen(left.editor)).toBe(before + 30)
  expect(angleSeen(right.editor)).toBe(before)
})

test('the same tool drags in both at once', () => {
  const hostOf = (editor: Editor): ToolHost => ({
    editor,
    camera: { zoom: 1, x: 0, y: 0 },
    get model() {
      return stageModel(editor).get(openPuppet(editor), false)
    },
    px: (screen) => screen,
    redraw: () => undefined,
    repaint: () => undefined,
  })
  const hosts = [hostOf(left.editor), hostOf(right.editor)] as const
  const send = (k: 0 | 1, type: ToolEvent['type'], x: number, y: number, dragging = false): void =>
    poseTool.pointer({ type, at: { x, y }, dragging, shift: false, alt: false, pressure: null }, hosts[k])
  for (const { editor } of [left, right]) useSession.of(editor).setState({ showBones: true })
  send(0, 'down', 150, 100)
  send(1, 'down', 150, 100)
  send(0, 'move', 130, 70, true)
  send(1, 'move', 150, 140, true)
  poseTool.cancel(right.editor)
  send(0, 'move', 110, 50, true)
  send(0, 'up', 110, 50, true)
  expect(openPuppet(left.editor).pose['bone/upper/angle']).toBeGreaterThan(30)
  expect(openPuppet(right.editor).pose).toEqual({})
  expect([entries(left.editor), entries(right.editor)]).toEqual([1, 0])
})

test('recording in one leaves posing in the other a pose', () => {
  for (const { editor } of [left, right]) layRecordingAround(editor)
  expect(recordNew(left.editor, 'ruler', [{ kind: 'channel', channel: 'bone/lower/angle' }], [40])).toBe(true)
  expect(recordingNow(right.editor)).toBeNull()
  for (const { editor } of [left, right]) perform(editor, [edit(setPose, { values: { 'part/hand/angle': 12 } })])
  expect(openPuppet(right.editor).pose['part/hand/angle']).toBe(12)
  expect(openPuppet(left.editor).pose['part/hand/angle']).toBeUndefined()
  expect(openPuppet(left.editor).responses[0]!.stops[0]!.changes).not.toEqual([])
})

test('details of both are drawn on one page, each with its own selection', () => {
  // Rendered to text, stores would show what they began with.
  vi.spyOn(React, 'useSyncExternalStore').mockImplementation((_, snapshot) => snapshot())
  selectParts(left.editor, 'hand')
  useSession.of(right.editor).setState({ bench: 'shape' })
  selectParts(right.editor, 'sleeve')
  const details = [left, right].map(({ editor }) =>
    createElement(EditorProvider, { value: editor, key: openPuppet(editor).id }, createElement(Details)),
  )
  const page = renderToStaticMarkup(createElement(MemoryRouter, null, createElement(Tooltip.Provider, null, ...details)))
  const [hand, sleeve] = [page.indexOf('value="Hand"'), page.indexOf('value="Sleeve"')]
  expect(hand).toBeGreaterThan(-1)
  expect(sleeve).toBeGreaterThan(hand)
})
