import { beforeEach, describe, expect, test, vi } from 'vitest'
import { edit } from '@marionette/core/edit/command'
import { deletePart, renamePart } from '@marionette/core/edit/parts'
import { setPose } from '@marionette/core/edit/pose'
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
import { boneSlot } from '@marionette/core/rig/compile'
import { StageModelSource } from './stageModel'

const said = vi.hoisted(() => ({ errors: [] as string[] }))
vi.mock('sonner', () => ({ toast: { error: (text: string) => said.errors.push(text) } }))

const turn = (angle: number) => edit(setPose, { values: { 'bone/lower/angle': angle } })
const angle = (): number | undefined => openPuppet().pose['bone/lower/angle']
const entries = (): string[] => useDocument.getState().history!.changes.map((c) => c.label)

beforeEach(() => {
  said.errors.length = 0
  openDocument({ puppet: armPuppet(), revision: 3 })
})

describe('the open document', () => {
  test('a change marks it as not saved; undo and redo walk the history', () => {
    expect(useDocument.getState().save).toEqual({ kind: 'saved', revision: 3 })
    perform([edit(renamePart, { part: 'hand', name: 'Paw' })])
    expect(useDocument.getState().save.kind).toBe('changed')
    undo()
    expect(openPuppet().parts['hand']!.name).toBe('Hand')
    redo()
    expect(openPuppet().parts['hand']!.name).toBe('Paw')
    walkTo(0)
    expect(openPuppet()).toEqual(armPuppet())
  })

  test('a refusal is said and changes nothing', () => {
    const before = openPuppet()
    expect(perform([edit(deletePart, { part: 'nobody' })])).toBe(false)
    expect(said.errors).toEqual(['There is no part "nobody" in this puppet.'])
    expect(openPuppet()).toBe(before)
  })

  test('a gesture is one entry, however many steps it took, and undoes to where it began', () => {
    beginGesture('Turn Lower')
    for (const a of [5, 20, 60, 45]) updateGesture([turn(a)])
    expect(angle()).toBe(45)
    expect(entries()).toEqual([])
    commitGesture()
    expect(entries()).toEqual(['Turn Lower'])
    undo()
    expect(openPuppet()).toEqual(armPuppet())
  })

  test('a cancelled gesture leaves nothing, one that ends where it began neither', () => {
    beginGesture('Turn Lower')
    updateGesture([turn(50)])
    cancelGesture()
    expect(angle()).toBeUndefined()
    beginGesture('Turn Lower')
    updateGesture([turn(50)])
    updateGesture([turn(0)])
    commitGesture()
    expect(entries()).toEqual([])
  })

  test('undo waits while a gesture is in progress', () => {
    perform([turn(10)])
    beginGesture('Turn Lower')
    updateGesture([turn(50)])
    undo()
    expect(angle()).toBe(50)
    commitGesture()
    expect(entries()).toHaveLength(2)
  })

  test('a step that is refused keeps the last good preview', () => {
    beginGesture('Turn Lower')
    updateGesture([turn(50)])
    updateGesture([edit(deletePart, { part: 'nobody' })])
    expect(angle()).toBe(50)
    cancelGesture()
  })

  test('no puppet is open after closing', () => {
    closeDocument()
    expect(() => openPuppet()).toThrow('No puppet is open')
    expect(perform([turn(1)])).toBe(false)
  })
})

describe('the stage model', () => {
  test('a pose alone compiles nothing anew; a change of structure does', () => {
    const source = new StageModelSource()
    const first = source.get(openPuppet(), false).rig
    perform([turn(30)])
    const posed = source.get(openPuppet(), false)
    expect(posed.rig).toBe(first)
    expect(posed.pose[boneSlot(1)]).toBe(30)
    perform([edit(renamePart, { part: 'hand', name: 'Paw' })])
    expect(source.get(openPuppet(), false).rig).not.toBe(first)
  })

  test('at rest the pose is not shown, and is there again afterwards', () => {
    const source = new StageModelSource()
    perform([turn(30)])
    expect(source.get(openPuppet(), true).pose[boneSlot(1)]).toBe(0)
    expect(source.get(openPuppet(), false).pose[boneSlot(1)]).toBe(30)
  })
})
