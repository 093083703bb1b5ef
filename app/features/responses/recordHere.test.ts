/** Recording starts where something is played: at a control, at a response of the list, at all controls together. */
import { beforeEach, describe, expect, test } from 'vitest'
import { setPose } from '@marionette/core/poses/commands'
import { edit } from '@marionette/core/kernel/command'
import { answeringArm, by, ruler, withResponses } from '@marionette/core/test/responding'
import { openPuppet, perform, openDocument } from '../../editor/document'
import { selectControl, selectParts, toggleSelected, toggleShelf, useSession } from '../../editor/session'
import type { Editor } from '../../editor/editor'
import { quietEditor } from '../../test/quietEditor'
import { discardRecording, recordingNow } from './recording'
import { controlsAway, nextOf, recordControl, recordPosed, recordResponse } from './recordHere'

let editor: Editor
let said: string[]
beforeEach(() => {
  ;({ editor, said } = quietEditor())
  const puppet = withResponses(answeringArm(), ruler('first', 'a', { 0.5: [by('part/hand/y', 5)], 1: [by('part/hand/y', 9)] }))
  openDocument(editor, { puppet, revision: 1 })
})

const set = (values: Record<string, number>): void => void perform(editor, [edit(setPose, { values })])
const response = (id: string) => openPuppet(editor).responses.find((r) => r.id === id)!
const newest = () => openPuppet(editor).responses.at(-1)!

describe('a control', () => {
  test('that is away from rest is recorded where it is: into the response that is there, or a new one', () => {
    set({ 'control/a/value': 0.8 })
    recordControl(editor, 'a')
    expect(recordingNow(editor)).toMatchObject({ response: 'first', isNew: true })
    expect(response('first').stops.map((s) => s.at[0])).toContain(0.8)
    discardRecording(editor)
    set({ 'control/b/value': -0.4 })
    recordControl(editor, 'b')
    expect(newest()).toMatchObject({ kind: 'ruler', name: 'B', inputs: [{ kind: 'channel', channel: 'control/b/value' }] })
  })

  test('with two ways is recorded as a pad', () => {
    set({ 'control/p/x': 0.5 })
    recordControl(editor, 'p')
    expect(newest()).toMatchObject({ kind: 'pad', stops: [{ at: [0.5, 0] }] })
  })

  test('at rest says what to do first, and nothing begins', () => {
    recordControl(editor, 'b')
    expect(recordingNow(editor)).toBeNull()
    expect(said).toEqual(['B is at rest, and rest stays as it is: move it first.'])
  })
})

describe('a response of the list', () => {
  test('is recorded where its inputs are, or at its farthest stop once more', () => {
    expect(nextOf(editor, openPuppet(editor), response('first'))).toEqual({ words: '1', isAgain: true })
    recordResponse(editor, 'first')
    expect(recordingNow(editor)).toMatchObject({ response: 'first', stop: 'at1', isNew: false })
    discardRecording(editor)
    set({ 'control/a/value': 0.7 })
    expect(nextOf(editor, openPuppet(editor), response('first'))).toEqual({ words: '0.7', isAgain: false })
    recordResponse(editor, 'first')
    expect(recordingNow(editor)).toMatchObject({ response: 'first', isNew: true })
  })

  test('is not begun while something else is recorded', () => {
    set({ 'control/b/value': 0.4 })
    recordControl(editor, 'b')
    const before = recordingNow(editor)
    recordResponse(editor, 'first')
    expect(recordingNow(editor)).toEqual(before)
    expect(said).toHaveLength(1)
  })
})

describe('all controls that are away from rest', () => {
  test('are corrected together, one alone is recorded by itself, none says so', () => {
    recordPosed(editor)
    expect(said).toEqual(['All controls are at rest, and rest stays as it is: move one first.'])
    set({ 'control/b/value': 0.4 })
    recordPosed(editor)
    expect(newest()).toMatchObject({ kind: 'ruler' })
    discardRecording(editor)
    set({ 'control/c/value': 0.2 })
    expect(controlsAway(editor, openPuppet(editor)).map((c) => c.id)).toEqual(['b', 'c'])
    recordPosed(editor)
    expect(newest()).toMatchObject({ kind: 'correction', stops: [{ at: [0.4, 0.2] }] })
  })
})

test('in Bones, which shows the rest, nothing is recorded, and it is said where to', () => {
  set({ 'control/b/value': 0.4 })
  useSession.of(editor).setState({ bench: 'bones' })
  recordControl(editor, 'b')
  recordResponse(editor, 'first')
  recordPosed(editor)
  expect(recordingNow(editor)).toBeNull()
  expect(new Set(said)).toEqual(new Set(['Bones shows the rest, where nothing answers: record in Shape or in Face.']))
})

describe('the shelf and the selection', () => {
  test('arranging ends when the shelf is folded', () => {
    useSession.of(editor).setState({ shelfOpen: true, arranging: true })
    selectControl(editor, 'a')
    toggleShelf(editor)
    expect(useSession.of(editor).getState()).toMatchObject({ shelfOpen: false, arranging: false, control: null })
    toggleShelf(editor)
    expect(useSession.of(editor).getState()).toMatchObject({ shelfOpen: true, arranging: false })
  })

  test('whatever row is selected or added, its details take the place of a control’s', () => {
    selectControl(editor, 'a')
    toggleSelected(editor, 'part', 'hand')
    expect(useSession.of(editor).getState()).toMatchObject({ control: null, selection: { kind: 'part', ids: ['hand'] } })
    selectControl(editor, 'a')
    selectParts(editor, 'sleeve')
    expect(useSession.of(editor).getState().control).toBeNull()
  })
})
