import fc from 'fast-check'
import { expect, test } from 'vitest'
import { mirroredLimits } from '../skeleton/commands'
import { isMirrored, type Placed } from './mirrored'

/** A figure whose right side differs from its left one. */
const FIGURE = [
  { x: 50, y: 10 },
  { x: 50, y: 50 },
  { x: 80, y: 40 },
  { x: 90, y: 70 },
  { x: 40, y: 95 },
  { x: 62, y: 95 },
]

test('a turn, a shift and a scale are told from a mirror', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
      fc.double({ min: 0.1, max: 10, noNaN: true }),
      fc.double({ min: -500, max: 500, noNaN: true }),
      fc.boolean(),
      (turn, scale, shift, mirror) => {
        const [c, s] = [scale * Math.cos(turn), scale * Math.sin(turn)]
        const spots = FIGURE.map(({ x, y }): Placed => {
          const u = mirror ? -x : x
          return { figure: { x, y }, at: { x: c * u - s * y + shift, y: s * u + c * y - shift } }
        })
        expect(isMirrored(spots)).toBe(mirror)
      },
    ),
  )
})

test('what lies on one line, or nowhere, is not mirrored', () => {
  expect(isMirrored([])).toBe(false)
  expect(isMirrored(FIGURE.map((p) => ({ figure: { x: 50, y: p.y }, at: { x: 10, y: p.y } })))).toBe(false)
})

test('limits go the other way in the mirror', () => {
  expect(mirroredLimits({ min: -5, max: 140 })).toEqual({ min: -140, max: 5 })
  expect(mirroredLimits({ min: null, max: 0 })).toEqual({ min: 0, max: null })
})
