import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Affine } from '../../kernel/numbers'
import { apply, determinant, IDENTITY, invert, keepsAngles, multiply, placementMatrix, placementOf, turnAbout } from './affine'

const coordinate = fc.double({ min: -500, max: 500, noNaN: true })
const entry = fc.double({ min: -4, max: 4, noNaN: true })
const affine = fc
  .tuple(entry, entry, entry, entry, coordinate, coordinate)
  .map((m) => m as Affine)
  .filter((m) => Math.abs(determinant(m)) > 0.01)

describe('affine maps', () => {
  test('a quarter turn is counter-clockwise on screen, where y points down', () => {
    const p = apply(turnAbout(90, { x: 0, y: 0 }), { x: 1, y: 0 })
    expect(p.x).toBeCloseTo(0)
    expect(p.y).toBeCloseTo(-1)
  })

  test('a turn leaves its centre where it is', () => {
    const p = apply(turnAbout(33, { x: 12, y: -7 }), { x: 12, y: -7 })
    expect(p.x).toBeCloseTo(12)
    expect(p.y).toBeCloseTo(-7)
  })

  test('the inverse undoes the map', () => {
    fc.assert(
      fc.property(affine, coordinate, coordinate, (m, x, y) => {
        const p = apply(multiply(invert(m)!, m), { x, y })
        expect(p.x).toBeCloseTo(x, 5)
        expect(p.y).toBeCloseTo(y, 5)
      }),
    )
  })

  test('a map that flattens the plane has no inverse', () => {
    expect(invert([1, 2, 2, 4, 0, 0])).toBeNull()
  })

  test('every invertible map, mirrored ones included, is the map of its placement about any pivot', () => {
    fc.assert(
      fc.property(affine, coordinate, coordinate, (m, x, y) => {
        const pivot = { x, y }
        const again = placementMatrix(placementOf(m, pivot), pivot)
        again.forEach((v, i) => expect(v).toBeCloseTo(m[i]!, 5))
      }),
    )
  })

  test('a flattened map keeps its x axis as a placement', () => {
    const again = placementMatrix(placementOf([2, 0, 0, 0, 5, 6], { x: 0, y: 0 }), { x: 0, y: 0 })
    expect(again).toEqual([2, expect.closeTo(0), expect.closeTo(0), expect.closeTo(0), 5, 6])
  })

  test('turns, mirrors and even scales keep angles; skews do not', () => {
    expect(keepsAngles(IDENTITY)).toBe(true)
    expect(keepsAngles([-3, 0, 0, 3, 0, 0])).toBe(true)
    expect(keepsAngles(turnAbout(40, { x: 3, y: 4 }))).toBe(true)
    expect(keepsAngles([1, 0, 0.2, 1, 0, 0])).toBe(false)
    expect(keepsAngles([2, 0, 0, 1, 0, 0])).toBe(false)
  })
})
