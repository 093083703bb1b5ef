import { describe, expect, test } from 'vitest'
import { brokenInvariants } from './invariants'
import type { Puppet } from './schema'
import { restBounds, restMatrix } from '../parts/tree'
import { autoWeights } from '../binds/autoWeights'
import { armPuppet } from '../test/puppets'
import { bindBlended, bindWhole, isOutOfDate } from '../binds/commands'
import { addBone, chainOf, colourChain, deleteBone, dragBoneEnd, hangBone, setBoneEnds, setLimits } from '../bones/commands'
import { applyEdits, run } from './edit'
import { deletePart, groupParts, movePart, setHome, setPivot } from '../parts/commands'
import { resetPose, setPose } from '../poses/commands'
import { COMMANDS } from './commands'
import { edit } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newPart } from '../parts/new'
import { addArtwork } from './artworkCommands'

const bent = (): Puppet => {
  const puppet = armPuppet()
  return run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field: autoWeights(puppet, 'sleeve', ['upper', 'lower']) })
}

const expectSound = (puppet: Puppet): void => expect(brokenInvariants(puppet)).toEqual([])

const bindOf = (puppet: Puppet, part: string) => puppet.parts[part]!.bind

describe('parts', () => {
  test('a part that goes into another group stays where it is on the canvas', () => {
    let puppet = armPuppet()
    const group = { ...newPart('box', 'Box'), home: { x: 30, y: -20, angle: 25, scaleX: 1.5, scaleY: 0.5, skew: 10 } }
    puppet = run(puppet, addArtwork, { parent: puppet.root, parts: [group], drawings: [] })
    const before = restBounds(puppet, 'hand')!
    puppet = run(puppet, movePart, { part: 'hand', parent: 'box', index: 0 })
    const after = restBounds(puppet, 'hand')!
    for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(after[side]).toBeCloseTo(before[side], 6)
    expectSound(puppet)
  })

  test('a group cannot go into itself, and drawings hold no parts', () => {
    let puppet = run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'both', name: 'Both' })
    puppet = run(puppet, groupParts, { parts: ['hand'], id: 'inner', name: 'Inner' })
    expect(() => run(puppet, movePart, { part: 'both', parent: 'inner', index: 0 })).toThrow('cannot go into itself')
    expect(() => run(puppet, movePart, { part: 'hand', parent: 'sleeve', index: 0 })).toThrow('parts go into groups')
  })

  test('grouping keeps the order in which parts are painted', () => {
    const puppet = run(armPuppet(), groupParts, { parts: ['hand', 'sleeve'], id: 'both', name: 'Both' })
    expect(puppet.parts['both']!.children).toEqual(['sleeve', 'hand'])
    expect(puppet.parts[puppet.root]!.children).toEqual(['both'])
  })

  test('moving the pivot leaves the part where it is', () => {
    const turned = run(armPuppet(), setHome, { part: 'hand', home: { x: 5, y: 9, angle: 40, scaleX: -1.2, scaleY: 0.8, skew: 12 } })
    const moved = run(turned, setPivot, { part: 'hand', pivot: { x: 77, y: -13 } })
    restMatrix(moved, 'hand').forEach((v, i) => expect(v).toBeCloseTo(restMatrix(turned, 'hand')[i]!, 8))
    expect(moved.parts['hand']!.pivot).toEqual({ x: 77, y: -13 })
  })

  test('deleting a part takes its drawing and its pose, and nothing that is still shown', () => {
    let puppet = run(armPuppet(), setPose, { values: { 'part/hand/x': 12 } })
    puppet = run(puppet, deletePart, { part: 'hand' })
    expect(puppet.parts['hand']).toBeUndefined()
    expect(puppet.drawings['d-hand']).toBeUndefined()
    expect(puppet.drawings['d-sleeve']).toBeDefined()
    expect(puppet.pose).toEqual({})
    expectSound(puppet)
  })

  test('the topmost part stays', () => {
    const puppet = armPuppet()
    expect(() => run(puppet, deletePart, { part: puppet.root })).toThrow('topmost part')
  })
})

