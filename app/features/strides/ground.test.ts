/** What is drawn becomes a ground to walk on, and tempos fit loops. */
import { expect, test } from 'vitest'
import { groundOf, onwards } from './groundTool'
import { tempoForLoop } from './walking'

test('a ground goes from the left to the right, whichever way it was drawn; where the hand went back the later stroke counts', () => {
  const hill = [
    { x: 0, y: 10 },
    { x: 20, y: 5 },
    { x: 40, y: 12 },
  ]
  expect(groundOf(hill)).toEqual(hill)
  expect(groundOf([...hill].reverse())).toEqual(hill)
  expect(onwards(hill, { x: 30, y: 0 })).toEqual([...hill.slice(0, 2), { x: 30, y: 0 }])
  expect(groundOf([...hill, { x: 30, y: 1 }, { x: 50, y: 2 }]).map(({ x }) => x)).toEqual([0, 20, 30, 50])
  expect(groundOf([])).toEqual([])
})

test('a long line has no more spots than it needs', () => {
  const long = Array.from({ length: 5000 }, (_, x) => ({ x, y: 0 }))
  const ground = groundOf(long)
  expect(ground.length).toBeLessThanOrEqual(402)
  expect(ground[ground.length - 1]).toEqual({ x: 4999, y: 0 })
})

test('whole strides fill a loop', () => {
  expect(tempoForLoop(0.95, 4)).toBe(1)
  expect(tempoForLoop(0.1, 2)).toBe(0.5)
})
