import { expect, test } from 'vitest'
import fc from 'fast-check'
import { often } from '../test/often'
import { firstSwing, matchedSettle, matchedSwing, readSwing, swingOf } from './swing'

const nature = { throw: 1, tempo: 2, settle: 1 }

test('a curve that is let go shows its overshoot and when it is settled', () => {
  const swing = swingOf(nature, 3, 1201)
  const { settled, overshoot } = readSwing(swing)
  // The envelope of a let-go swing lies a little above that of its decay.
  expect(settled).toBeGreaterThan(0.75)
  expect(settled).toBeLessThan(1.15)
  expect(overshoot).toBeCloseTo(firstSwing(nature)!.depth, 3)
  expect(swing.out[0]).toBe(1)
  expect(readSwing(swingOf({ ...nature, throw: 0 }, 3, 100))).toEqual({ settled: 0, overshoot: 0 })
  expect(readSwing(swingOf({ ...nature, settle: 20 }, 3, 100)).settled).toBeNull()
})

test('a first swing that is drawn somewhere is there on the curve with the matched numbers', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.05, max: 1.5, noNaN: true }), fc.double({ min: 0.03, max: 0.95, noNaN: true }), (time, depth) => {
      const matched = matchedSwing(nature, time, depth)
      // Longer than half a minute nothing swings.
      if (matched.settle === 30) return
      const { times, out } = swingOf(matched, 3 * time, 3001)
      let lowest = 0
      for (let k = 0; k < out.length; k++) if (out[k]! < out[lowest]!) lowest = k
      expect(times[lowest]).toBeCloseTo(time, 2)
      expect(-out[lowest]!).toBeCloseTo(depth, 2)
    }),
    { numRuns: often(100, 1000) },
  )
})

test('an end that is drawn somewhere is how long it takes to settle; without a swing there is no first one', () => {
  expect(matchedSettle(nature, 2.5).settle).toBe(2.5)
  expect(matchedSettle(nature, 1000).settle).toBe(30)
  expect(firstSwing({ ...nature, tempo: 0 })).toBeNull()
})
