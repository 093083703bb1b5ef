import { describe, expect, test } from 'vitest'
import { box } from '../../test/puppets'
import { pathBounds } from './bounds'
import { flatten, mapPath } from './path'

/** A circle of radius 50 about the origin, in four cubics. */
const k = 50 * 0.5522847498
const circle = {
  closed: true,
  ids: [0, 1, 2, 3],
  anchors: [50, 0, 0, 50, -50, 0, 0, -50],
  handles: [0, -k, 0, k, k, 0, -k, 0, 0, k, 0, -k, -k, 0, k, 0],
}

describe('cubic paths', () => {
  test('bounds are those of the curve, not of its handles', () => {
    const b = pathBounds({ closed: false, ids: [0, 1], anchors: [0, 0, 100, 0], handles: [0, 0, 0, -80, 0, -80, 0, 0] })
    expect(b.minY).toBeCloseTo(-60)
    expect(b.maxY).toBe(0)
    expect(pathBounds(circle)).toEqual({ minX: -50, minY: -50, maxX: 50, maxY: 50 })
  })

  test('flattening stays within its tolerance', () => {
    const points = flatten(circle, 0.1)
    for (let i = 0; i < points.length; i += 2) {
      const j = (i + 2) % points.length
      const middle = Math.hypot((points[i]! + points[j]!) / 2, (points[i + 1]! + points[j + 1]!) / 2)
      expect(Math.abs(middle - 50)).toBeLessThan(0.12)
    }
  })

  test('a straight edge is flattened to its ends', () => {
    expect(flatten(box('d', 0, 0, 10, 20).shapes[0]!.paths[0]!, 0.25)).toEqual([0, 0, 10, 0, 10, 20, 0, 20])
  })

  test('mapping moves anchors and turns handles, and keeps ids', () => {
    const moved = mapPath(circle, [0, 1, -1, 0, 10, 20])
    expect(moved.ids).toEqual(circle.ids)
    expect(moved.anchors.slice(0, 2)).toEqual([10, 70])
    expect(moved.handles.slice(2, 4)).toEqual([-k, 0])
  })
})