describe('bones', () => {
  test('a branch gets a colour of its own, a chain keeps one', () => {
    const puppet = run(armPuppet(), addBone, {
      id: 'thumb',
      name: 'Thumb',
      parent: 'lower',
      start: { x: 300, y: 100 },
      end: { x: 310, y: 80 },
    })
    expect(puppet.bones['palm']!.colour).toBe(puppet.bones['upper']!.colour)
    expect(puppet.bones['thumb']!.colour).not.toBe(puppet.bones['upper']!.colour)
    expect(chainOf(puppet, 'palm')).toEqual(['upper', 'lower', 'palm'])
    expect(run(puppet, colourChain, { bones: chainOf(puppet, 'palm'), colour: 5 }).bones['upper']!.colour).toBe(5)
  })

  test('a bone cannot hang from its own branch', () => {
    expect(() => run(armPuppet(), hangBone, { bone: 'upper', parent: 'palm' })).toThrow(EditError)
  })

  test('hanging a bone elsewhere moves nothing', () => {
    const puppet = run(armPuppet(), hangBone, { bone: 'palm', parent: null })
    expect(puppet.skeleton).toEqual(['upper', 'palm'])
    expect(puppet.bones['palm']!.start).toEqual({ x: 300, y: 100 })
    expectSound(puppet)
  })

  test('deleting a bone alone hands its children and its parts to its parent', () => {
    const bound = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'lower' })
    const puppet = run(bound, deleteBone, { bone: 'lower', withChildren: false })
    expect(puppet.bones['upper']!.children).toEqual(['palm'])
    expect(bindOf(puppet, 'hand')).toEqual({ kind: 'whole', bone: 'upper' })
    expectSound(puppet)
  })

  test('deleting a branch takes everything below', () => {
    const puppet = run(armPuppet(), deleteBone, { bone: 'lower', withChildren: true })
    expect(Object.keys(puppet.bones)).toEqual(['upper'])
    expectSound(puppet)
  })

  test('blended weights of a deleted bone are shared among the rest', () => {
    const puppet = run(bent(), deleteBone, { bone: 'lower', withChildren: true })
    const bind = bindOf(puppet, 'sleeve')
    expect(bind?.kind === 'blended' && bind.bones).toEqual(['upper'])
    expectSound(puppet)
  })

  test('dragging a bead takes the next ring along, dragging a ring the bead before', () => {
    const puppet = armPuppet()
    const bead = run(puppet, setBoneEnds, dragBoneEnd(puppet, 'upper', 'end', { x: 210, y: 130 }))
    expect(bead.bones['lower']!.start).toEqual({ x: 210, y: 130 })
    expect(bead.bones['lower']!.end).toEqual({ x: 300, y: 100 })
    const ring = run(puppet, setBoneEnds, dragBoneEnd(puppet, 'lower', 'start', { x: 190, y: 90 }))
    expect(ring.bones['upper']!.end).toEqual({ x: 190, y: 90 })
    const rod = run(puppet, setBoneEnds, dragBoneEnd(puppet, 'lower', 'both', { x: 200, y: 150 }))
    expect(rod.bones['palm']!.end).toEqual({ x: 340, y: 150 })
    expect(rod.bones['upper']!.end).toEqual({ x: 200, y: 150 })
  })

  test('a bone of no length is refused', () => {
    expect(() => run(armPuppet(), addBone, { id: 'x', name: 'X', parent: null, start: { x: 1, y: 1 }, end: { x: 1, y: 1 } })).toThrow(
      'length',
    )
  })

  test('new limits bring the pose inside them; limits must leave room for rest', () => {
    const posed = run(armPuppet(), setPose, { values: { 'bone/lower/angle': 90 } })
    const limited = run(posed, setLimits, { bone: 'lower', limits: { min: null, max: 45 } })
    expect(limited.pose['bone/lower/angle']).toBe(45)
    expect(() => run(posed, setLimits, { bone: 'lower', limits: { min: 10, max: 45 } })).toThrow('room for rest')
  })
})

describe('binds and pose', () => {
  test('weights are out of date once their bones were moved at rest', () => {
    const puppet = bent()
    expect(isOutOfDate(puppet, bindOf(puppet, 'sleeve')!)).toBe(false)
    const moved = run(puppet, setBoneEnds, dragBoneEnd(puppet, 'lower', 'end', { x: 320, y: 100 }))
    expect(isOutOfDate(moved, bindOf(moved, 'sleeve')!)).toBe(true)
  })

  test('a value at rest is not kept, and values stay inside limits', () => {
    const limited = run(armPuppet(), setLimits, { bone: 'lower', limits: { min: -5, max: 140 } })
    const posed = run(limited, setPose, { values: { 'bone/lower/angle': 300, 'bone/upper/angle': 0, 'part/hand/scaleX': 1 } })
    expect(posed.pose).toEqual({ 'bone/lower/angle': 140 })
    expect(run(posed, resetPose, { channels: null }).pose).toEqual({})
  })

  test('a channel that does not exist is refused by name', () => {
    expect(() => run(armPuppet(), setPose, { values: { 'bone/tail/angle': 3 } })).toThrow('"bone/tail/angle"')
  })

  test('several edits apply whole or not at all', () => {
    const puppet = armPuppet()
    const edits = [edit(setPose, { values: { 'bone/lower/angle': 20 } }), edit(deletePart, { part: 'nobody' })]
    expect(() => applyEdits(puppet, edits)).toThrow('no part "nobody"')
    expect(puppet.pose).toEqual({})
  })

  test('every command is listed under a name of its own', () => {
    expect(COMMANDS.size).toBeGreaterThan(20)
    for (const [name, command] of COMMANDS) expect(command.name).toBe(name)
  })
})
