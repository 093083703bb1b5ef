import { describe, expect, test } from 'vitest'
import type { Area } from '../maths/geometry/booleans'
import { polygonPath } from '../maths/geometry/path'
import { coverageOf } from '../maths/geometry/coverage'
import { newRaster, padded, type Raster } from '../maths/geometry/raster'
import { cutRaster } from './cutPicture'
import { fillHole } from './filling/fill'

const polygon = (...points: number[]): Area => ({ paths: [polygonPath(points)], rule: 'nonzero' })
const paint = (width: number, height: number, colour: (x: number, y: number) => readonly number[]): Raster => {
  const out = newRaster(width, height)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out.data.set(colour(x, y), 4 * (y * width + x))
  return out
}
const at = (r: Raster, x: number, y: number): number[] => [...r.data.slice(4 * (y * r.width + x), 4 * (y * r.width + x) + 4)]

describe('coverage of an area', () => {
  test('is exact in each pixel', () => {
    const half = coverageOf(polygon(1.5, 0, 4, 0, 4, 2, 1.5, 2), 6, 3)
    expect([...half]).toEqual([0, 0.5, 1, 1, 0, 0, 0, 0.5, 1, 1, 0, 0, 0, 0, 0, 0, 0, 0])
    const slope = coverageOf(polygon(0, 0, 4, 2, 0, 2), 4, 2)
    expect([...slope].map((v) => Math.round(1e4 * v) / 1e4)).toEqual([0.75, 0.25, 0, 0, 1, 1, 0.75, 0.25])
  })

  test('what crosses itself or leaves the grid is counted once', () => {
    const total = (a: Area): number => coverageOf(a, 20, 20).reduce((x, y) => x + y)
    expect(total(polygon(2, 2, 10, 2, 10, 10, 2, 10))).toBeCloseTo(64, 3)
    expect(total(polygon(-5, 2, 25, 2, 25, 6, -5, 6))).toBeCloseTo(80, 3)
    expect(total(polygon(-6, 0, 6, 12, -6, 12))).toBeCloseTo(18, 3)
    expect(total(polygon(2, 2, 10, 10, 10, 2, 2, 10))).toBeCloseTo(32, 3)
  })
})

describe('cutting a picture', () => {
  const source = paint(40, 40, (x, y) => [10 * (x % 20), 5 * y, 90, x > 4 && x < 36 ? 255 : 0])
  const { inside, outside } = cutRaster(source, polygon(7.3, -4, 30.1, 11.7, 18.6, 50, 3, 20.2))

  test('laid over each other the pieces give the source again', () => {
    for (let i = 0; i < 1600; i++) {
      const [a, b] = [inside.data[4 * i + 3]! / 255, outside.data[4 * i + 3]! / 255]
      expect(Math.abs(a + (1 - a) * b - source.data[4 * i + 3]! / 255), `pixel ${i}`).toBeLessThan(0.005)
    }
  })

  test('edges are smooth and carry no colour but their own', () => {
    const soft = (r: Raster): number => r.data.filter((v, k) => k % 4 === 3 && v > 0 && v < 255).length
    expect(soft(inside)).toBeGreaterThan(40)
    expect(soft(outside)).toBeGreaterThan(40)
    for (const piece of [inside, outside])
      for (let i = 0; i < 1600; i++)
        if (piece.data[4 * i + 3]! > 0) expect([...piece.data.slice(4 * i, 4 * i + 3)]).toEqual([...source.data.slice(4 * i, 4 * i + 3)])
  })

  test('room is added and taken away', () => {
    const wide = padded(source, 3, 2, 5, 1)
    expect([wide.width, wide.height, at(wide, 3 + 10, 2 + 7)]).toEqual([48, 43, at(source, 10, 7)])
    expect(padded(wide, -3, -2, -5, -1)).toEqual(source)
  })
})

describe('filling a hole', () => {
  const hole = (width: number, height: number, inHole: (x: number, y: number) => boolean): Uint8Array =>
    Uint8Array.from({ length: width * height }, (_, i) => (inHole(i % width, Math.floor(i / width)) ? 1 : 0))

  test('colour and the direction of lines go on inward, sharp', () => {
    const stripe = (x: number, y: number): number[] => (Math.abs(x - y) < 4 ? [20, 20, 30, 255] : [220, 160, 90, 255])
    const source = paint(80, 80, stripe)
    const gap = hole(80, 80, (x, y) => Math.hypot(x - 40, y - 40) < 14)
    const filled = fillHole(source, gap)
    let off = 0
    gap.forEach((isHole, i) => {
      if (isHole && Math.abs(filled.data[4 * i]! - stripe(i % 80, Math.floor(i / 80))[0]!) > 40) off++
    })
    // A pixel or so to either side of the line, no smear: every colour is one of the two.
    expect(off / gap.reduce((a, b) => a + b, 0)).toBeLessThan(0.06)
    const colours = new Set<number>()
    for (let i = 0; i < 6400; i++) colours.add(filled.data[4 * i]!)
    expect([...colours].sort((a, b) => a - b)).toEqual([20, 220])
  })

  test('a hole at the edge of what is opaque is filled from the opaque side', () => {
    const source = paint(60, 60, (x) => (x < 30 ? [200, 40, 30, 255] : [0, 0, 0, 0]))
    const gap = hole(60, 60, (x, y) => x >= 30 && Math.hypot(x - 30, y - 30) < 12)
    const filled = fillHole(source, gap)
    gap.forEach((isHole, i) => {
      if (isHole) expect([...filled.data.slice(4 * i, 4 * i + 4)]).toEqual([200, 40, 30, 255])
    })
  })

  test('a hole in nothing stays', () => {
    const source = newRaster(20, 20)
    expect(
      fillHole(
        source,
        hole(20, 20, (x) => x > 4 && x < 9),
      ),
    ).toEqual(source)
  })
})
