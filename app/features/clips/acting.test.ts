import { beforeEach, describe, expect, test } from 'vitest'
import { DEMOS } from '@marionette/demo/demos'
import { setPose } from '@marionette/core/poses/commands'
import { renamePart } from '@marionette/core/parts/commands'
import { edit } from '@marionette/core/kernel/command'
import {
  beginGesture,
  cancelGesture,
  commitGesture,
  openDocument,
  openPuppet,
  perform,
  undo,
  updateGesture,
  useDocument,
} from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import { quietEditor } from '../../test/quietEditor'
import { clipNow, seek, setActing, followBench, useActing } from './acting'
import { addPose, deleteChosen, goToKey, keepAsKeys, keyNow, makeClip } from './keying'
import { layClipAround } from './posed'

const { puppet } = DEMOS['marlo']!()
const arm = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Upper arm left')!.id}/angle`
const satchel = `bone/${Object.values(puppet.bones).find((b) => b.name === 'Satchel')!.id}/angle`
const jacket = Object.values(puppet.parts).find((p) => p.name === 'Jacket')!.id

let editor: Editor
beforeEach(() => {
  ;({ editor } = quietEditor())
  openDocument(editor, { puppet, revision: 1 })
  layClipAround(editor)
  followBench(editor)
  useSession.of(editor).setState({ bench: 'rehearse' })
})

const real = () => useDocument.of(editor).getState().history!.puppet
const pose = (values: Record<string, number>): boolean => perform(editor, [edit(setPose, { values })])

describe('a clip that is open', () => {
  test('poses what is seen, and leaves the puppet as it is', () => {
    seek(editor, 33 / 24)
    expect(openPuppet(editor).pose[arm]).toBeCloseTo(74, 6)
    expect(real().pose).toEqual({})
    useSession.of(editor).setState({ bench: 'parts' })
    expect(openPuppet(editor).pose).toEqual({})
  })

  test('takes what is posed over itself, and keeps it whatever moment is looked at', () => {
    pose({ [arm]: 10 })
    seek(editor, 2)
    expect(clipNow(editor)!.loose).toEqual({ [arm]: 10 })
    expect(openPuppet(editor).pose[arm]).toBe(10)
    expect(real().pose).toEqual({})
    undo(editor)
    expect(clipNow(editor)!.loose).toEqual({})
  })

  test('a value posed to rest over a moving clip is posed as well', () => {
    seek(editor, 33 / 24)
    pose({ [arm]: 0 })
    expect(clipNow(editor)!.loose).toEqual({ [arm]: 0 })
    expect(openPuppet(editor).pose[arm]).toBeUndefined()
  })

  test('keys at once where keying is automatic, on whole frames', () => {
    setActing(editor, { isAutoKey: true, time: 0.51 })
    pose({ [satchel]: 7 })
    expect(clipNow(editor)!.loose).toEqual({})
    expect(clipNow(editor)!.layers[0]!.tracks[satchel]!.keys).toMatchObject([{ time: 0.5, value: 7 }])
  })

  test('a drag shows itself, is one change when it is kept and none when it is not', () => {
    const before = real()
    beginGesture(editor, 'Turn arm')
    updateGesture(editor, [edit(setPose, { values: { [arm]: 20 } })])
    updateGesture(editor, [edit(setPose, { values: { [arm]: 30 } })])
    expect(openPuppet(editor).pose[arm]).toBe(30)
    cancelGesture(editor)
    expect(real()).toBe(before)
    beginGesture(editor, 'Turn arm')
    updateGesture(editor, [edit(setPose, { values: { [arm]: 40 } })])
    commitGesture(editor)
    expect(useDocument.of(editor).getState().history!.changes).toHaveLength(1)
    expect(clipNow(editor)!.loose).toEqual({ [arm]: 40 })
  })

  test('other edits go where they always go', () => {
    perform(editor, [edit(renamePart, { part: jacket, name: 'Coat' }), edit(setPose, { values: { [arm]: 3 } })])
    expect(real().parts[jacket]!.name).toBe('Coat')
    expect(clipNow(editor)!.loose).toEqual({ [arm]: 3 })
  })
})

describe('keying', () => {
  test('what waits is kept as keys at the moment, or as a pose of all that moves', () => {
    pose({ [satchel]: 9 })
    seek(editor, 1)
    keepAsKeys(editor)
    expect(clipNow(editor)!.layers[0]!.tracks[satchel]!.keys).toMatchObject([{ time: 1, value: 9, pose: null }])
    pose({ [satchel]: -9 })
    seek(editor, 1.5)
    addPose(editor)
    const { id } = clipNow(editor)!.poses.find((p) => Math.abs(p.time - 1.5) < 1e-6)!
    const owned = Object.values(clipNow(editor)!.layers[0]!.tracks).filter((t) => t.keys.some((k) => k.pose === id))
    expect(owned.length).toBe(Object.keys(clipNow(editor)!.layers[0]!.tracks).length)
    expect(clipNow(editor)!.loose).toEqual({})
  })

  test('a bone that nothing moves yet can be keyed at rest', () => {
    useSession.of(editor).setState({ selection: { kind: 'bone', ids: [satchel.split('/')[1]!] } })
    keyNow(editor)
    expect(clipNow(editor)!.layers[0]!.tracks[satchel]!.keys).toMatchObject([{ time: 0, value: 0 }])
  })

  test('goes from key to key, and deletes chosen keys alone', () => {
    goToKey(editor, 1)
    expect(useActing.of(editor).getState().time).toBeCloseTo(0.5, 9)
    setActing(editor, { keys: [{ channel: arm, time: 0.5 }] })
    const before = clipNow(editor)!.layers[0]!.tracks[arm]!.keys.length
    deleteChosen(editor)
    expect(clipNow(editor)!.layers[0]!.tracks[arm]!.keys.length).toBe(before - 1)
    expect(Object.keys(real().bones)).toEqual(Object.keys(puppet.bones))
  })

  test('a new clip begins as the puppet stands at the other benches', () => {
    useSession.of(editor).setState({ bench: 'parts' })
    pose({ [arm]: 25 })
    useSession.of(editor).setState({ bench: 'rehearse' })
    makeClip(editor)
    expect(clipNow(editor)!.name).toBe('Clip')
    expect(openPuppet(editor).pose[arm]).toBe(25)
  })
})
