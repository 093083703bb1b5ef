import { describe, expect, test } from 'vitest'
import { cageAround } from '../binds/fitDeformers'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import { commonGroup } from '../parts/tree'
import { duplicateParts } from '../parts/arrange'
import { addDeformer } from './commands'
import { deletePart } from '../parts/commands'
import { setPose } from '../poses/commands'
import { run } from '../puppet/edit'
import { armPuppet } from '../test/puppets'
import { posePuppet, writePose } from '../puppet/evaluate'
import { handlePlaces } from '../posing/handles'
import { drawingOfPart } from '../puppet/rig'

const PARTS = ['sleeve', 'hand']

/** The arm with a cage at its root around some parts, pushed up in its middle. */
function caged(parts: readonly string[]): Puppet {
  const arm = armPuppet()
  const group = commonGroup(arm, parts)
  const put = run(arm, addDeformer, { part: group, deformer: cageAround(arm, group, 'around', 'Cage', parts) })
  return run(put, setPose, { values: { 'handle/around.1.1/y': -40, 'handle/around.0.1/y': -40, 'handle/around.2.1/y': -40 } })
}

const isMoved = (puppet: Puppet, part: string): boolean => {
  const frame = posePuppet(puppet)
  return frame.bent[drawingOfPart(frame.rig, part)] === 1
}

describe('a cage around some of the parts in a group', () => {
  test('goes around them and moves them alone', () => {
    const one = caged(['hand'])
    expect(isMoved(one, 'hand')).toBe(true)
    expect(isMoved(one, 'sleeve')).toBe(false)
    const both = caged(PARTS)
    expect(PARTS.map((p) => isMoved(both, p))).toEqual([true, true])
    const cage = both.parts[both.root]!.deformers[0]!
    expect(cage).toMatchObject({ kind: 'cage', only: PARTS })
    expect(brokenInvariants(both)).toEqual([])
    const frame = posePuppet(both)
    const places = handlePlaces(frame, writePose(frame.rig, both.pose, new Float64Array(frame.rig.restPose.length)), both.pose, 'around')
    expect(places.find((p) => p.id === 'around.1.1')!.y - 100).toBeCloseTo(-40, 6)
  })

  test('loses what is deleted, and goes with the last of it', () => {
    const both = caged(PARTS)
    const less = run(both, deletePart, { part: 'hand' })
    expect(less.parts[less.root]!.deformers[0]!.only).toEqual(['sleeve'])
    const none = run(less, deletePart, { part: 'sleeve' })
    expect(none.parts[none.root]!.deformers).toEqual([])
    expect(none.pose).toEqual({})
    expect(brokenInvariants(none)).toEqual([])
  })

  test('leaves copies of its parts alone, and refuses parts from elsewhere', () => {
    const one = caged(['hand'])
    const twice = run(one, duplicateParts, { parts: ['hand'], prefix: 'copy' })
    expect(brokenInvariants(twice)).toEqual([])
    const cage = { ...cageAround(one, 'sleeve', 'other'), only: ['hand'] }
    expect(() => run(one, addDeformer, { part: 'sleeve', deformer: cage })).toThrow('is not in the part')
  })
})
