import { describe, expect, test } from 'vitest'
import type { Drawing, Path } from '../records'
import { areaOf, areaTest } from '../../maths/geometry/booleans'
import { drawnForm } from './drawnForm'

const line = {
  paint: { kind: 'flat' as const, colour: '#221a18' },
  alpha: 1,
  width: 10,
  cap: 'butt' as const,
  join: 'miter' as const,
  miter: 4,
  dash: null,
  pen: null,
}
const path = (closed: boolean, anchors: number[], more: Partial<Path> = {}): Path => ({
  closed,
  ids: anchors.slice(anchors.length / 2).map((_, i) => i),
  anchors,
  handles: new Array<number>(2 * anchors.length).fill(0),
  ...more,
})
const drawing = (p: Path): Drawing => ({ id: 'd', shapes: [{ id: 0, paths: [p], ink: null, line, alpha: 1, lineFirst: false }] })
const filled = (p: Path) => ({ paths: drawnForm(drawing(p)).shapes.flatMap((s) => s.paths), rule: 'nonzero' as const })

describe('lines of changing thickness', () => {
  test('become one filled outline, tapered and round', () => {
    const taper = filled(path(false, [0, 0, 100, 0], { widths: [0, 1] }))
    expect(areaOf(taper)).toBeCloseTo(500 + (Math.PI * 25) / 2, -0.5)
    const isIn = areaTest(taper)
    expect([isIn(99, 4), isIn(20, 4), isIn(104, 0), isIn(106, 0)]).toEqual([true, false, true, false])
  })

  test('joins are round, and a closed line leaves its middle open', () => {
    const isIn = areaTest(filled(path(false, [0, 0, 100, 0, 100, 100], { widths: [1, 1, 1] })))
    expect([isIn(103, -3), isIn(104.5, -4.5), isIn(50, 50)]).toEqual([true, false, false])
    const ring = areaTest(filled(path(true, [0, 0, 100, 0, 100, 100, 0, 100], { widths: [1, 1, 1, 1] })))
    expect([ring(50, 50), ring(50, 3), ring(50, -3), ring(50, -7)]).toEqual([false, true, true, false])
  })

  test('a drawing without them stays the same object', () => {
    const plain = drawing(path(false, [0, 0, 100, 0]))
    expect(drawnForm(plain)).toBe(plain)
    const special = drawing(path(false, [0, 0, 100, 0], { widths: [0, 1] }))
    expect(drawnForm(special)).toBe(drawnForm(special))
  })
})

describe('hidden stretches', () => {
  test('leave open lines; the ink stays whole', () => {
    const square = path(true, [0, 0, 10, 0, 10, 10, 0, 10], { hidden: [1] })
    const source = drawing(square)
    const ink = { paint: line.paint, alpha: 1, rule: 'nonzero' as const }
    const [inked, lined] = drawnForm({ ...source, shapes: [{ ...source.shapes[0]!, ink }] }).shapes
    expect(inked).toMatchObject({ line: null, paths: [{ closed: true }] })
    expect(lined!.paths).toMatchObject([{ closed: false, anchors: [10, 10, 0, 10, 0, 0, 10, 0] }])
  })
})
