import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { NaturalField } from './natural'
import { labOf, rgbOf } from './oklab'
import { riseAt, slopesAlong } from './ruler'

const numbers = (n: number) => fc.array(fc.double({ min: -100, max: 100, noNaN: true }), { minLength: n, maxLength: n })

describe('slopes along a ruler', () => {
  /** The cubic with given slopes, at a share of one step. */
  const between = (h: number, a: number, b: number, m: number, n: number, t: number): number =>
    a * (2 * t ** 3 - 3 * t ** 2 + 1) + h * m * (t ** 3 - 2 * t ** 2 + t) + b * (3 * t ** 2 - 2 * t ** 3) + h * n * (t ** 3 - t ** 2)

  test('straight lines keep their slope', () => {
    const xs = [-3, -1, 0, 4, 5]
    for (const overshoots of [true, false])
      expect(
        slopesAlong(
          xs,
          xs.map((x) => 2 * x + 1),
          overshoots,
        ).every((s) => Math.abs(s - 2) < 1e-12),
      ).toBe(true)
  })

  test('no way goes beyond the values that it lies between', () => {
    fc.assert(
      fc.property(numbers(6), fc.array(fc.double({ min: 0.1, max: 9, noNaN: true }), { minLength: 6, maxLength: 6 }), (values, steps) => {
        let x = 0
        const xs = steps.map((s) => (x += s))
        const slopes = slopesAlong(xs, values, false)
        for (let i = 0; i < 5; i++) {
          const [lo, hi] = [Math.min(values[i]!, values[i + 1]!), Math.max(values[i]!, values[i + 1]!)]
          for (let t = 0; t <= 1; t += 0.05) {
            const v = between(xs[i + 1]! - xs[i]!, values[i]!, values[i + 1]!, slopes[i]!, slopes[i + 1]!, t)
            expect(v).toBeGreaterThanOrEqual(lo - 1e-9)
            expect(v).toBeLessThanOrEqual(hi + 1e-9)
          }
        }
      }),
      { numRuns: 300, seed: 1 },
    )
  })

  test('a curve of its own begins at 0, ends at 1 and has risen as its handles say', () => {
    expect(riseAt([0, 0, 1, 1], 0.3)).toBeCloseTo(0.3, 9)
    expect(riseAt([0.4, 0, 0.6, 1], 0.5)).toBeCloseTo(0.5, 9)
    expect([riseAt([0.2, 2, 0.8, -1], 0), riseAt([0.2, 2, 0.8, -1], 1)]).toEqual([0, 1])
  })
})

describe('values between sites of a pad', () => {
  const grid = Float64Array.from([-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((x) => [x, y])))
  const valueAt = (field: NaturalField, values: Float64Array, slopes: Float64Array, x: number, y: number): number => {
    field.look(x, y)
    let sum = 0
    for (let i = 0; i < field.count; i++)
      sum += field.value[i]! * values[i]! + field.slopeX[i]! * slopes[2 * i]! + field.slopeY[i]! * slopes[2 * i + 1]!
    return sum
  }
  const made = (sites: Float64Array, values: number[], overshoots = false): ((x: number, y: number) => number) => {
    const field = new NaturalField(sites)
    const z = Float64Array.from(values)
    const slopes = new Float64Array(sites.length)
    field.slopes(z, overshoots, slopes)
    return (x, y) => valueAt(field, z, slopes, x, y)
  }

  test('coordinates are those of the spot, none is negative, and they sum to 1', () => {
    fc.assert(
      fc.property(numbers(24), fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (sites, a, b) => {
        const at = Float64Array.from(sites)
        const field = new NaturalField(at)
        // A spot within: between two sites and a third.
        const x = a * (b * at[0]! + (1 - b) * at[2]!) + (1 - a) * at[4]!
        const y = a * (b * at[1]! + (1 - b) * at[3]!) + (1 - a) * at[5]!
        field.look(x, y)
        let [sum, sx, sy] = [0, 0, 0]
        for (let i = 0; i < field.count; i++) {
          expect(field.shares[i]).toBeGreaterThanOrEqual(0)
          sum += field.shares[i]!
          sx += field.shares[i]! * at[2 * i]!
          sy += field.shares[i]! * at[2 * i + 1]!
        }
        expect(sum).toBeCloseTo(1, 6)
        expect(Math.hypot(sx - x, sy - y)).toBeLessThan(0.05)
      }),
      { numRuns: 200, seed: 2 },
    )
  })

  test('every site has its own value, whatever the others are', () => {
    fc.assert(
      fc.property(numbers(9), fc.boolean(), (values, overshoots) => {
        const at = made(grid, values, overshoots)
        values.forEach((v, i) => expect(at(grid[2 * i]!, grid[2 * i + 1]!)).toBeCloseTo(v, 9))
      }),
      { numRuns: 100, seed: 3 },
    )
  })

  test('linear functions stay as they are', () => {
    const at = made(
      grid,
      [...grid].flatMap((_, k) => (k % 2 === 0 ? [3 * grid[k]! - 2 * grid[k + 1]! + 1] : [])),
    )
    for (const [x, y] of [
      [0.3, 0.2],
      [-0.7, 0.9],
      [0.5, -0.5],
    ] as const)
      expect(at(x, y)).toBeCloseTo(3 * x - 2 * y + 1, 4)
  })

  test('values stay between those of the neighbours unless asked, and go on smoothly', () => {
    fc.assert(
      fc.property(numbers(9), (values) => {
        const at = made(grid, values)
        const [lo, hi] = [Math.min(...values), Math.max(...values)]
        for (let k = 0; k < 40; k++) {
          const [x, y] = [Math.sin(k * 1.7), Math.cos(k * 2.3)]
          const v = at(x, y)
          expect(v).toBeGreaterThanOrEqual(lo - 1e-6)
          expect(v).toBeLessThanOrEqual(hi + 1e-6)
          expect(Math.abs(at(x + 1e-4, y) - v)).toBeLessThan(0.02 * (hi - lo) + 1e-6)
        }
      }),
      { numRuns: 60, seed: 4 },
    )
  })

  test('outside of the sites the nearest spot of their rim counts; sites on one line are a ruler', () => {
    const at = made(Float64Array.from([0, 0, 1, 0, 2, 0]), [0, 1, 5])
    expect(at(3, 1)).toBeCloseTo(5, 9)
    expect(at(-1, -4)).toBeCloseTo(0, 9)
    expect(at(0.5, 3)).toBeGreaterThan(0)
    expect(at(0.5, 3)).toBeLessThan(1)
  })
})

test('colours go to OKLab and back', () => {
  const out = new Float64Array(3)
  for (const colour of ['#000000', '#ffffff', '#c2402c', '#1e7a6b', '#0000ff']) {
    rgbOf(...labOf(colour), out)
    const hex = [...out]
      .map((v) =>
        Math.round(255 * v)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')
    expect(`#${hex}`).toBe(colour)
  }
})
