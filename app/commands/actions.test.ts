import { beforeEach, describe, expect, test, vi } from 'vitest'
import { edit } from '@marionette/core/edit/command'
import { setPose } from '@marionette/core/edit/pose'
import { armPuppet } from '@marionette/core/test/puppets'
import { openDocument, openPuppet, perform, undo, useDocument } from '../state/document'
import { selectBones, selectNothing, selectParts, useSession } from '../state/session'
import { ACTIONS, type ActionContext } from './actions'

vi.mock('sonner', () => ({ toast: { error: vi.fn() } }))

const went: string[] = []
const context: ActionContext = { view: () => null, go: (path) => went.push(path) }
const action = (id: string) => ACTIONS.find((a) => a.id === id)!
const isEnabled = (id: string): boolean => action(id).enabled?.() ?? true
const run = (id: string): void => action(id).run(context)

beforeEach(() => {
  went.length = 0
  openDocument({ puppet: armPuppet(), revision: 1 })
  useSession.setState({ bench: 'parts', panel: null, renaming: null })
  selectNothing()
})

describe('actions', () => {
  test('ids and keys are given once', () => {
    const ids = ACTIONS.map((a) => a.id)
    expect(new Set(ids).size).toBe(ids.length)
    const keys = ACTIONS.flatMap((a) => a.keys?.split(', ') ?? [])
    expect(new Set(keys).size).toBe(keys.length)
  })

  test('what needs a selection waits for one', () => {
    for (const id of ['delete', 'group', 'show', 'rename', 'pose.reset']) expect(isEnabled(id)).toBe(false)
    selectParts('hand')
    for (const id of ['delete', 'group', 'show', 'rename', 'pose.reset']) expect(isEnabled(id)).toBe(true)
  })

  test('deleting a part and everything in it is one entry', () => {
    selectParts('hand', 'sleeve')
    run('group')
    const group = useSession.getState().selection.ids[0]!
    expect(useSession.getState().renaming).toBe(group)
    selectParts(group, 'hand')
    run('delete')
    expect(Object.keys(openPuppet().parts)).toEqual([openPuppet().root])
    expect(useDocument.getState().history!.changes).toHaveLength(2)
    undo()
    undo()
    expect(openPuppet()).toEqual(armPuppet())
  })

  test('deleting a bone hands its children on', () => {
    selectBones('lower')
    run('delete')
    expect(openPuppet().bones['palm']!.parent).toBe('upper')
  })

  test('the topmost part is neither hidden nor deleted', () => {
    selectParts(openPuppet().root)
    expect(isEnabled('show')).toBe(false)
    run('delete')
    expect(openPuppet()).toEqual(armPuppet())
  })

  test('hiding and showing, alone and all again', () => {
    selectParts('hand')
    run('show')
    expect(openPuppet().parts['hand']!.visible).toBe(false)
    run('show')
    run('showAlone')
    expect(openPuppet().parts['sleeve']!.visible).toBe(false)
    expect(openPuppet().parts['hand']!.visible).toBe(true)
    run('showAlone')
    expect(openPuppet().parts['sleeve']!.visible).toBe(true)
  })

  test('back to rest: the selection, or everything', () => {
    expect(isEnabled('pose.resetAll')).toBe(false)
    perform([edit(setPose, { values: { 'bone/lower/angle': 20, 'bone/upper/angle': 5, 'part/hand/x': 9 } })])
    selectBones('lower')
    run('pose.reset')
    expect(openPuppet().pose).toEqual({ 'bone/upper/angle': 5, 'part/hand/x': 9 })
    selectParts(openPuppet().root)
    run('pose.reset')
    expect(openPuppet().pose).toEqual({ 'bone/upper/angle': 5 })
    run('pose.resetAll')
    expect(openPuppet().pose).toEqual({})
  })

  test('tools and benches by number', () => {
    run('tool.3')
    expect(useSession.getState().tools['parts']).toBe('move')
    expect(isEnabled('tool.6')).toBe(false)
    run('go.bones')
    run('library')
    expect(went).toEqual(['bones', '/'])
  })
})
