import { beforeEach, describe, expect, test } from 'vitest'
import { DEMOS } from '@marionette/demo/demos'
import { setPose } from '@marionette/core/poses/commands'
import { renamePart } from '@marionette/core/parts/commands'
import { deleteClip } from '@marionette/core/clips/commands'
import { changeArt } from '@marionette/core/joints/commands'
import { drawingOf } from '@marionette/core/parts/tree'
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { posedPoint } from '@marionette/core/puppet/probe'
import { drawingOfPart } from '@marionette/core/puppet/rig'
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
import { addPose, deleteChosen, followChain, goToKey, keepAsKeys, keyNow, makeClip } from './keying'
import { chosenSpan } from './playing'
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

test('a limb whose end is selected comes late to the pose, link by link', () => {
  seek(editor, 1)
  const times = (name: string): number[] => {
    const { id } = Object.values(puppet.bones).find((b) => b.name === name)!
    return clipNow(editor)!.layers[0]!.tracks[`bone/${id}/angle`]!.keys.map(({ time }) => time)
  }
  const names = ['Upper arm left', 'Forearm left', 'Hand left']
  const before = names.map(times)
  followChain(editor, 3)
  expect(names.map(times)).toEqual(before)
  useSession
    .of(editor)
    .setState({ selection: { kind: 'bone', ids: [Object.values(puppet.bones).find((b) => b.name === 'Hand left')!.id] } })
  followChain(editor, 3)
  const after = names.map(times)
  expect(after[0]).toEqual(before[0])
  expect(after[1]).not.toEqual(before[1])
  expect(after[2]).not.toEqual(before[2])
  undo(editor)
  expect(names.map(times)).toEqual(before)
})

describe('points that are moved while a clip is open', () => {
  const mouth = Object.values(puppet.parts).find((p) => /^Nose/.test(p.name) && drawingOf(puppet, p) !== null)!
  const drawing = drawingOf(puppet, mouth)!
  const point = { shape: drawing.shapes[0]!.id, id: drawing.shapes[0]!.paths[0]!.ids[0]! }
  /** Where the first point is seen to be on the canvas. */
  const spot = (): { x: number; y: number } => {
    const frame = posePuppet(openPuppet(editor), openPuppet(editor).pose)
    return posedPoint(frame, drawingOfPart(frame.rig, mouth.id), 0)
  }
  const moved = (by: number): boolean => {
    const now = openPuppet(editor).drawings[drawing.id]!
    const shapes = now.shapes.map((shape) =>
      shape.id !== point.shape
        ? shape
        : {
            ...shape,
            paths: shape.paths.map((path, k) => (k > 0 ? path : { ...path, anchors: path.anchors.map((v, i) => (i === 0 ? v + by : v)) })),
          },
    )
    return perform(editor, [edit(changeArt, { drawings: [{ ...now, shapes }], pictures: [] })])
  }
  const hand = () => real().controls.find(({ place }) => place.on === 'clip')!
  const track = () => clipNow(editor)!.layers[0]!.tracks[`control/${hand().id}/value`]!

  test('leave the drawing, and key a shape by hand at that moment', () => {
    seek(editor, 1)
    const before = spot()
    expect(moved(12)).toBe(true)
    expect(real().drawings).toBe(puppet.drawings)
    expect(hand().place).toEqual({ on: 'clip', clip: clipNow(editor)!.id, part: mouth.id })
    expect(track().keys.map(({ time, value }) => [time, value])).toEqual([
      [0, 0],
      [1, 1],
    ])
    const shaped = spot()
    expect(Math.hypot(shaped.x - before.x, shaped.y - before.y)).toBeGreaterThan(8)
    seek(editor, 0)
    const resting = spot()
    seek(editor, 0.5)
    const half = spot()
    seek(editor, 1)
    expect(Math.hypot(half.x - resting.x, half.y - resting.y)).toBeGreaterThan(1)
    undo(editor)
    expect(real().controls).toEqual(puppet.controls)
    expect(real().responses).toEqual(puppet.responses)
  })

  test('further shapes stand between those before and after them, and begin as what is seen', () => {
    seek(editor, 1)
    moved(12)
    seek(editor, 2)
    moved(-30)
    seek(editor, 1.5)
    const seen = spot()
    moved(0.001)
    expect(track().keys.map(({ value }) => value)).toEqual([0, 1, 1.5, 2])
    const begun = spot()
    expect(Math.hypot(begun.x - seen.x, begun.y - seen.y)).toBeLessThan(0.1)
    // The shapes around it stay what they were.
    moved(5)
    const stops = real().responses.find(({ name }) => name === hand().name)!.stops
    expect(stops.map(({ at }) => at[0]).sort()).toEqual([1, 1.5, 2])
  })

  test('a shape that is made again at its moment takes the place of what it was', () => {
    seek(editor, 1)
    moved(12)
    moved(6)
    expect(track().keys).toHaveLength(2)
    expect(real().responses.find(({ name }) => name === hand().name)!.stops).toHaveLength(1)
  })

  test('can be made again where their key was deleted', () => {
    seek(editor, 1)
    moved(12)
    const channel = `control/${hand().id}/value`
    setActing(editor, { keys: [{ channel, time: 1 }] })
    deleteChosen(editor)
    expect(moved(7)).toBe(true)
    expect(track().keys.map(({ time }) => time)).toEqual([0, 1])
    seek(editor, 2)
    expect(moved(3)).toBe(true)
    expect(
      new Set(
        real()
          .responses.find(({ name }) => name === hand().name)!
          .stops.map(({ id }) => id),
      ).size,
    ).toBe(real().responses.find(({ name }) => name === hand().name)!.stops.length)
  })

  test('go with their clip', () => {
    seek(editor, 1)
    moved(12)
    perform(editor, [edit(deleteClip, { clip: clipNow(editor)!.id })])
    expect(real().controls).toEqual(puppet.controls)
    expect(real().responses).toEqual(puppet.responses)
  })
})

test('from the first chosen key to the last is a stretch where they lie at two moments', () => {
  setActing(editor, { keys: [{ channel: arm, time: 1 }] })
  expect(chosenSpan(editor)).toBeNull()
  setActing(editor, { keys: [1.5, 0.5, 1].map((time) => ({ channel: arm, time })) })
  expect(chosenSpan(editor)).toEqual({ from: 0.5, to: 1.5 })
})
