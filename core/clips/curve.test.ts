import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { points, track } from '../test/acting'
import { often } from '../test/often'
import { compileTrack, smoothSlope, trackValue, valueAtTime } from './curve'
import { Ease, easedHandles } from './easing'
import { newKey } from './edits'
import type { Key, Track } from './records'

const at = (of: Track, ...times: number[]): number[] => times.map((time) => valueAtTime(of, time))

/** A cubic Bézier curve in time and value by de Casteljau, at the share where it is at a time, found by halving alone. */
function byHalving(t: readonly number[], v: readonly number[], time: number): number {
  const on = (p: readonly number[], s: number): number => {
    let list = [...p]
    while (list.length > 1) list = list.slice(1).map((b, k) => list[k]! + s * (b - list[k]!))
    return list[0]!
  }
  let [low, high] = [0, 1]
  for (let k = 0; k < 200; k++) {
    const middle = (low + high) / 2
    if (on(t, middle) < time) low = middle
    else high = middle
  }
  return on(v, (low + high) / 2)
}

const custom = (time: number, value: number, arrive: [number, number], leave: [number, number]): Key => ({
  ...newKey(time, value, null, 'custom'),
  handles: { arrive, leave, aligned: false },
})

describe('curves between keys', () => {
  test('straight ones are straight, stepped ones stay, and choices never lie between', () => {
    expect(
      at(
        track(
          [
            [0, 10],
            [2, 30],
          ],
          'linear',
        ),
        0,
        0.5,
        1,
        2,
      ),
    ).toEqual([10, 15, 20, 30].map((v) => expect.closeTo(v, 12)))
    expect(
      at(
        track(
          [
            [0, 10],
            [2, 30],
          ],
          'stepped',
        ),
        0,
        1,
        1.999,
        2,
      ),
    ).toEqual([10, 10, 10, 30])
    expect(
      valueAtTime(
        track([
          [0, 1],
          [2, 4],
        ]),
        1.9,
        true,
      ),
    ).toBe(1)
  })

  test('two level keys make the closed form 3s² - 2s³', () => {
    const of = track(
      [
        [1, 0],
        [3, 1],
      ],
      'flat',
    )
    for (let k = 0; k <= 20; k++) {
      const s = k / 20
      expect(valueAtTime(of, 1 + 2 * s)).toBeCloseTo(3 * s * s - 2 * s * s * s, 12)
    }
  })

  test('smooth keys go through a parabola at even times with its own slope, where it does not turn', () => {
    const keys = [0, 1, 2, 3].map((t) => newKey(t, t * t))
    // Steffen's slope is that of the parabola through three points: half of what the sides differ by.
    expect(smoothSlope(keys, 1)).toBeCloseTo(2, 12)
    expect(smoothSlope(keys, 2)).toBeCloseTo(4, 12)
    expect(smoothSlope(keys, 0)).toBe(0)
  })

  test('smooth keys never go beyond the values of their neighbours: the slopes meet the monotone condition', () => {
    fc.assert(
      fc.property(points, fc.double({ min: 0, max: 1, noNaN: true }), (list, share) => {
        const of = track(list)
        const compiled = compileTrack(of)
        for (let k = 0; k + 1 < list.length; k++) {
          const [[t0, v0], [t1, v1]] = [list[k]!, list[k + 1]!]
          const secant = (v1 - v0) / (t1 - t0)
          // Fritsch and Carlson 1980: within three times the slope of the chord, and never against it.
          for (const slope of [smoothSlope(of.keys, k), smoothSlope(of.keys, k + 1)]) {
            expect(slope * Math.sign(secant)).toBeGreaterThanOrEqual(-1e-9)
            expect(Math.abs(slope)).toBeLessThanOrEqual(3 * Math.abs(secant) + 1e-9)
          }
          const value = trackValue(compiled, t0 + share * (t1 - t0))
          expect(value).toBeGreaterThanOrEqual(Math.min(v0, v1) - 1e-9)
          expect(value).toBeLessThanOrEqual(Math.max(v0, v1) + 1e-9)
        }
      }),
      { numRuns: often(200, 5000) },
    )
  })

  test('custom handles draw the Bézier curve that they say, in time as well as in value', () => {
    const seconds = fc.double({ min: 0.001, max: 1, noNaN: true })
    const change = fc.double({ min: -50, max: 50, noNaN: true })
    fc.assert(
      fc.property(seconds, change, seconds, change, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, c, d, share) => {
        const keys = [custom(1, 5, [0.1, 0], [a, b]), custom(2, -8, [c, d], [0.1, 0])]
        const t = [1, 1 + a, 2 - c, 2]
        const v = [5, 5 + b, -8 + d, -8]
        expect(valueAtTime({ keys, before: 'hold', after: 'hold' }, 1 + share)).toBeCloseTo(byHalving(t, v, 1 + share), 6)
      }),
      { numRuns: often(150, 3000) },
    )
  })

  test('handles that are longer than their piece are shortened along their line, so that time never goes back', () => {
    const keys = [custom(0, 0, [0, 0], [5, 50]), custom(1, 0, [5, 50], [0, 0])]
    const short = [custom(0, 0, [0, 0], [1, 10]), custom(1, 0, [1, 10], [0, 0])]
    for (const time of [0.1, 0.5, 0.77])
      expect(at({ keys, before: 'hold', after: 'hold' }, time)).toEqual(at({ keys: short, before: 'hold', after: 'hold' }, time))
  })

  test('beyond its keys a track holds, begins again, or goes on from where it ended', () => {
    const of = (after: Track['after'], before: Track['before'] = 'hold') =>
      track(
        [
          [1, 0],
          [2, 10],
          [3, 6],
        ],
        'linear',
        { before, after },
      )
    expect(at(of('hold'), 0, 4)).toEqual([0, 6])
    expect(at(of('repeat'), 3.5, 4, 5.5)).toEqual([5, 10, 5].map((v) => expect.closeTo(v, 9)))
    expect(at(of('offset'), 3.5, 4, 6)).toEqual([11, 16, 22].map((v) => expect.closeTo(v, 9)))
    expect(at(of('hold', 'offset'), 0)).toEqual([expect.closeTo(4, 9)])
  })
})

