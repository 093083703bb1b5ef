import { expect, test } from 'vitest'
import { peakBetween, peaksOf } from './peaks'

const RATE = 1000
/** A second of a sine that grows in a straight line to its full height. */
const growing = Float32Array.from({ length: RATE }, (_, k) => (k / RATE) * Math.sin((2 * Math.PI * 100 * k) / RATE))

test('the outline of a sine that grows is as high as its samples come', () => {
  const peaks = peaksOf([growing], RATE, 10)
  expect(peaks.extremes).toHaveLength(20)
  for (let k = 0; k < 10; k++) {
    const samples = growing.subarray(100 * k, 100 * (k + 1))
    expect(peaks.extremes[2 * k]).toBe(Math.min(...samples))
    expect(peaks.extremes[2 * k + 1]).toBe(Math.max(...samples))
  }
})

test('of several channels the loudest counts, and of a stretch the loudest within', () => {
  const quiet = growing.map((x) => x / 4)
  expect(peaksOf([quiet, growing], RATE, 10)).toEqual(peaksOf([growing], RATE, 10))
  const peaks = peaksOf([growing], RATE, 100)
  const [low, high] = peakBetween(peaks, 0.25, 0.75, new Float32Array(2))
  const samples = growing.subarray(250, 750)
  expect(low).toBe(Math.min(...samples))
  expect(high).toBe(Math.max(...samples))
})

test('silence, an end that does not come out even, and what lies beyond the sound', () => {
  const peaks = peaksOf([new Float32Array(1050).fill(0.5)], RATE, 10)
  expect(peaks.extremes).toHaveLength(22)
  expect(peakBetween(peaks, 1.04, 1.05, new Float32Array(2))).toEqual(Float32Array.of(0, 0.5))
  expect(peakBetween(peaks, 3, 4, new Float32Array(2))).toEqual(Float32Array.of(0, 0))
  expect(peaksOf([], RATE).extremes).toHaveLength(0)
})
