import { beforeEach, expect, test } from 'vitest'
import { quietEditor } from '../test/quietEditor'
import { keysOf, learnKeys, listeningTo, setKeys, useKeymap, without } from './keymap'

const ACTIONS = [{ id: 'undo', keys: 'mod+z' }, { id: 'redo', keys: 'mod+shift+z, mod+y' }, { id: 'speak' }]
const [UNDO, REDO, SPEAK] = ACTIONS as [(typeof ACTIONS)[0], (typeof ACTIONS)[0], (typeof ACTIONS)[0]]

let { editor } = quietEditor()
const now = () => useKeymap.of(editor).getState()

beforeEach(() => {
  ;({ editor } = quietEditor())
  learnKeys(editor, ACTIONS)
})

test('keys are as they come until others are set, and come back', () => {
  expect([UNDO, REDO, SPEAK].map((a) => keysOf(now(), a))).toEqual(['mod+z', 'mod+shift+z, mod+y', ''])
  setKeys(editor, { undo: 'f9', speak: 'shift+s' })
  expect([UNDO, SPEAK].map((a) => keysOf(now(), a))).toEqual(['f9', 'shift+s'])
  setKeys(editor, { undo: null })
  expect(keysOf(now(), UNDO)).toBe('mod+z')
})

test('an action can be left without keys, and one set as it came is not set at all', () => {
  setKeys(editor, { undo: '' })
  expect(keysOf(now(), UNDO)).toBe('')
  setKeys(editor, { undo: 'mod+z' })
  expect(now().own).toEqual({})
})

test('who listens to keys already is named, and keeps its other ways when they are taken', () => {
  expect(listeningTo(now(), ACTIONS, 'mod+y', 'speak')).toEqual([REDO])
  expect(listeningTo(now(), ACTIONS, 'mod+y', 'redo')).toEqual([])
  expect(listeningTo(now(), ACTIONS, 'y', 'speak')).toEqual([])
  setKeys(editor, { speak: 'mod+y', redo: without(keysOf(now(), REDO), 'mod+y') })
  expect(keysOf(now(), REDO)).toBe('mod+shift+z')
  expect(listeningTo(now(), ACTIONS, 'mod+y', 'undo')).toEqual([SPEAK])
})