describe('easing', () => {
  const keys: Key[] = [0, 1, 3].map((time, k) => ({ time, value: [0, 10, -10][k]!, way: 'linear', handles: null, pose: null }))
  const eased = (ease: Ease): Key[] =>
    keys.map((key, k) => (k === 1 ? { ...key, way: 'custom', handles: easedHandles(keys, 1, ease) } : key))
  const track = (of: Key[]) => compileTrack({ keys: of, before: 'hold', after: 'hold' })
  const speed = (of: Key[], time: number): number => (trackValue(track(of), time + 1e-4) - trackValue(track(of), time - 1e-4)) / 2e-4

  test('comes slowly, leaves slowly, or both; the other side stays straight', () => {
    expect(Math.abs(speed(eased('in'), 0.99))).toBeLessThan(2)
    expect(speed(eased('in'), 1.01)).toBeCloseTo(-10, 0)
    expect(Math.abs(speed(eased('out'), 1.01))).toBeLessThan(2)
    expect(speed(eased('out'), 0.99)).toBeCloseTo(10, 0)
    for (const time of [0.99, 1.01]) expect(Math.abs(speed(eased('both'), time))).toBeLessThan(2)
  })

  test('lingers longer the stronger it is, and a snap is fast until the end', () => {
    const late = (ease: Ease): number => trackValue(track(eased(ease)), 1.5)
    expect(late('strong')).toBeGreaterThan(late('both'))
    expect(speed(eased('snap'), 0.99)).toBeGreaterThan(20)
  })

  test('no character leaves the values of the keys around it', () => {
    for (const ease of Ease.options)
      for (let time = 0; time <= 3; time += 0.01) {
        const value = trackValue(track(eased(ease)), time)
        expect(value).toBeLessThanOrEqual(10 + 1e-9)
        expect(value).toBeGreaterThanOrEqual(-10 - 1e-9)
      }
  })
})
