import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import { poseRig } from '../puppet/evaluate'
import { compile } from '../puppet/compile'
import { bonePoint } from '../puppet/probe'
import { armPuppet } from '../test/puppets'
import { bindWhole } from '../binds/commands'
import { renameBone, setLimits } from '../bones/commands'
import { run } from '../puppet/edit'
import { otherSide } from '../kernel/sides'
import { bonesWithBranches, labelBones, mirrorBones, splitBone } from './commands'
import { EditError } from '../kernel/errors'
import { reverseBones } from './lines'

describe('splitting a bone', () => {
  const split = (puppet: Puppet): Puppet => run(puppet, splitBone, { bone: 'lower', ids: ['b', 'c', 'd'] })

  test('gives a chain of equal bones on the same line, and children hang from the last', () => {
    const puppet = split(armPuppet())
    expect(brokenInvariants(puppet)).toEqual([])
    expect(['lower', 'b', 'c', 'd'].map((id) => [puppet.bones[id]!.start.x, puppet.bones[id]!.end.x])).toEqual([
      [200, 225],
      [225, 250],
      [250, 275],
      [275, 300],
    ])
    expect(puppet.bones['palm']!.parent).toBe('d')
    expect(puppet.bones['c']).toMatchObject({ parent: 'b', name: 'Lower 3', colour: puppet.bones['lower']!.colour })
  })

  test('keeps the pose and what follows the bone whole', () => {
    const bound = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'lower' })
    const pose = { 'bone/lower/angle': 40 }
    const tip = (puppet: Puppet) => {
      const rig = compile(puppet)
      return bonePoint(poseRig(rig, pose), rig.bones.index.get('palm')!, 1)
    }
    expect(tip(split(bound)).x).toBeCloseTo(tip(bound).x)
    expect(split(bound).parts['hand']!.bind).toEqual({ kind: 'whole', bone: 'lower' })
  })

  test('ids that are taken are refused', () => {
    expect(() => run(armPuppet(), splitBone, { bone: 'lower', ids: ['palm'] })).toThrow(EditError)
    expect(() => run(armPuppet(), splitBone, { bone: 'lower', ids: ['x', 'x'] })).toThrow(EditError)
  })
})

describe('mirroring bones', () => {
  const sided = run(run(armPuppet(), renameBone, { bone: 'lower', name: 'Forearm left' }), renameBone, { bone: 'palm', name: 'Hand_L' })
  const limited = run(sided, setLimits, { bone: 'lower', limits: { min: -5, max: 140 } })
  const ids = { lower: 'lower2', palm: 'palm2' }

  test('copies the branch across, changes sides in names and turns limits round', () => {
    expect(bonesWithBranches(limited, ['lower', 'palm'])).toEqual(['lower', 'palm'])
    const puppet = run(limited, mirrorBones, { bones: ['lower'], ids, at: 250 })
    expect(brokenInvariants(puppet)).toEqual([])
    expect(puppet.bones['lower2']).toMatchObject({
      name: 'Forearm right',
      parent: 'upper',
      start: { x: 300, y: 100 },
      end: { x: 200, y: 100 },
      limits: { min: -140, max: 5 },
    })
    expect(puppet.bones['palm2']).toMatchObject({ name: 'Hand_R', parent: 'lower2' })
  })

  test('a mirrored pose is the mirror image', () => {
    const puppet = run(limited, mirrorBones, { bones: ['lower'], ids, at: 200 })
    const rig = compile(puppet)
    const frame = poseRig(rig, { 'bone/lower/angle': 50, 'bone/lower2/angle': -50 })
    const [a, b] = ['palm', 'palm2'].map((id) => bonePoint(frame, rig.bones.index.get(id)!, 1))
    expect(a!.x + b!.x).toBeCloseTo(400)
    expect(a!.y).toBeCloseTo(b!.y)
  })

  test('mirrored twice in one go, ids that are missing or taken are refused', () => {
    expect(() => run(limited, mirrorBones, { bones: ['lower'], ids: { lower: 'x' }, at: 0 })).toThrow('has no id')
    expect(() => run(limited, mirrorBones, { bones: ['lower'], ids: { ...ids, palm: 'upper' }, at: 0 })).toThrow('already a bone')
  })
})

describe('names of sides', () => {
  test.each([
    ['Upper arm left', 'Upper arm right'],
    ['leftHand', 'rightHand'],
    ['LEG_RIGHT', 'LEG_LEFT'],
    ['hand.L', 'hand.R'],
    ['Near ear', 'Far ear'],
    ['eye-r-2', 'eye-l-2'],
  ])('%s and %s', (name, other) => {
    expect(otherSide(name)).toBe(other)
    expect(otherSide(other)).toBe(name)
  })

  test.each(['Collar', 'Leftover', 'Torso', 'brightness'])('%s has no side', (name) => expect(otherSide(name)).toBeNull())
})

test('several bones are labelled at once', () => {
  const puppet = run(armPuppet(), labelBones, { bones: ['upper', 'lower'], label: 'sleeve' })
  expect([puppet.bones['upper']!.label, puppet.bones['lower']!.label, puppet.bones['palm']!.label]).toEqual(['sleeve', 'sleeve', ''])
})

describe('reversing a chain', () => {
  const limited = run(armPuppet(), setLimits, { bone: 'lower', limits: { min: -5, max: 140 } })
  const reversed = run(limited, reverseBones, { bones: ['upper', 'lower'] })

  test('lets it begin where it ended; bones keep their places and what hangs from them', () => {
    expect(brokenInvariants(reversed)).toEqual([])
    expect(reversed.skeleton).toContain('lower')
    expect(reversed.bones['lower']).toMatchObject({ parent: null, start: { x: 300, y: 100 }, end: { x: 200, y: 100 } })
    expect(reversed.bones['upper']).toMatchObject({ parent: 'lower', start: { x: 200, y: 100 }, end: { x: 100, y: 100 } })
    expect(reversed.bones['palm']!.parent).toBe('lower')
  })

  test('holds limits where they held, and is its own opposite', () => {
    expect(reversed.bones['upper']!.limits).toEqual({ min: -140, max: 5 })
    const back = run(reversed, reverseBones, { bones: ['upper', 'lower'] })
    expect(back.bones['lower']!.limits).toEqual({ min: -5, max: 140 })
    expect(back.bones['upper']).toMatchObject({ parent: null, start: { x: 100, y: 100 }, end: { x: 200, y: 100 } })
  })

  test('turns the other end in the pose', () => {
    const rig = compile(reversed)
    const frame = poseRig(rig, { 'bone/upper/angle': -90 })
    const tip = bonePoint(frame, rig.bones.index.get('upper')!, 1)
    expect([tip.x, tip.y].map(Math.round)).toEqual([200, 0])
  })
})
