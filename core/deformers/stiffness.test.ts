import { describe, expect, test } from 'vitest'
import { dabStiffness, type StiffnessMode } from './stiffness'

const places = [0, 0, 10, 0, 30, 0]
const dab = (stiffness: Float64Array, mode: StiffnessMode, strength = 1) =>
  dabStiffness(stiffness, places, 0, 0, { mode, radius: 20, strength })

describe('painting stiffness', () => {
  test('doubles in the middle, fades to the rim and leaves what is beyond', () => {
    const stiffness = Float64Array.of(1, 1, 1)
    expect(dab(stiffness, 'stiffer')).toBe(true)
    expect(stiffness[0]).toBeCloseTo(2, 12)
    expect(stiffness[1]).toBeCloseTo(Math.SQRT2, 12)
    expect(stiffness[2]).toBe(1)
  })

  test('softer undoes stiffer, even brings back to one, bounds hold', () => {
    const stiffness = Float64Array.of(1, 1, 1)
    dab(stiffness, 'stiffer')
    dab(stiffness, 'softer')
    expect(stiffness[0]).toBeCloseTo(1, 12)
    for (let i = 0; i < 50; i++) dab(stiffness, 'softer')
    expect(stiffness[0]).toBe(0.05)
    dab(stiffness, 'even')
    expect(stiffness[0]).toBeCloseTo(1, 12)
  })
})
