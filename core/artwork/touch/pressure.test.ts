import { describe, expect, test } from 'vitest'
import { pathLength } from '../../maths/geometry/pathCut'
import { fitPath } from './fitCurve'
import { pressedPath } from './pressure'

const counter = (from: number) => () => from++

/** A line of 101 spots from the pressure at each share of it. */
function drawn(pressure: (along: number) => number, spot = (s: number) => [200 * s, 0]) {
  const shares = Array.from({ length: 101 }, (_, i) => i / 100)
  const line = shares.flatMap(spot)
  const path = fitPath(line, { tolerance: 1, closing: 0, firstId: 0 })!
  return { path, pressed: pressedPath(path, line, shares.map(pressure), counter(100)) }
}

describe('thickness by pressure', () => {
  test('even pressure at half is the thickness as it is set, with no point more', () => {
    const { path, pressed } = drawn(() => 0.5)
    expect(pressed.ids).toEqual(path.ids)
    expect(pressed.widths!.every((w) => Math.abs(w - 1) < 1e-9)).toBe(true)
  })

  test('a line that swells and thins gets points where it does, and lies where it lay', () => {
    const { path, pressed } = drawn((s) => 0.1 + 0.8 * Math.sin(Math.PI * s))
    expect(path.ids).toHaveLength(2)
    expect(pressed.ids.length).toBeGreaterThan(3)
    expect(pressed.ids.length).toBeLessThan(12)
    expect(pathLength(pressed)).toBeCloseTo(pathLength(path), 6)
    pressed.ids.forEach((_, i) => {
      const s = pressed.anchors[2 * i]! / 200
      expect(pressed.anchors[2 * i + 1]).toBeCloseTo(0, 9)
      expect(Math.abs(pressed.widths![i]! - 2 * (0.1 + 0.8 * Math.sin(Math.PI * s)))).toBeLessThan(0.12)
    })
  })

  test('on a bow, thickness between the points is within the tolerance, too', () => {
    const pressure = (s: number) => (s < 0.5 ? 0.2 : 0.8)
    const { path, pressed } = drawn(pressure, (s) => [100 * Math.cos(Math.PI * s), 100 * Math.sin(Math.PI * s)])
    expect(pathLength(pressed) / pathLength(path)).toBeCloseTo(1, 2)
    expect(pressed.widths![0]).toBeCloseTo(0.4, 6)
    expect(pressed.widths!.at(-1)).toBeCloseTo(1.6, 6)
    expect(new Set(pressed.ids).size).toBe(pressed.ids.length)
  })

  test('no pressure at all still leaves a line', () => {
    expect(Math.min(...drawn(() => 0).pressed.widths!)).toBeGreaterThan(0)
  })
})
