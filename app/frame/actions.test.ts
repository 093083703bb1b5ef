import { beforeEach, describe, expect, test } from 'vitest'
import { setPose } from '@marionette/core/poses/commands'
import { armPuppet } from '@marionette/core/test/puppets'
import { openDocument, openPuppet, perform, undo, useDocument } from '../editor/document'
import { selectBones, selectNothing, selectParts, useSession } from '../editor/session'
import { quietEditor } from '../test/quietEditor'
import { addJoint } from '@marionette/core/joints/commands'
import { keepPose } from '@marionette/core/poses/saved'
import { run as edited } from '@marionette/core/puppet/edit'
import { FEATURES } from '../features/features'
import { BENCHES } from './benches'
import { TOOLBELTS } from './tools'
import { ACTIONS, SEARCHED } from './actions'
import type { ActionContext } from '../panels/action'
import { edit } from '@marionette/core/kernel/command'

const { editor } = quietEditor()

const went: string[] = []
const context: ActionContext = { editor, view: () => null, go: (path) => went.push(path) }
const action = (id: string) => ACTIONS.find((a) => a.id === id)!
const isEnabled = (id: string): boolean => action(id).enabled?.(editor) ?? true
const run = (id: string): void => action(id).run(context)

beforeEach(() => {
  went.length = 0
  openDocument(editor, { puppet: armPuppet(), revision: 1 })
  useSession.of(editor).setState({ bench: 'parts', panel: null, renaming: null })
  selectNothing(editor)
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
    selectParts(editor, 'hand')
    for (const id of ['delete', 'group', 'show', 'rename', 'pose.reset']) expect(isEnabled(id)).toBe(true)
  })

  test('deselecting leaves a joint, too', () => {
    useSession.of(editor).setState({ joint: 'elbow' })
    expect(isEnabled('nothing')).toBe(true)
    run('nothing')
    expect(useSession.of(editor).getState().joint).toBeNull()
    expect(isEnabled('nothing')).toBe(false)
  })

  test('deleting a part and everything in it is one entry', () => {
    selectParts(editor, 'hand', 'sleeve')
    run('group')
    const group = useSession.of(editor).getState().selection.ids[0]!
    expect(useSession.of(editor).getState().renaming).toBe(group)
    selectParts(editor, group, 'hand')
    run('delete')
    expect(Object.keys(openPuppet(editor).parts)).toEqual([openPuppet(editor).root])
    expect(useDocument.of(editor).getState().history!.changes).toHaveLength(2)
    undo(editor)
    undo(editor)
    expect(openPuppet(editor)).toEqual(armPuppet())
  })

  test('deleting a bone hands its children on', () => {
    selectBones(editor, 'lower')
    run('delete')
    expect(openPuppet(editor).bones['palm']!.parent).toBe('upper')
  })

  test('the topmost part is neither hidden nor deleted', () => {
    selectParts(editor, openPuppet(editor).root)
    expect(isEnabled('show')).toBe(false)
    run('delete')
    expect(openPuppet(editor)).toEqual(armPuppet())
  })

  test('hiding and showing, alone and all again', () => {
    selectParts(editor, 'hand')
    run('show')
    expect(openPuppet(editor).parts['hand']!.visible).toBe(false)
    run('show')
    run('showAlone')
    expect(openPuppet(editor).parts['sleeve']!.visible).toBe(false)
    expect(openPuppet(editor).parts['hand']!.visible).toBe(true)
    run('showAlone')
    expect(openPuppet(editor).parts['sleeve']!.visible).toBe(true)
  })

  test('back to rest: the selection, or everything', () => {
    expect(isEnabled('pose.resetAll')).toBe(false)
    perform(editor, [edit(setPose, { values: { 'bone/lower/angle': 20, 'bone/upper/angle': 5, 'part/hand/x': 9 } })])
    selectBones(editor, 'lower')
    run('pose.reset')
    expect(openPuppet(editor).pose).toEqual({ 'bone/upper/angle': 5, 'part/hand/x': 9 })
    selectParts(editor, openPuppet(editor).root)
    run('pose.reset')
    expect(openPuppet(editor).pose).toEqual({ 'bone/upper/angle': 5 })
    run('pose.resetAll')
    expect(openPuppet(editor).pose).toEqual({})
  })

  test('tools and benches by number', () => {
    run('tool.3')
    expect(useSession.of(editor).getState().tools['parts']).toBe('move')
    expect(isEnabled('tool.6')).toBe(false)
    run('go.bones')
    run('library')
    expect(went).toEqual(['bones', '/'])
  })
})

