import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { often } from '../test/often'
import { areaOf, combine, type Area } from '../maths/geometry/booleans'
import { flatten, polygonPath } from '../maths/geometry/path'
import { distanceToPolyline } from '../maths/geometry/polyline'
import type { Drawing, Line, Path, Shape } from './records'
import { cutDrawing } from './cutDrawing'

const flat = { kind: 'flat' as const, colour: '#336655' }
const LINE: Line = { paint: flat, alpha: 1, width: 4, cap: 'round', join: 'round', miter: 4, dash: null, pen: null }
const polygon = (points: number[], first = 0): Path => {
  const path = polygonPath(points)
  return { ...path, ids: path.ids.map((id) => first + id) }
}
const shapeOf = (paths: Path[], rule: 'nonzero' | 'evenodd' = 'nonzero', line: Line | null = LINE): Shape => ({
  ...{ id: 0, paths, line, alpha: 1, lineFirst: false },
  ink: { paint: flat, alpha: 1, rule },
})
const drawing = (...shapes: Shape[]): Drawing => ({ id: 'd', shapes: shapes.map((s, id) => ({ ...s, id })) })
const square = (x: number, y: number, side: number): number[] => [x, y, x + side, y, x + side, y + side, x, y + side]
const region = (...points: number[]): Area => ({ paths: [polygon(points)], rule: 'nonzero' })
const inkOf = (shapes: readonly Shape[]): Area => ({ paths: shapes.filter((s) => s.ink).flatMap((s) => s.paths), rule: 'nonzero' })

/** Largest distance from points of one outline to another outline, px. */
function stray(from: readonly Path[], to: readonly Path[]): number {
  const lines = to.map((p) => flatten(p, 0.02))
  let worst = 0
  for (const path of from) {
    const points = flatten(path, 0.05)
    for (let i = 0; i < points.length; i += 2)
      worst = Math.max(worst, Math.min(...lines.map((line) => distanceToPolyline(line, true, points[i]!, points[i + 1]!))))
  }
  return worst
}

/** What an outline looks like once its crossings with itself are resolved. */
const outlineOf = (area: Area): Path[] => combine(area, region(-9e3, -9e3, -9e3 + 1, -9e3, -9e3, -9e3 + 1), 'subtract')

function expectWhole(source: Drawing, area: Area): void {
  const whole: Area = { paths: source.shapes[0]!.paths, rule: source.shapes[0]!.ink!.rule }
  const { inside, outside } = cutDrawing(source, area)
  const [a, b] = [inkOf(inside), inkOf(outside)]
  const size = areaOf(whole)
  expect(Math.abs(areaOf(a) + areaOf(b) - size) / size).toBeLessThan(0.001)
  if (a.paths.length === 0 || b.paths.length === 0) return
  const together = combine(a, b, 'unite')
  expect(Math.abs(areaOf({ paths: together, rule: 'nonzero' }) - size) / size).toBeLessThan(0.001)
  const outline = outlineOf(whole)
  expect(stray(outline, together)).toBeLessThan(0.5)
}

const coordinate = fc.integer({ min: 0, max: 300 })
const pull = fc.integer({ min: -40, max: 40 })
const blob = fc
  .array(fc.record({ radius: fc.integer({ min: 30, max: 100 }), pulls: fc.tuple(pull, pull, pull, pull) }), { minLength: 3, maxLength: 9 })
  .map((corners): Path => {
    const at = corners.map(({ radius }, i) => [
      150 + radius * Math.cos((2 * Math.PI * i) / corners.length),
      150 + radius * Math.sin((2 * Math.PI * i) / corners.length),
    ])
    return { closed: true, ids: corners.map((_, i) => i), anchors: at.flat(), handles: corners.flatMap((c) => c.pulls) }
  })
const lasso = fc.array(fc.tuple(coordinate, coordinate), { minLength: 3, maxLength: 14 }).map((points) => region(...points.flat()))

describe('cutting a drawing', () => {
  test('pieces put back together cover the original, whatever shape and lasso, crossing themselves or not', () => {
    fc.assert(
      fc.property(blob, fc.constantFrom('nonzero' as const, 'evenodd' as const), lasso, (path, rule, area) => {
        fc.pre(areaOf({ paths: [path], rule }) > 50)
        expectWhole(drawing(shapeOf([path], rule)), area)
      }),
      { numRuns: often(25, 200), seed: 11 },
    )
  })

  test('shapes that touch at a point, and areas that run along an edge or through a corner', () => {
    const bow = shapeOf([polygon([50, 50, 100, 100, 150, 50, 150, 150, 100, 100, 50, 150])])
    const two = shapeOf([polygon(square(50, 50, 50)), polygon(square(100, 100, 50), 4)])
    for (const shape of [bow, two]) {
      for (const area of [
        region(...square(75, 0, 200)),
        region(...square(100, 100, 80)),
        region(...square(50, 50, 50)),
        region(100, 100, 200, 40, 200, 160),
        region(0, 0, 200, 200, 0, 200),
      ])
        expectWhole(drawing(shape), area)
    }
  })

  test('the line stays a line: open, with its style, and none along the cut', () => {
    const { inside, outside } = cutDrawing(drawing(shapeOf([polygon(square(0, 0, 100))])), region(...square(-10, -10, 60)))
    for (const shapes of [inside, outside]) {
      expect(shapes.map((s) => [s.ink !== null, s.line?.width ?? 0])).toEqual([
        [true, 0],
        [false, 4],
      ])
      const [line] = shapes[1]!.paths
      expect(line!.closed).toBe(false)
      expect(shapes[1]!.paths).toHaveLength(1)
    }
    const length = (shapes: readonly Shape[]): number =>
      shapes[1]!.paths.reduce((sum, p) => {
        const points = flatten(p, 0.1)
        for (let i = 2; i < points.length; i += 2) sum += Math.hypot(points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!)
        return sum
      }, 0)
    expect(length(inside)).toBeCloseTo(100)
    expect(length(outside)).toBeCloseTo(300)
  })

  test('thickness along a line and hidden stretches go with the pieces', () => {
    const path: Path = { closed: false, ids: [4, 5, 6], anchors: [0, 0, 100, 0, 200, 0], handles: new Array<number>(12).fill(0) }
    const source = drawing({ ...shapeOf([{ ...path, widths: [0, 1, 0], hidden: [5] }]), ink: null })
    const { inside, outside } = cutDrawing(source, region(...square(-50, -50, 100)))
    expect(inside[0]!.paths[0]).toMatchObject({ ids: [4, 7], anchors: [0, 0, 50, 0], widths: [0, 0.5] })
    expect(inside[0]!.paths[0]!.hidden).toBeUndefined()
    expect(outside[0]!.paths[0]).toMatchObject({ anchors: [50, 0, 100, 0, 200, 0], widths: [0.5, 1, 0], hidden: [5] })
  })

  test('what is untouched keeps its ids and numbers; no id is given twice', () => {
    const far = shapeOf([polygon(square(200, 200, 20), 10)])
    const { inside, outside } = cutDrawing(drawing(shapeOf([polygon(square(0, 0, 100))]), far), region(...square(-10, -10, 60)))
    expect(outside).toContainEqual({ ...far, id: 1 })
    const ids = [...inside, ...outside].flatMap((s) => (s.ink ? s.paths.flatMap((p) => p.ids) : []))
    const twice = ids.filter((id, i) => ids.indexOf(id) !== i)
    expect(twice).toEqual([])
    expect(new Set([...inside, ...outside].map((s) => s.id)).size).toBe(inside.length + outside.length)
  })
})
