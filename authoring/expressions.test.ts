import type { CanvasKit } from 'canvaskit-wasm'
import { beforeAll, expect, test } from 'vitest'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Drawing, Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { setMasks } from '@marionette/core/layering/commands'
import { box, drawingPart } from '@marionette/core/test/puppets'
import { checkExpressions } from './expressions'
import { loadCanvasKit } from '@marionette/render/node'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const coloured = (drawing: Drawing, colour: string): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((s) => ({ ...s, ink: { paint: { kind: 'flat', colour }, alpha: 1, rule: 'nonzero' } })),
})

/** A head with a brow above an eye, its iris inside the white, and a lid that lies in the eye at rest. */
function face(): Puppet {
  const drawings = [
    coloured(box('d-head', 0, 0, 200, 200), '#e0a080'),
    coloured(box('d-white', 80, 90, 50, 30), '#fffdf5'),
    coloured(box('d-iris', 95, 95, 18, 18), '#2b1d1a'),
    coloured(box('d-lid', 80, 88, 50, 8), '#c47a54'),
    coloured(box('d-brow', 80, 60, 50, 10), '#4a2a22'),
  ]
  const puppet = run(newPuppet('p', 'P', { width: 200, height: 200 }), addArtwork, {
    parent: 'p-root',
    parts: drawings.map((d) => drawingPart(d.id.slice('d-'.length), d.id.slice('d-'.length), d)),
    drawings,
  })
  return run(puppet, setMasks, { part: 'iris', masks: [{ shape: 'white', keep: 'inside', by: 'area' }] })
}

const check = (values: Record<string, number>, isStill = false) =>
  checkExpressions(CK, face(), [
    { id: 'asked', values, isStill },
    // So that there is a face to look at.
    { id: 'other', values: { 'part/brow/y': -6, 'part/iris/x': 3, 'part/lid/y': 4 }, isStill: false },
  ])[0]!.findings

test('what is fine is fine: a brow that rises, a gaze within the eye, a lid over its eye', () => {
  expect(check({ 'part/brow/y': -10 })).toEqual([])
  expect(check({ 'part/iris/x': 8 })).toEqual([])
  expect(check({ 'part/lid/y': 16 })).toEqual([])
})

test('what does nothing is said, but for what is meant to be still', () => {
  expect(check({})).toEqual([{ kind: 'nothing' }])
  expect(check({}, true)).toEqual([])
  expect(checkExpressions(CK, face(), [{ id: 'only', values: {}, isStill: false }])[0]!.findings).toEqual([{ kind: 'nothing' }])
})

test('a brow that comes down on an eye runs into it', () => {
  expect(check({ 'part/brow/y': 30 })).toContainEqual({ kind: 'collides', a: 'brow', b: 'white' })
})

test('an iris that goes beyond the white leaves its mask', () => {
  expect(check({ 'part/iris/x': 30 })).toEqual([{ kind: 'leaves-mask', part: 'iris' }])
})

test('progress is told to the end', () => {
  const told: number[] = []
  const items = ['a', 'b', 'c'].map((id, k) => ({ id, values: { 'part/brow/y': -k - 1 }, isStill: false }))
  checkExpressions(CK, face(), items, { progress: (done) => told.push(done) })
  expect(told).toEqual([1 / 3, 2 / 3, 1])
})