describe('what the search finds', () => {
  const found = (word: string): string[] =>
    SEARCHED.filter((a) => `${a.label} ${a.words ?? ''}`.toLowerCase().includes(word)).map((a) => a.label)

  test.each([
    ['zoom', 'Zoom in'],
    ['export', 'To Send'],
    ['lip sync', 'To Face'],
    ['ik', 'Pose tool'],
    ['tween', 'Morphing of alternates…'],
    ['skinning', 'Weigh tool'],
    ['dark', 'Change theme'],
  ])('"%s" leads to %s', (word, label) => expect(found(word)).toContain(label))

  test('every tool by its name, which takes it in hand at its bench', () => {
    run('tool.bones.weigh')
    expect(went).toEqual(['bones'])
    expect(useSession.of(editor).getState().tools.bones).toBe('weigh')
    for (const { id: bench } of BENCHES) for (const { id } of TOOLBELTS[bench]) expect(action(`tool.${bench}.${id}`)).toBeDefined()
    expect(BENCHES.map((b) => b.id)).toContain('rehearse')
  })

  test('what the puppet holds, each with its kind', () => {
    let puppet = edited(armPuppet(), addJoint, { id: 'j', under: 'sleeve', over: 'hand', at: { x: 300, y: 100 }, radius: 15 })
    puppet = edited(puppet, keepPose, { pose: { id: 'wave', name: 'Wave', values: { 'bone/lower/angle': 40 }, face: null } })
    openDocument(editor, { puppet, revision: 1 })
    const all = FEATURES.flatMap((f) => f.finds?.(puppet) ?? [])
    const named = (kind: string): string[] => all.filter((f) => f.kind === kind).map((f) => f.name)
    expect(named('Joint')).toEqual(['Hand on Sleeve'])
    expect(named('Bone')).toEqual(['Upper', 'Lower', 'Palm'])
    expect(named('Part')).toContain('Sleeve')
    all.find((f) => f.name === 'Wave')!.show(editor)
    expect(openPuppet(editor).pose['bone/lower/angle']).toBe(40)
    all.find((f) => f.kind === 'Joint')!.show(editor)
    expect(useSession.of(editor).getState().joint).toBe('j')
  })

  test('expressions take each other’s place, and mouth shapes are left to the board', () => {
    const keep = (id: string, name: string, face: 'mood' | 'aa', channel: string) => ({
      pose: { id, name, face, values: { [channel]: 20 } },
    })
    let puppet = edited(armPuppet(), keepPose, keep('glad', 'Glad', 'mood', 'bone/lower/angle'))
    puppet = edited(puppet, keepPose, keep('sad', 'Sad', 'mood', 'bone/palm/angle'))
    puppet = edited(puppet, keepPose, keep('aa', 'Open', 'aa', 'bone/upper/angle'))
    openDocument(editor, { puppet, revision: 1 })
    const all = FEATURES.flatMap((f) => f.finds?.(puppet) ?? []).filter((f) => ['Pose', 'Expression'].includes(f.kind))
    expect(all.map((f) => f.name)).toEqual(['Glad', 'Sad'])
    for (const one of all) one.show(editor)
    expect(openPuppet(editor).pose).toEqual({ 'bone/palm/angle': 20 })
  })
})
