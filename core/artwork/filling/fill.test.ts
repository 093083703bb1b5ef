import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { newRaster, type Raster } from '../../maths/geometry/raster'
import { fillHole } from './fill'

type Colour = readonly [number, number, number, number]
const NONE: Colour = [0, 0, 0, 0]

function paint(width: number, height: number, colourAt: (x: number, y: number) => Colour): Raster {
  const out = newRaster(width, height)
  for (let i = 0; i < width * height; i++) out.data.set(colourAt(i % width, Math.floor(i / width)), 4 * i)
  return out
}

const holeIn = (width: number, height: number, isIn: (x: number, y: number) => boolean): Uint8Array =>
  Uint8Array.from({ length: width * height }, (_, i) => (isIn(i % width, Math.floor(i / width)) ? 1 : 0))

/** Channels of the filled pixels, from the least to the greatest of each. */
function rangeIn(filled: Raster, hole: Uint8Array): [number, number][] {
  return [0, 1, 2].map((c) => {
    const values = [...hole.keys()].filter((i) => hole[i]).map((i) => filled.data[4 * i + c]!)
    return [Math.min(...values), Math.max(...values)]
  })
}

describe('filling', () => {
  test('takes from the same material, not from what lies next to it', () => {
    // A sleeve with shading that ends in a cuff of another colour, 20 px from a hole in the sleeve.
    const cloth = (y: number): Colour => [40, 110 - y, 90, 255]
    const source = paint(120, 60, (x, y) => (x < 70 ? cloth(y) : [230, 180, 150, 255]))
    const hole = holeIn(120, 60, (x, y) => Math.hypot(x - 35, y - 30) < 14)
    const filled = fillHole(source, hole)
    for (const i of hole.keys()) if (hole[i]) expect(Math.abs(filled.data[4 * i + 1]! - cloth(Math.floor(i / 120))[1])).toBeLessThan(25)
    expect(rangeIn(filled, hole)[0]).toEqual([40, 40])
  })

  test('never shows a colour beyond what is there, whatever the picture', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 3, max: 16 }), (seed, radius) => {
        const noise = (x: number, y: number, c: number): number => 60 + ((seed * (c + 3) + x * x * 7 + y * 13 * (c + 1) + x * y) % 120)
        const source = paint(50, 50, (x, y) => [noise(x, y, 0), noise(x, y, 1), noise(x, y, 2), 255])
        const hole = holeIn(50, 50, (x, y) => Math.hypot(x - 24, y - 26) < radius)
        for (const [least, most] of rangeIn(fillHole(source, hole), hole)) {
          expect(least).toBeGreaterThanOrEqual(60)
          expect(most).toBeLessThan(180)
        }
      }),
      { numRuns: 25 },
    )
  })

  test('leaves no pixel open, beyond a thin rim and far from everything too', () => {
    const source = paint(90, 90, (x) => (x < 30 ? [200, 60, 40, 255] : x === 30 ? [200, 60, 40, 90] : NONE))
    const hole = holeIn(90, 90, (x, y) => (x > 30 && x < 44 && y > 20 && y < 60) || (x > 80 && y > 80))
    const filled = fillHole(source, hole)
    for (const i of hole.keys()) if (hole[i]) expect([...filled.data.slice(4 * i, 4 * i + 4)]).toEqual([200, 60, 40, 255])
  })

  test('goes on where a strip is too narrow for patches', () => {
    const source = paint(60, 20, (x, y) => (y === 9 || y === 10 ? (x < 40 ? [20, 30, 160, 255] : NONE) : NONE))
    const hole = holeIn(60, 20, (x, y) => x >= 40 && (y === 9 || y === 10))
    const filled = fillHole(source, hole)
    for (const i of hole.keys()) if (hole[i]) expect([...filled.data.slice(4 * i, 4 * i + 3)]).toEqual([20, 30, 160])
  })

  test('keeps a pattern going over a hole that is many times as large as a patch', () => {
    const stripe = (x: number, y: number): Colour => (Math.floor((x + y) / 10) % 2 ? [60, 90, 150, 255] : [220, 220, 225, 255])
    const source = paint(160, 160, stripe)
    const hole = holeIn(160, 160, (x, y) => Math.hypot(x - 80, y - 80) < 34)
    const filled = fillHole(source, hole)
    const inHole = [...hole.keys()].filter((i) => hole[i])
    const off = inHole.filter((i) => Math.abs(filled.data[4 * i]! - stripe(i % 160, Math.floor(i / 160))[0]) > 60)
    expect(off.length / inHole.length).toBeLessThan(0.1)
  })

  test('is the same every time, and tells how far it is', () => {
    const source = paint(60, 60, (x, y) => [x * 4, y * 4, 120, 255])
    const hole = holeIn(60, 60, (x, y) => Math.hypot(x - 30, y - 30) < 12)
    const told: number[] = []
    expect(fillHole(source, hole, { progress: (done) => told.push(done) })).toEqual(fillHole(source, hole))
    expect(told.length).toBeGreaterThan(3)
    expect(told.every((v, i) => v >= 0 && v <= 1 && (i === 0 || v >= told[i - 1]!))).toBe(true)
  })
})
