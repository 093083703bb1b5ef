/** A puppet with a clip, for tests. */
import fc from 'fast-check'
import { addClip } from '../clips/commands'
import { newKey } from '../clips/edits'
import { newClip } from '../clips/new'
import type { Key, Track } from '../clips/records'
import type { Puppet } from '../puppet/schema'
import { run } from '../puppet/edit'
import { answeringArm } from './responding'

/** The channel of the forearm of the arm puppet. */
export const FOREARM = 'bone/lower/angle'
export const UPPER = 'bone/upper/angle'
export const BASE = { clip: 'act', layer: 'act-base' }

/** The arm with an empty clip. */
export const actingArm = (): Puppet => run(answeringArm(), addClip, { clip: newClip('act', 'Act', { length: 4 }) })

/** A track of keys at times with values, all of one way. */
export const track = (points: readonly (readonly [number, number])[], way: Key['way'] = 'smooth', more: Partial<Track> = {}): Track => ({
  ...{ keys: points.map(([time, value]) => newKey(time, value, null, way)), before: 'hold', after: 'hold' },
  ...more,
})

/** Points of a track that any test may draw: times rise by at least a hundredth of a second. */
export const points = fc
  .array(fc.tuple(fc.double({ min: 0.01, max: 2, noNaN: true }), fc.double({ min: -90, max: 90, noNaN: true })), {
    minLength: 2,
    maxLength: 9,
  })
  .map((list) => {
    let time = 0
    return list.map(([step, value]) => [(time += step), value] as const)
  })
