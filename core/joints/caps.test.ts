import { describe, expect, test } from 'vitest'
import type { Drawing, Path, Shape } from '../artwork/records'
import { areaOf, areaTest, combine } from '../maths/geometry/booleans'
import { flatten, polygonPath } from '../maths/geometry/path'
import { dense } from '../maths/geometry/polyline'
import { capsule } from '../test/capsule'
import { jointRadius, roomAt, thicknessAt } from '../maths/geometry/breadth'
import { capDrawing, isOutline, outlineWidth } from './caps'
import { circlePath } from '../maths/geometry/disc'
import { proposeDisc } from './proposeDisc'

const flat = (colour: string) => ({ kind: 'flat' as const, colour })
const ink = { paint: flat('#cc8844'), alpha: 1, rule: 'nonzero' as const }
const line = { paint: flat('#221a18'), alpha: 1, width: 4, cap: 'butt' as const, join: 'miter' as const, miter: 4, dash: null, pen: null }
const shape = (id: number, paths: Path[], more: Partial<Shape>): Shape => ({
  id,
  paths,
  ink: null,
  line: null,
  alpha: 1,
  lineFirst: false,
  ...more,
})
const open = (...anchors: number[]): Path => ({ ...polygonPath(anchors), closed: false })

/** The left half of a limb of 40 px that ends at x = 100, cut open: ink and outline apart, with a wrinkle and a patch. */
const half = (): Drawing => ({
  id: 'half',
  shapes: [
    shape(0, [polygonPath([0, 80, 100, 80, 100, 120, 0, 120])], { ink }),
    shape(1, [open(100, 120, 0, 120, 0, 80, 100, 80)], { line }),
    shape(2, [open(84, 92, 90, 108)], { line: { ...line, width: 2 } }),
    shape(3, [polygonPath([20, 90, 30, 90, 30, 100])], { ink: { ...ink, paint: flat('#aa3322') } }),
  ],
})
const DISC = { centre: { x: 100, y: 100 }, radius: 20 }
const inked = (shapes: readonly Shape[]) => ({ paths: shapes.find((s) => s.id === 0)!.paths, rule: 'nonzero' as const })

describe('round ends of drawings', () => {
  test('the lower piece covers its disc and has a line along it, of the same style', () => {
    const shapes = capDrawing(half(), DISC, 'under', 4)!
    expect(areaOf(inked(shapes))).toBeCloseTo(4000 + (Math.PI * 400) / 2, -0.5)
    const outline = shapes.filter((s) => s.line?.width === 4)
    const spots = outline.flatMap((s) => s.paths.flatMap((p) => flatten(p, 0.1)))
    expect(Math.max(...spots.filter((_, i) => i % 2 === 0))).toBeCloseTo(120, 0)
    expect(outline.every((s) => s.line!.cap === 'round')).toBe(true)
    expect(shapes.map((s) => s.id).sort()).toEqual([0, 1, 2, 3])
  })

  test('the upper piece gets colour alone, half a line narrower', () => {
    const shapes = capDrawing(half(), DISC, 'over', 4)!
    const added = combine(inked(shapes), { paths: half().shapes[0]!.paths, rule: 'nonzero' }, 'subtract')
    expect(areaOf({ paths: added, rule: 'nonzero' })).toBeCloseTo((Math.PI * 18 ** 2) / 2, -0.5)
    const reach = Math.max(...shapes.filter((s) => s.line).flatMap((s) => s.paths.flatMap((p) => p.anchors.filter((_, i) => i % 2 === 0))))
    expect(reach).toBeLessThanOrEqual(100.01)
  })

  test('what is no outline stays: wrinkles, patches', () => {
    for (const layering of ['under', 'over'] as const) {
      const shapes = capDrawing(half(), DISC, layering, 4)!
      expect(shapes.filter((s) => s.id > 1)).toEqual(half().shapes.slice(2))
    }
    expect([0, 1, 2].map((i) => isOutline(half(), half().shapes[i]!))).toEqual([false, true, false])
    expect(outlineWidth(half(), DISC)).toBe(4)
  })

  test('an outline that ran through the disc is taken out of it', () => {
    const whole: Drawing = { id: 'w', shapes: [shape(0, [polygonPath([0, 80, 100, 80, 100, 120, 0, 120])], { ink, line })] }
    const inside = areaTest({ paths: [circlePath({ ...DISC, radius: 15 })], rule: 'nonzero' })
    for (const layering of ['under', 'over'] as const)
      for (const s of capDrawing(whole, DISC, layering, 4)!.filter((one) => one.line))
        for (const path of s.paths) {
          const points = flatten(path, 0.1)
          for (let i = 0; i < points.length; i += 2) expect(inside(points[i]!, points[i + 1]!)).toBe(false)
        }
  })

  test('nothing ends in a disc far away', () => {
    expect(capDrawing(half(), { centre: { x: 400, y: 400 }, radius: 20 }, 'under', 4)).toBeNull()
  })
})

