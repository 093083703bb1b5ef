import { describe, expect, test } from 'vitest'
import { armPuppet } from '../test/puppets'
import { addBone, setLimits } from '../bones/commands'
import { run } from './edit'
import { channelOf, resolveChannel } from './channels'
import { clampTo } from '../kernel/channel'

describe('channels', () => {
  test('an address means a field of something that exists', () => {
    const puppet = armPuppet()
    expect(channelOf(puppet, 'part/hand/scaleX')).toMatchObject({ kind: 'scale', rest: 1 })
    for (const address of ['bone/nobody/angle', 'bone/upper/toString', 'part/hand', 'part/hand/x/y', 'part/__proto__/x', '']) {
      expect(channelOf(puppet, address)).toBeNull()
    }
  })

  test('a bone angle carries the limits of its bone, one-sided ones too', () => {
    const puppet = run(armPuppet(), setLimits, { bone: 'lower', limits: { min: null, max: 30 } })
    const channel = channelOf(puppet, 'bone/lower/angle')!
    expect(clampTo(channel, 90)).toBe(30)
    expect(clampTo(channel, -500)).toBe(-500)
  })

  test('people may write names, whatever their case', () => {
    expect(resolveChannel(armPuppet(), 'bone/LOWER/angle').address).toBe('bone/lower/angle')
  })

  test('what cannot be resolved says why', () => {
    const twice = run(armPuppet(), addBone, { id: 'second', name: 'Upper', parent: null, start: { x: 0, y: 0 }, end: { x: 9, y: 0 } })
    expect(() => resolveChannel(twice, 'bone/UPPER/angle')).toThrow('2 bones are called "UPPER"')
    expect(() => resolveChannel(twice, 'bone/tail/angle')).toThrow('No bone is called "tail"')
    expect(() => resolveChannel(twice, 'bone/upper/colour')).toThrow('A bone has no "colour"; it has angle, x, y, length.')
    expect(() => resolveChannel(twice, 'upper')).toThrow('is not a channel')
  })
})
