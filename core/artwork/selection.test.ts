import { describe, expect, test } from 'vitest'
import { areaOf, type Area } from '../maths/geometry/booleans'
import { newRaster } from '../maths/geometry/raster'
import { seededRandom } from '../maths/solve/random'
import { floodSelect } from './floodSelect'
import { offsetSelection, selectLoop } from './selection'

const square = (x: number, y: number, side: number): number[] => [x, y, x + side, y, x + side, y + side, x, y + side]

describe('selections', () => {
  const first = selectLoop(null, square(0, 0, 10), 'new')
  test('loops add, subtract and intersect', () => {
    expect(areaOf(first!)).toBeCloseTo(100)
    expect(areaOf(selectLoop(first, square(5, 0, 10), 'add')!)).toBeCloseTo(150)
    expect(areaOf(selectLoop(first, square(5, 0, 10), 'subtract')!)).toBeCloseTo(50)
    expect(areaOf(selectLoop(first, square(5, 5, 10), 'intersect')!)).toBeCloseTo(25)
    expect(selectLoop(first, square(50, 5, 10), 'intersect')).toBeNull()
    expect(selectLoop(null, square(0, 0, 10), 'subtract')).toBeNull()
  })

  test('they grow with round corners, shrink, and vanish', () => {
    expect(areaOf(offsetSelection(first!, 2)!)).toBeCloseTo(100 + 80 + Math.PI * 4, -0.5)
    expect(areaOf(offsetSelection(first!, -2)!)).toBeCloseTo(36)
    expect(offsetSelection(first!, -6)).toBeNull()
    const ring: Area = selectLoop(first, square(3, 3, 4), 'subtract')!
    expect(areaOf(offsetSelection(ring, 1)!)).toBeCloseTo(84 + 40 + Math.PI + 12, 0)
  })
})

describe('any lasso', () => {
  test('grows to hold what it held, and shrinks into itself', () => {
    const random = seededRandom(5)
    for (let round = 0; round < 60; round++) {
      const loop = Array.from({ length: 2 * (3 + Math.floor(9 * random())) }, () => 200 * random())
      const area = selectLoop(null, loop, 'new')
      if (!area) continue
      const size = areaOf(area)
      const [grown, shrunk] = [offsetSelection(area, 1), offsetSelection(area, -1)]
      expect(areaOf(grown!), `round ${round}`).toBeGreaterThan(size)
      expect(shrunk ? areaOf(shrunk) : 0, `round ${round}`).toBeLessThan(size)
    }
  })
})

describe('areas of one colour', () => {
  const picture = newRaster(40, 40)
  for (let y = 0; y < 40; y++)
    for (let x = 0; x < 40; x++) {
      // A dark ring with a gap of two pixels at the right.
      const r = Math.hypot(x - 19.5, y - 19.5)
      const isLine = r > 12 && r < 15 && !(x > 19 && Math.abs(y - 19.5) < 1)
      picture.data.set(isLine ? [20, 20, 20, 255] : [230, 200, 150, 255], 4 * (y * 40 + x))
    }
  test('end at other colours; small gaps are closed when asked', () => {
    const leaking = areaOf(floodSelect(picture, 20, 20, { tolerance: 20, gap: 0 })!)
    expect(leaking).toBeGreaterThan(1000)
    const closed = areaOf(floodSelect(picture, 20, 20, { tolerance: 20, gap: 4 })!)
    expect(Math.abs(closed - Math.PI * 144)).toBeLessThan(45)
    expect(floodSelect(picture, -3, 20, { tolerance: 20, gap: 0 })).toBeNull()
  })
})
