import { describe, expect, test } from 'vitest'
import type { Drawing, Path, Shape } from './records'
import { polygonPath } from '../maths/geometry/path'
import { cutStretch, stretchAt, stretchPath } from './outlineStretch'

const paint = { kind: 'flat' as const, colour: '#221a18' }
const line = { paint, alpha: 1, width: 2, cap: 'butt' as const, join: 'miter' as const, miter: 4, dash: null, pen: null }
const tidy = (p: Path): number[] => p.anchors.map((v) => Math.round(v * 1e6) / 1e6 || 0)
const open = (...anchors: number[]): Path => ({ ...polygonPath(anchors), closed: false })
const shape = (id: number, paths: Path[], more: Partial<Shape> = {}): Shape => ({
  id,
  paths,
  ink: null,
  line,
  alpha: 1,
  lineFirst: false,
  ...more,
})

describe('a stretch of an outline', () => {
  const cross: Drawing = {
    id: 'd',
    shapes: [shape(0, [open(0, 50, 100, 50)]), shape(1, [open(30, 0, 30, 100)]), shape(2, [open(70, 0, 70, 100)])],
  }

  test('reaches up to the crossings on both sides', () => {
    const found = stretchAt(cross, 50, 52, 5)!
    expect(found).toMatchObject({ shape: 0, path: 0 })
    expect(tidy(stretchPath(cross, found))).toEqual([30, 50, 70, 50])
    expect(tidy(stretchPath(cross, stretchAt(cross, 90, 51, 5)!))).toEqual([70, 50, 100, 50])
    expect(stretchAt(cross, 50, 80, 5)).toBeNull()
  })

  test('is cut out and leaves the rest of the line', () => {
    const { inside, outside } = cutStretch(cross, stretchAt(cross, 50, 52, 5)!)
    expect(inside).toHaveLength(1)
    expect(outside[0]!.paths.map(tidy)).toEqual([
      [0, 50, 30, 50],
      [70, 50, 100, 50],
    ])
    expect(outside.slice(1)).toEqual(cross.shapes.slice(1))
  })

  test('of a closed outline it may run over the beginning; the ink stays', () => {
    const ink = { paint, alpha: 1, rule: 'nonzero' as const }
    const box: Drawing = {
      id: 'd',
      shapes: [shape(0, [polygonPath([0, 0, 40, 0, 40, 40, 0, 40])], { ink }), shape(1, [open(20, -10, 20, 50)])],
    }
    const found = stretchAt(box, 1, 20, 3)!
    expect(tidy(stretchPath(box, found))).toEqual([20, 40, 0, 40, 0, 0, 20, 0])
    const { outside } = cutStretch(box, found)
    expect(outside[0]).toMatchObject({ ink, line: null, paths: [{ closed: true }] })
    expect(tidy(outside[1]!.paths[0]!)).toEqual([20, 0, 40, 0, 40, 40, 20, 40])
  })
})
