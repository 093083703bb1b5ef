import { describe, expect, test } from 'vitest'
import { nth } from '../kernel/sure'
import { poseInClip, valuesInClip } from '../playing/clips'
import { run } from '../puppet/edit'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import { armPuppet } from '../test/puppets'
import { addClip, setClip, setMarker } from './commands'
import { setKeyHandles, setKeys, setKeyWay } from './keyCommands'
import { newClip } from './new'
import { hangPose } from './poseCommands'
import { Pace, retime, retimed } from './retime'

const [UPPER, LOWER] = ['bone/upper/angle', 'bone/lower/angle']
const PLACE = { clip: 'act', layer: 'act-base' }

function acted(): Puppet {
  let puppet = run(armPuppet(), addClip, { clip: newClip('act', 'Act', { length: 4 }) })
  puppet = run(puppet, hangPose, { ...PLACE, pose: { id: 'up', name: 'Up', time: 1 }, values: { [UPPER]: 40 } })
  puppet = run(puppet, setKeys, {
    ...PLACE,
    keys: [0, 1, 2.5, 4].map((time, k) => ({ channel: LOWER, time, value: [0, 60, -20, 10][k]! })),
  })
  puppet = run(puppet, setKeyWay, { ...PLACE, keys: [{ channel: LOWER, time: 1 }], way: 'custom' })
  puppet = run(puppet, setKeyHandles, {
    ...PLACE,
    channel: LOWER,
    time: 1,
    handles: { arrive: [0.3, -10], leave: [0.4, 5], aligned: false },
  })
  puppet = run(puppet, setMarker, { clip: 'act', marker: { id: 'beat', time: 2, note: 'Beat' } })
  return run(puppet, setClip, { clip: 'act', range: { from: 1, to: 3 }, tempo: { perMinute: 120, first: 0.5 } })
}

const clipOf = (puppet: Puppet) => nth(puppet.clips, 0)
const source = acted()

describe('retiming', () => {
  test.each([0.5, 2, 1.37])('by %d shows every pose at its new time', (by) => {
    const after = run(source, retime, { clip: 'act', by, pace: 'even' })
    for (let k = 0; k <= 40; k++) {
      const [was, is] = [valuesInClip(source, clipOf(source), k / 10), valuesInClip(after, clipOf(after), (by * k) / 10)]
      for (const [address, value] of Object.entries(was)) expect(is[address]).toBeCloseTo(value, 6)
    }
    expect(clipOf(after).length).toBeCloseTo(4 * by, 9)
    expect(clipOf(after).range).toEqual({ from: by, to: 3 * by })
    expect(clipOf(after).tempo!.perMinute).toBeCloseTo(120 / by, 9)
    expect(brokenInvariants(after)).toEqual([])
  })

  test.each(Pace.options)('%s keeps the poses of keys, their order, and the ends', (pace) => {
    const after = run(source, retime, { clip: 'act', by: 1, pace })
    const to = (time: number): number => retimed(time, 4, 1, pace)
    expect([to(0), to(4)]).toEqual([0, expect.closeTo(4, 9)])
    for (const time of [0, 1, 2.5, 4])
      expect(poseInClip(after, clipOf(after), to(time))[LOWER] ?? 0).toBeCloseTo(poseInClip(source, clipOf(source), time)[LOWER] ?? 0, 6)
    const times = nth(clipOf(after).layers, 0).tracks[LOWER]!.keys.map((key) => key.time)
    expect([...times].sort((a, b) => a - b)).toEqual(times)
    expect(clipOf(after).poses[0]!.time).toBeCloseTo(to(1), 9)
  })

  test('slow starts and slow ends are each other, turned round', () => {
    for (const share of [0.1, 0.3, 0.5, 0.8])
      expect(retimed(share, 1, 1, 'slow-start')).toBeCloseTo(1 - retimed(1 - share, 1, 1, 'slow-end'), 2)
    expect(retimed(0.25, 1, 1, 'slow-start')).toBeGreaterThan(0.25)
    expect(retimed(0.5, 1, 1, 'slow-both')).toBeCloseTo(0.5, 9)
  })

  test('what would squeeze keys onto each other is refused', () => {
    const near = run(source, setKeys, { ...PLACE, keys: [{ channel: LOWER, time: 1.0012, value: 3 }] })
    expect(() => run(near, retime, { clip: 'act', by: 0.05, pace: 'even' })).toThrow('retime it by less')
  })
})
