import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { WeightCanvas, type Brush, type BrushMode } from './weightBrush'
import type { WeightField } from './records'

/** A strip of 20 by 4 cells, 10 px each; bone 0 holds the left half, bone 1 the right, bone 2 nothing. */
function strip(): WeightField {
  const field: WeightField = { vertices: [], triangles: [], starts: [0], bones: [], weights: [] }
  for (let r = 0; r <= 4; r++)
    for (let c = 0; c <= 20; c++) {
      field.vertices.push(10 * c, 10 * r)
      field.bones.push(c < 10 ? 0 : 1)
      field.weights.push(1)
      field.starts.push(field.bones.length)
      const at = r * 21 + c
      if (r < 4 && c < 20) field.triangles.push(at, at + 1, at + 21, at + 1, at + 22, at + 21)
    }
  return field
}

const canvas = (): WeightCanvas => new WeightCanvas(strip(), 3, Float64Array.from(strip().vertices))
const brush = (mode: BrushMode, more: Partial<Brush> = {}): Brush => ({
  mode,
  bone: 2,
  radius: 35,
  strength: 0.5,
  value: 0.4,
  falloff: 0.5,
  ...more,
})
const FREE = new Uint8Array(3)
const weight = (c: WeightCanvas, v: number, b: number): number => c.rows[3 * v + b]!

describe('painting weights', () => {
  test('every row sums to one whatever is painted, and what is locked stays', () => {
    const modes = fc.constantFrom<BrushMode>('add', 'remove', 'smooth', 'replace', 'sharpen')
    const dabs = fc.array(
      fc.record({
        mode: modes,
        bone: fc.integer({ min: 0, max: 2 }),
        x: fc.integer({ min: -20, max: 220 }),
        y: fc.integer({ min: -20, max: 60 }),
      }),
      { maxLength: 30 },
    )
    fc.assert(
      fc.property(dabs, fc.integer({ min: -1, max: 2 }), (list, lock) => {
        const c = canvas()
        const locked = Uint8Array.from([0, 1, 2], (b) => Number(b === lock))
        const before = c.rows.slice()
        for (const { mode, bone, x, y } of list) c.dab(x, y, brush(mode, { bone }), locked)
        for (let v = 0; v < 105; v++) {
          expect(weight(c, v, 0) + weight(c, v, 1) + weight(c, v, 2)).toBeCloseTo(1, 9)
          for (let b = 0; b < 3; b++) expect(weight(c, v, b)).toBeGreaterThanOrEqual(-1e-12)
          if (lock >= 0) expect(weight(c, v, lock)).toBe(before[3 * v + lock])
        }
      }),
    )
  })

  test('only what is under the brush changes, most in its middle', () => {
    const c = canvas()
    const touched = c.dab(50, 20, brush('add'), FREE)
    expect([...touched].every((v) => Math.hypot(10 * (v % 21) - 50, 10 * Math.floor(v / 21) - 20) <= 35)).toBe(true)
    expect(weight(c, 2 * 21 + 5, 2)).toBeCloseTo(0.5, 9)
    expect(weight(c, 2 * 21 + 7, 2)).toBeGreaterThan(0.1)
    expect(weight(c, 2 * 21 + 7, 2)).toBeLessThan(0.5)
    expect(weight(c, 2 * 21 + 9, 2)).toBe(0)
  })

  test('removing gives to the others, replacing comes to its value, sharpening parts, smoothing mixes', () => {
    const c = canvas()
    for (let k = 0; k < 40; k++) c.dab(50, 20, brush('replace'), FREE)
    expect(weight(c, 2 * 21 + 5, 2)).toBeCloseTo(0.4, 6)
    for (let k = 0; k < 40; k++) c.dab(50, 20, brush('sharpen'), FREE)
    expect(weight(c, 2 * 21 + 5, 2)).toBeLessThan(0.01)
    const edge = canvas()
    for (let k = 0; k < 20; k++) edge.dab(100, 20, brush('smooth'), FREE)
    expect(weight(edge, 2 * 21 + 10, 0)).toBeGreaterThan(0.25)
    for (let k = 0; k < 10; k++) edge.dab(100, 20, brush('remove', { bone: 0, strength: 1 }), FREE)
    expect(weight(edge, 2 * 21 + 10, 0)).toBe(0)
    expect(weight(edge, 2 * 21 + 10, 1)).toBeCloseTo(1, 9)
  })

  test('a stroke along the middle of a symmetric strip leaves it symmetric', () => {
    const c = canvas()
    for (let x = 0; x <= 200; x += 10) c.dab(x, 20, brush('add'), FREE)
    for (let v = 0; v < 42; v++) {
      const other = (4 - Math.floor(v / 21)) * 21 + (v % 21)
      expect(weight(c, v, 2)).toBeCloseTo(weight(c, other, 2), 9)
    }
  })

  test('the field that is kept has at most four bones a vertex, the strongest first', () => {
    const c = canvas()
    c.dab(100, 20, brush('add'), FREE)
    const field = c.toField()
    for (let v = 0; v < 105; v++) {
      const row = field.weights.slice(field.starts[v], field.starts[v + 1])
      expect(row.length).toBeLessThanOrEqual(4)
      expect(row.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 7)
      expect([...row].sort((a, b) => b - a)).toEqual(row)
    }
  })
})
