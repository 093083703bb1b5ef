import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import type { Puppet } from '../puppet/schema'
import { poseInClip } from '../playing/clips'
import { posePuppet } from '../puppet/evaluate'
import { bonePoint } from '../puppet/probe'
import { run } from '../puppet/edit'
import { armPuppet } from '../test/puppets'
import { often } from '../test/often'
import { addClip } from './commands'
import { valueAtTime } from './curve'
import { newKey } from './edits'
import { clipOf } from './lookup'
import { newClip, newLayer } from './new'
import { evenTimes, repace } from './spacing'
import { thinnedKeys } from './thin'
import { nth } from '../kernel/sure'

const RATE = 24

describe('thinned keys', () => {
  test('of a straight line are its ends, of a curve that few keys make those few', () => {
    const times = Array.from({ length: 49 }, (_, k) => k / RATE)
    const still = thinnedKeys(
      times,
      times.map(() => 7),
      0.01,
    )
    expect(still.map(({ time }) => time)).toEqual([0, 2])
    const keys = [newKey(0, 0), newKey(1, 40), newKey(2, 10)]
    const values = times.map((time) => valueAtTime({ keys, before: 'hold', after: 'hold' }, time))
    expect(thinnedKeys(times, values, 1e-6)).toEqual(keys)
  })

  test('are nowhere farther off than they may be, whatever the values', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -500, max: 500, noNaN: true }), { minLength: 2, maxLength: 60 }),
        fc.constantFrom(0, 0.5, 20),
        (values, off) => {
          const times = values.map((_, k) => k / RATE)
          const keys = thinnedKeys(times, values, off)
          const track = { keys, before: 'hold', after: 'hold' } as const
          values.forEach((value, k) => expect(Math.abs(valueAtTime(track, nth(times, k)) - value)).toBeLessThanOrEqual(off + 1e-8))
        },
      ),
      { numRuns: often(60, 600) },
    )
  })
})

describe('even spacing', () => {
  const channels = ['bone/upper/angle', 'bone/lower/angle']

  /** An arm that lifts fast, lingers and lifts on, with a pose in between. */
  function lifting(): Puppet {
    const arm = armPuppet()
    const [upper, lower] = Object.keys(arm.bones)
    const layer = newLayer('base', 'Base')
    layer.tracks[`bone/${upper}/angle`] = { keys: [newKey(0, 0), newKey(0.25, 40, 'mid'), newKey(2, 70)], before: 'hold', after: 'hold' }
    layer.tracks[`bone/${lower}/angle`] = { keys: [newKey(0, 0), newKey(0.25, 30, 'mid'), newKey(2, 45)], before: 'hold', after: 'hold' }
    return run(arm, addClip, {
      clip: newClip('clip', 'Lift', { length: 3, rate: RATE, layers: [layer], poses: [{ id: 'mid', name: 'Mid', time: 0.25 }] }),
    })
  }

  const tipAt = (puppet: Puppet, time: number) => {
    const frame = posePuppet(puppet, poseInClip(puppet, clipOf(puppet, 'clip'), time))
    return bonePoint(frame, frame.rig.bones.ids.length - 1, 1)
  }
  const times = Array.from({ length: 2 * RATE + 1 }, (_, k) => k / RATE)

  test('puts as much of the way between any two frames, and keeps the way and the poses', () => {
    const puppet = lifting()
    const places = times.map((time) => tipAt(puppet, time))
    const fine = Array.from({ length: 16 * RATE + 1 }, (_, k) => k / (8 * RATE))
    const way = fine.map((time) => tipAt(puppet, time))
    const shown = evenTimes(way, fine, times)!
    const moved = Object.keys(nth(clipOf(puppet, 'clip').layers, 0).tracks)
    const even = run(puppet, repace, { clip: 'clip', layer: 'base', channels: moved, times, shown })
    const now = times.map((time) => tipAt(even, time))
    const steps = now.slice(1).map((p, k) => Math.hypot(p.x - nth(now, k).x, p.y - nth(now, k).y))
    const mean = steps.reduce((sum, step) => sum + step, 0) / steps.length
    for (const step of steps) expect(Math.abs(step - mean)).toBeLessThan(0.12 * mean)
    // Before, the slowest frame went less than a tenth of the fastest.
    const was = places.slice(1).map((p, k) => Math.hypot(p.x - nth(places, k).x, p.y - nth(places, k).y))
    expect(Math.min(...was)).toBeLessThan(0.1 * Math.max(...was))
    // On the old way: each place lies near some place of it.
    for (const p of now) expect(Math.min(...way.map((q) => Math.hypot(p.x - q.x, p.y - q.y)))).toBeLessThan(mean / 2)
    const tracks = Object.values(nth(clipOf(even, 'clip').layers, 0).tracks)
    for (const { keys } of tracks)
      expect(keys.filter((key) => key.pose === 'mid').map((key) => key.value)).toEqual([tracks[0]!.keys === keys ? 40 : 30])
    expect(tipAt(even, 0)).toEqual(nth(places, 0))
    expect(tipAt(even, 2)).toEqual(nth(places, -1))
  })

  test('has nothing to do where nothing moves, and refuses channels without keys and times that go back', () => {
    const still = times.map(() => ({ x: 3, y: 4 }))
    expect(evenTimes(still, times, times)).toBeNull()
    const puppet = lifting()
    const args = { clip: 'clip', layer: 'base', times: [0, 1, 2], shown: [0, 1, 2] }
    expect(() => run(puppet, repace, { ...args, channels: ['part/none/x'] })).toThrow('None of these channels')
    expect(() => run(puppet, repace, { ...args, channels, shown: [0, 2, 1] })).toThrow('never back')
  })
})
