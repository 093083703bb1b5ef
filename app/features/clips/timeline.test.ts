import { describe, expect, test } from 'vitest'
import { DEMOS } from '@marionette/demo/demos'
import { newClip } from '@marionette/core/clips/new'
import { newKey } from '@marionette/core/clips/edits'
import type { Track } from '@marionette/core/clips/records'
import { curvePoints, extent, handlePlaces, valueScale } from '@marionette/core/clips/graph'
import { onionTimes } from './onion'
import { rowsOf } from './rows'
import { rulerStep, scaleOf, zoomed } from './timeScale'

const state = { width: 856, zoom: 1, from: 0 }
const clip = newClip('c', 'C', { length: 4 })

describe('times across the timeline', () => {
  test('a whole clip fits between the margins, and px lead back to times', () => {
    const scale = scaleOf(state, clip)
    expect([scale.x(0), scale.x(4)]).toEqual([28, 828])
    expect(scale.time(scale.x(1.37))).toBeCloseTo(1.37, 12)
  })

  test('zooming keeps what is under the pointer, and never leaves the clip', () => {
    const near = zoomed(state, clip, 4, 428, 0)
    expect(scaleOf(near, clip).time(428)).toBeCloseTo(2, 9)
    expect(near.zoom).toBe(4)
    const far = zoomed(near, clip, 0.01, 428, 0)
    expect(far).toMatchObject({ zoom: 1, from: 0 })
    expect(zoomed(near, clip, 1, 0, 1e6).from).toBeCloseTo(0.75, 12)
  })

  test('marks of the ruler have room for their figures at every zoom', () => {
    for (const zoom of [1, 3, 10, 50, 200])
      for (const rate of [12, 24, 30, 60]) {
        const scale = scaleOf({ ...state, zoom }, { length: 60 })
        const step = rulerStep(scale, rate)
        expect((step / rate) * scale.perSecond).toBeGreaterThanOrEqual(56)
      }
  })
})

describe('rows', () => {
  const { puppet } = DEMOS['marlo']!()
  const wave = puppet.clips.find((c) => c.name === 'Wave')!
  const layer = wave.layers[0]!

  test('are grouped by limb and by kind, a group of one has no heading', () => {
    const rows = rowsOf(puppet, layer, new Set(), wave.layers)
    expect(rows.filter((r) => r.kind === 'group').map((r) => r.name)).toEqual(expect.arrayContaining(['Upper arm left', 'Upper arm right']))
    expect(rows.find((r) => r.name === 'Head')!.kind).toBe('track')
    const group = rows.find((r) => r.name === 'Upper arm left')!
    const open = rowsOf(puppet, layer, new Set([group.id]), wave.layers)
    expect(
      open
        .slice(open.findIndex((r) => r.id === group.id))
        .slice(1, 4)
        .map((r) => r.name),
    ).toEqual(['Upper arm left', 'Forearm left', 'Hand left'])
  })

  test('hold every key of the layer once', () => {
    const count = Object.values(layer.tracks).reduce((sum, { keys }) => sum + keys.length, 0)
    const rows = rowsOf(puppet, layer, new Set(), wave.layers)
    expect(rows.reduce((sum, row) => sum + row.keys.length, 0)).toBe(count)
  })
})

describe('the graph of curves', () => {
  const track: Track = { keys: [newKey(0, 0), newKey(2, 10), newKey(4, 4)], before: 'hold', after: 'hold' }
  const scale = scaleOf(state, clip)

  test('values fill the height, and px lead back to them', () => {
    const { min, max } = extent([track])
    const values = valueScale(min, max, 124)
    expect([min, max]).toEqual([0, 10])
    expect([values.y(0), values.y(10)]).toEqual([110, 14])
    expect(values.value(values.y(3.3))).toBeCloseTo(3.3, 12)
    expect(valueScale(5, 5, 100).y(5)).toBeCloseTo(50, 9)
  })

  test('a curve is drawn through its keys, from left to right', () => {
    const values = valueScale(0, 10, 124)
    const points = curvePoints(track, scale, values, 4)
    const xs = points.filter((_, k) => k % 2 === 0)
    expect(xs.every((x, k) => k === 0 || x >= xs[k - 1]!)).toBe(true)
    const at = xs.indexOf(scale.x(2))
    expect(points[2 * at + 1]).toBeCloseTo(values.y(10), 9)
  })

  test('handles stand on both sides of a key, and on one at the ends', () => {
    const values = valueScale(0, 10, 124)
    expect(handlePlaces(track, 0, scale, values).arrive).toBe(null)
    const { arrive, leave } = handlePlaces(track, 1, scale, values)
    expect(arrive!.x).toBeLessThan(scale.x(2))
    expect(leave!.x).toBeGreaterThan(scale.x(2))
    // The curve turns round here: smooth keys are level.
    expect(arrive!.y).toBeCloseTo(values.y(10), 9)
  })
})

describe('onion skin', () => {
  const posed = { ...clip, poses: [0, 1, 2, 3].map((time) => ({ id: `p${time}`, name: 'P', time })) }

  test('shows the poses on both sides of the moment, the nearest last', () => {
    expect(onionTimes(posed, 1.5, { before: 2, after: 1, by: 'keys' })).toEqual({ before: [0, 1], after: [2] })
    expect(onionTimes(posed, 1, { before: 0, after: 2, by: 'keys' })).toEqual({ before: [], after: [3, 2] })
  })

  test('counted in frames it stays within the clip', () => {
    const { before, after } = onionTimes(posed, 1 / 24, { before: 3, after: 2, by: 'frames' })
    expect(before).toEqual([expect.closeTo(0, 9)])
    expect(after).toEqual([3 / 24, 2 / 24].map((t) => expect.closeTo(t, 9)))
  })
})
