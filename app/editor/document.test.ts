import { beforeEach, describe, expect, test } from 'vitest'
import { deletePart, renamePart } from '@marionette/core/parts/commands'
import { setPose } from '@marionette/core/poses/commands'
import { armPuppet } from '@marionette/core/test/puppets'
import {
  beginGesture,
  cancelGesture,
  closeDocument,
  commitGesture,
  openDocument,
  openPuppet,
  perform,
  redo,
  undo,
  updateGesture,
  useDocument,
  walkTo,
} from './document'
import { quietEditor } from '../test/quietEditor'
import { StageModelSource } from './stageModel'
import { edit } from '@marionette/core/kernel/command'
import { boneSlot } from '@marionette/core/bones/channels'

const { editor, said } = quietEditor()

const turn = (angle: number) => edit(setPose, { values: { 'bone/lower/angle': angle } })
const angle = (): number | undefined => openPuppet(editor).pose['bone/lower/angle']
const entries = (): string[] =>
  useDocument
    .of(editor)
    .getState()
    .history!.changes.map((c) => c.label)

beforeEach(() => {
  said.length = 0
  openDocument(editor, { puppet: armPuppet(), revision: 3 })
})

describe('the open document', () => {
  test('a change marks it as not saved; undo and redo walk the history', () => {
    expect(useDocument.of(editor).getState().save).toEqual({ kind: 'saved', revision: 3 })
    perform(editor, [edit(renamePart, { part: 'hand', name: 'Paw' })])
    expect(useDocument.of(editor).getState().save.kind).toBe('changed')
    undo(editor)
    expect(openPuppet(editor).parts['hand']!.name).toBe('Hand')
    redo(editor)
    expect(openPuppet(editor).parts['hand']!.name).toBe('Paw')
    walkTo(editor, 0)
    expect(openPuppet(editor)).toEqual(armPuppet())
  })

  test('a refusal is said and changes nothing', () => {
    const before = openPuppet(editor)
    expect(perform(editor, [edit(deletePart, { part: 'nobody' })])).toBe(false)
    expect(said).toEqual(['There is no part "nobody" in this puppet.'])
    expect(openPuppet(editor)).toBe(before)
  })

  test('a gesture is one entry, however many steps it took, and undoes to where it began', () => {
    beginGesture(editor, 'Turn Lower')
    for (const a of [5, 20, 60, 45]) updateGesture(editor, [turn(a)])
    expect(angle()).toBe(45)
    expect(entries()).toEqual([])
    commitGesture(editor)
    expect(entries()).toEqual(['Turn Lower'])
    undo(editor)
    expect(openPuppet(editor)).toEqual(armPuppet())
  })

  test('a cancelled gesture leaves nothing, one that ends where it began neither', () => {
    beginGesture(editor, 'Turn Lower')
    updateGesture(editor, [turn(50)])
    cancelGesture(editor)
    expect(angle()).toBeUndefined()
    beginGesture(editor, 'Turn Lower')
    updateGesture(editor, [turn(50)])
    updateGesture(editor, [turn(0)])
    commitGesture(editor)
    expect(entries()).toEqual([])
  })

  test('undo waits while a gesture is in progress', () => {
    perform(editor, [turn(10)])
    beginGesture(editor, 'Turn Lower')
    updateGesture(editor, [turn(50)])
    undo(editor)
    expect(angle()).toBe(50)
    commitGesture(editor)
    expect(entries()).toHaveLength(2)
  })

  test('a step that is refused keeps the last good preview', () => {
    beginGesture(editor, 'Turn Lower')
    updateGesture(editor, [turn(50)])
    updateGesture(editor, [edit(deletePart, { part: 'nobody' })])
    expect(angle()).toBe(50)
    cancelGesture(editor)
  })

  test('no puppet is open after closing', () => {
    closeDocument(editor)
    expect(() => openPuppet(editor)).toThrow('No puppet is open')
    expect(perform(editor, [turn(1)])).toBe(false)
  })
})

describe('the stage model', () => {
  test('a pose alone compiles nothing anew; a change of structure does', () => {
    const source = new StageModelSource(editor)
    const first = source.get(openPuppet(editor), false).rig
    perform(editor, [turn(30)])
    const posed = source.get(openPuppet(editor), false)
    expect(posed.rig).toBe(first)
    expect(posed.pose[boneSlot(1)]).toBe(30)
    perform(editor, [edit(renamePart, { part: 'hand', name: 'Paw' })])
    expect(source.get(openPuppet(editor), false).rig).not.toBe(first)
  })

  test('at rest the pose is not shown, and is there again afterwards', () => {
    const source = new StageModelSource(editor)
    perform(editor, [turn(30)])
    expect(source.get(openPuppet(editor), true).pose[boneSlot(1)]).toBe(0)
    expect(source.get(openPuppet(editor), false).pose[boneSlot(1)]).toBe(30)
  })
})
