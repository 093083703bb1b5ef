import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { often } from '../../test/often'
import { ratesOf, STEP, STEP_SIZE, writeStep, type Rates } from './oscillator'

/** Steps a spring from a place and speed under a force told for each step's end. */
function stepped(rates: Rates, h: number, [x0, v0]: readonly [number, number], force: (t: number) => number, count: number) {
  const m = new Float64Array(STEP_SIZE)
  writeStep(rates, h, m)
  let [x, v] = [x0, v0]
  const xs = [x]
  const energies = [v * v + rates.stiffness * x * x]
  for (let k = 0; k < count; k++) {
    const [f0, f1] = [force(k * h), force((k + 1) * h)]
    const next = m[0]! * x + m[1]! * v + m[2]! * f0 + m[3]! * f1
    v = m[4]! * x + m[5]! * v + m[6]! * f0 + m[7]! * f1
    x = next
    xs.push(x)
    energies.push(v * v + rates.stiffness * x * x)
  }
  return { xs, energies }
}

/** Springs with a swing, just without one, and creeping back. */
const CASES: readonly (readonly [string, Rates])[] = [
  ['swings', { decay: 3, stiffness: 160 }],
  ['just does not swing', { decay: 8, stiffness: 64 }],
  ['nearly does not swing', { decay: 8, stiffness: 64 + 1e-7 }],
  ['creeps', { decay: 30, stiffness: 64 }],
  ['does not lose anything', { decay: 0, stiffness: 90 }],
]

/** The free motion in closed form, from the roots of its equation. */
function free({ decay, stiffness }: Rates, x0: number, v0: number, t: number): number {
  const rest = stiffness - decay * decay
  const e = Math.exp(-decay * t)
  if (Math.abs(rest) < 1e-6) return e * (x0 + (v0 + decay * x0) * t)
  if (rest > 0) {
    const w = Math.sqrt(rest)
    return e * (x0 * Math.cos(w * t) + ((v0 + decay * x0) / w) * Math.sin(w * t))
  }
  const w = Math.sqrt(-rest)
  const [r1, r2] = [-decay + w, -decay - w]
  const a = (v0 - r2 * x0) / (r1 - r2)
  return a * Math.exp(r1 * t) + (x0 - a) * Math.exp(r2 * t)
}

/** The steady answer to a force sin(w t), and the free motion that begins it at rest. */
function underSine(rates: Rates, w: number, t: number): number {
  const { decay, stiffness } = rates
  const d = (stiffness - w * w) ** 2 + (2 * decay * w) ** 2
  const [a, b] = [(stiffness - w * w) / d, (-2 * decay * w) / d]
  return a * Math.sin(w * t) + b * Math.cos(w * t) + free(rates, -b, -a * w, t)
}

describe.each(CASES)('a spring that %s', (_, rates) => {
  test('let go is where the closed form has it, in short steps and in long ones', () => {
    for (const h of [STEP, 0.1]) {
      const { xs } = stepped(rates, h, [1, -2], () => 0, Math.round(2 / h))
      xs.forEach((x, k) => expect(x).toBeCloseTo(free(rates, 1, -2, k * h), 6))
    }
  })

  test('answers to a step of force, and to a ramp, as the closed forms say', () => {
    const step = stepped(rates, STEP, [0, 0], () => rates.stiffness, 480).xs
    step.forEach((x, k) => expect(x).toBeCloseTo(1 + free(rates, -1, 0, k * STEP), 6))
    const ramp = stepped(rates, STEP, [0, 0], (t) => rates.stiffness * t, 480).xs
    const lag = (2 * rates.decay) / rates.stiffness
    ramp.forEach((x, k) => expect(x).toBeCloseTo(k * STEP - lag + free(rates, lag, -1, k * STEP), 6))
  })

  test('answers to a sine as the closed form says, the nearer the shorter the steps are', () => {
    const off = (h: number): number =>
      Math.max(
        ...stepped(rates, h, [0, 0], (t) => Math.sin(7 * t), Math.round(2 / h)).xs.map((x, k) => Math.abs(x - underSine(rates, 7, k * h))),
      )
    expect(off(STEP)).toBeLessThan(2e-5)
    expect(off(STEP / 8)).toBeLessThan(1e-6)
    // The force between two steps is a straight line: of second order.
    expect(off(STEP) / off(STEP / 2)).toBeGreaterThan(3.5)
  })

  test('gains no energy without a force', () => {
    const { energies } = stepped(rates, STEP, [1, 5], () => 0, 2000)
    energies.slice(1).forEach((e, k) => expect(e).toBeLessThanOrEqual(energies[k]! * (1 + 1e-12)))
  })
})

describe('any spring', () => {
  test('stays a number and keeps within what its drive gives, whatever is set', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0.02, max: 60, noNaN: true }),
        fc.nat(),
        (tempo, settle, seed) => {
          const rates = ratesOf(tempo, settle)
          // 10,000 degrees a second, turning round at will.
          const kick = (t: number): number => 10_000 * rates.decay * Math.sign(Math.sin(1e3 * t + seed))
          const { xs } = stepped(rates, STEP, [0, 0], kick, 1200)
          expect(xs.reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeLessThan((10_000 * 60 * rates.decay) / rates.stiffness + 1)
        },
      ),
      { numRuns: often(300, 10_000) },
    )
  })

  test('has 2% of its swing left when it is to be settled, and swings as often as was said', () => {
    for (const [tempo, settle] of [
      [2, 1.2],
      [6, 0.4],
      [0.7, 5],
    ] as const) {
      const rates = ratesOf(tempo, settle)
      const { xs } = stepped(rates, STEP, [1, -rates.decay], () => 0, Math.ceil(settle / STEP) + 240)
      // Let go with that speed it is a damped cosine.
      xs.forEach((x, k) => expect(x).toBeCloseTo(Math.exp(-rates.decay * k * STEP) * Math.cos(2 * Math.PI * tempo * k * STEP), 6))
      expect(Math.exp(-rates.decay * settle)).toBeCloseTo(0.02, 12)
    }
  })

  test('does not drift in a day', () => {
    const rates = ratesOf(1.5, 2)
    const m = new Float64Array(STEP_SIZE)
    writeStep(rates, STEP, m)
    let [x, v] = [0, 0]
    const hours = 24 * 3600 * 240
    for (let k = 0; k < hours; k++) {
      const f = k < 480 ? 50 : 10
      const next = m[0]! * x + m[1]! * v + (m[2]! + m[3]!) * f
      v = m[4]! * x + m[5]! * v + (m[6]! + m[7]!) * f
      x = next
    }
    expect(x).toBeCloseTo(10 / rates.stiffness, 12)
    expect(v).toBeCloseTo(0, 12)
  })
})
