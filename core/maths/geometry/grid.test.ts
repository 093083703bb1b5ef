import { expect, test } from 'vitest'
import { componentsOf } from './components'
import { wavesFrom } from './flood'

test('components hang together over corners, and are apart otherwise', () => {
  const mask = Uint8Array.from({ length: 100 }, (_, i) => {
    const [x, y] = [i % 10, Math.floor(i / 10)]
    return (x === y && x < 4) || (x > 6 && y < 2) ? 1 : 0
  })
  const found = componentsOf(mask, 10, 10)
  expect(found.map((h) => h.pixels.length)).toEqual([4, 6])
  expect(found[1]!).toMatchObject({ minX: 7, minY: 0, maxX: 9, maxY: 1 })
})

test('waves come to each cell once, with the fewest steps, and not through what is refused', () => {
  // A wall at x = 2 with a gap at the bottom.
  const steps = new Int32Array(25).fill(-1)
  steps[0] = 0
  wavesFrom([0], 5, 5, (n, from, step) => {
    if (steps[n]! >= 0 || (n % 5 === 2 && n < 20)) return false
    expect(steps[n - 1 === from || n + 1 === from || n - 5 === from || n + 5 === from ? from : -1]).toBe(step - 1)
    steps[n] = step
    return true
  })
  expect([...steps.slice(20)]).toEqual([4, 5, 6, 7, 8])
  expect(steps[4]).toBe(12)
  expect(steps[2]).toBe(-1)
})
