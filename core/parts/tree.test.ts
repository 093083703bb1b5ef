import { describe, expect, test } from 'vitest'
import { bindWhole } from '../binds/commands'
import { run } from '../puppet/edit'
import { groupParts, setPivot } from './commands'
import { armPuppet } from '../test/puppets'
import { drawingBounds, isWithinPart, partPath, partsBelow, restBounds, restPivot } from './tree'
import { bonesInOrder, isWithinBone } from '../bones/tree'
import { bindHolder, partsOfBone, partsUnderBind } from '../binds/tree'

const nested = () =>
  run(run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'arm', name: 'Arm' }), groupParts, {
    parts: ['hand'],
    id: 'glove',
    name: 'Glove',
  })
const ids = (list: readonly { id: string }[]): string[] => list.map((x) => x.id)

describe('trees', () => {
  test('parts come in painting order, and the way down from the root', () => {
    expect(ids(partsBelow(nested(), 'arm-root'))).toEqual(['arm-root', 'arm', 'sleeve', 'glove', 'hand'])
    expect(ids(partPath(nested(), 'hand'))).toEqual(['arm-root', 'arm', 'glove', 'hand'])
    expect(isWithinPart(nested(), 'hand', 'arm')).toBe(true)
    expect(isWithinPart(nested(), 'sleeve', 'glove')).toBe(false)
  })

  test('bones come parents first', () => {
    expect(ids(bonesInOrder(armPuppet()))).toEqual(['upper', 'lower', 'palm'])
    expect(isWithinBone(armPuppet(), 'palm', 'upper')).toBe(true)
    expect(isWithinBone(armPuppet(), 'upper', 'palm')).toBe(false)
  })

  test('the nearest bind above moves a part', () => {
    let puppet = run(nested(), bindWhole, { parts: ['arm'], bone: 'upper' })
    expect(bindHolder(puppet, 'hand')?.id).toBe('arm')
    expect(ids(partsUnderBind(puppet, 'arm'))).toEqual(['sleeve', 'hand'])
    puppet = run(puppet, bindWhole, { parts: ['glove'], bone: 'palm' })
    expect(bindHolder(puppet, 'hand')?.id).toBe('glove')
    expect(ids(partsUnderBind(puppet, 'arm'))).toEqual(['sleeve'])
    expect(ids(partsOfBone(puppet, 'palm'))).toEqual(['glove'])
    expect(bindHolder(nested(), 'hand')).toBeNull()
  })

  test('bounds of a group hold all that is in it; of nothing there are none', () => {
    expect(restBounds(nested(), 'arm')).toEqual({ minX: 100, minY: 80, maxX: 340, maxY: 120 })
    const bare = { ...armPuppet(), drawings: {} }
    expect(restBounds(bare, bare.root)).toBeNull()
  })

  test('lines widen bounds by half their width, scaled', () => {
    const puppet = armPuppet()
    const shape = puppet.drawings['d-hand']!.shapes[0]!
    const line = {
      paint: { kind: 'flat' as const, colour: '#000000' },
      alpha: 1,
      width: 6,
      cap: 'butt' as const,
      join: 'miter' as const,
      miter: 4,
      dash: null,
      pen: null,
    }
    const lined = { id: 'x', shapes: [{ ...shape, line }] }
    expect(drawingBounds(lined).minX).toBe(297)
    expect(drawingBounds(lined, [2, 0, 0, 2, 0, 0]).minX).toBe(594)
  })

  test('the pivot is told on the canvas', () => {
    expect(restPivot(run(armPuppet(), setPivot, { part: 'hand', pivot: { x: 300, y: 100 } }), 'hand')).toEqual({ x: 300, y: 100 })
  })
})