describe('limbs that were drawn round', () => {
  const elbow = { centre: { x: 100, y: 100 }, radius: 24 }
  const upper = capsule('upper', { x: 20, y: 100 }, elbow.centre, 24)
  const fore = capsule('fore', elbow.centre, { x: 180, y: 100 }, 24)
  const everyLine = (shapes: readonly Shape[]): number[] =>
    shapes.filter((s) => s.line).flatMap((s) => s.paths.flatMap((p) => dense(flatten(p, 0.1), 1)))

  test('the lower piece stays as it is', () => {
    expect(capDrawing(upper, elbow, 'under', 4)).toEqual(upper.shapes)
  })

  test('the outline of the upper one ends at the joint, and its colour leaves room for the line below', () => {
    const shapes = capDrawing(fore, elbow, 'over', 4)!
    const line = everyLine(shapes)
    expect(Math.min(...line.filter((_, i) => i % 2 === 0))).toBeGreaterThan(99)
    expect(Math.max(...line.filter((_, i) => i % 2 === 0))).toBeCloseTo(204, 0)
    const beside = combine(inked(shapes), { paths: [circlePath({ ...elbow, radius: 30 })], rule: 'nonzero' }, 'intersect')
    expect(Math.min(...beside.flatMap((p) => flatten(p, 0.1).filter((_, i) => i % 2 === 0)))).toBeCloseTo(100 - 22, 0)
  })

  test('what stands out beyond the pivot is rounded about it', () => {
    const long = capsule('long', { x: 20, y: 100 }, { x: 112, y: 100 }, 24)
    for (const layering of ['under', 'over'] as const) {
      const shapes = capDrawing(long, elbow, layering, 4)!
      const ink = inked(shapes).paths.flatMap((p) => flatten(p, 0.1))
      expect(Math.max(...ink.filter((_, i) => i % 2 === 0))).toBeCloseTo(layering === 'under' ? 124 : 122, 0)
    }
  })

  test('a torso goes on beyond a shoulder', () => {
    const torso: Drawing = { id: 't', shapes: [shape(0, [polygonPath([60, 60, 300, 60, 300, 400, 60, 400])], { ink, line })] }
    const shapes = capDrawing(torso, elbow, 'under', 4)!
    expect(areaOf(inked(shapes))).toBeCloseTo(240 * 340, -1)
  })

  test('their thickness is half their breadth, at the end and along them, and there is no more room than that', () => {
    const rims = (d: Drawing): number[][] => d.shapes.flatMap((s) => s.paths.map((p) => flatten(p, 0.1)))
    for (const x of [100, 118, 60, 40]) expect(thicknessAt(rims(upper), { x, y: 100 })).toBeCloseTo(24, 0)
    expect(roomAt([rims(upper), rims(fore)], { x: 100, y: 106 })).toBeCloseTo(18, 0)
    expect(jointRadius(rims(upper), rims(fore), elbow.centre)).toBeCloseTo(24, 0)
    // Drawn bent: what both show together is broader there than either.
    const bent = capsule('bent', elbow.centre, { x: 100, y: 200 }, 24)
    expect(jointRadius(rims(upper), rims(bent), { x: 96, y: 104 })).toBeLessThan(24.5)
    expect(jointRadius(rims(upper), rims(fore), { x: 900, y: 900 })).toBe(0)
  })
})

describe('proposing a disc', () => {
  test('in the middle of an overlap, and along an open gap', () => {
    const left = [[0, 80, 110, 80, 110, 120, 0, 120]]
    const disc = proposeDisc(left, [[90, 80, 200, 80, 200, 120, 90, 120]])!
    expect([disc.centre.x, disc.centre.y].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([100, 100])
    expect(disc.radius).toBeCloseTo(20, 6)
    const apart = proposeDisc(left, [[113, 80, 200, 80, 200, 120, 113, 120]])!
    expect(apart.centre.y).toBeCloseTo(100)
    expect(Math.abs(apart.radius - 20)).toBeLessThan(1)
    expect(proposeDisc([], left)).toBeNull()
  })
})
