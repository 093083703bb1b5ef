import { describe, expect, test } from 'vitest'
import { evenGrid } from '../test/meshes'
import { denseRows, fieldOf } from './weightFields'
import { layWeights, meanWeights, pointsInLasso, weighPoints } from './weightPoints'
import type { WeightField } from './records'

/** A sheet of 8 by 4 cells of 10 px, of which the left half follows bone 0 and the right half bone 1. */
function sheet(): WeightField {
  const { vertices, triangles } = evenGrid(9, 5)
  const n = vertices.length / 2
  const rows = Float64Array.from({ length: 3 * n }, (_, i) => {
    const x = vertices[2 * Math.floor(i / 3)]!
    return [x <= 40 ? 1 : 0, x <= 40 ? 0 : 1, 0][i % 3]!
  })
  const empty = { vertices: [...vertices], triangles: [...triangles], starts: [], bones: [], weights: [] }
  return fieldOf(empty, rows, 3)
}

const weightOf = (field: WeightField, v: number, bone: number): number => denseRows(field, 3)[3 * v + bone]!
const at = (field: WeightField, x: number, y: number): number => {
  for (let v = 0; v < field.vertices.length / 2; v++) if (field.vertices[2 * v] === x && field.vertices[2 * v + 1] === y) return v
  throw new Error('no such vertex')
}

describe('points of weights', () => {
  test('a lasso takes the vertices inside it, wherever they are seen', () => {
    const field = sheet()
    const seen = field.vertices.map((v, i) => (i % 2 === 0 ? v + 500 : v))
    expect(pointsInLasso(field, seen, [505, -5, 525, -5, 525, 15, 505, 15])).toEqual(
      [at(field, 10, 0), at(field, 20, 0), at(field, 10, 10), at(field, 20, 10)].sort((a, b) => a - b),
    )
  })

  test('a lasso around a point of the drawing takes all that the point goes by', () => {
    const field = sheet()
    const found = pointsInLasso(field, field.vertices, [13, 2, 17, 2, 17, 4, 13, 4], { seen: [15, 3], own: [15, 3] })
    expect(found).toHaveLength(3)
    const given = weighPoints(field, 3, found, 2, 1)
    for (const v of found) expect(weightOf(given, v, 2)).toBe(1)
  })

  test('what a bone is given the others give in proportion, locked ones keep theirs, and rows sum to 1', () => {
    const mixed = weighPoints(sheet(), 3, [0], 1, 0.25)
    expect([0, 1, 2].map((b) => weightOf(mixed, 0, b))).toEqual([0.75, 0.25, 0])
    const locked = weighPoints(mixed, 3, [0], 2, 0.9, Uint8Array.of(1, 0, 0))
    expect(weightOf(locked, 0, 0)).toBeCloseTo(0.75, 9)
    expect(weightOf(locked, 0, 2)).toBeCloseTo(0.25, 9)
    for (let v = 0; v < mixed.vertices.length / 2; v++)
      expect([0, 1, 2].reduce((sum, b) => sum + weightOf(locked, v, b), 0)).toBeCloseTo(1, 9)
  })

  test('copied weights are the mean, and may name a bone that the field did not know', () => {
    const field = sheet()
    const mean = meanWeights(field, ['a', 'b', 'c'], [at(field, 0, 0), at(field, 80, 0)])
    expect([...mean]).toEqual([
      ['a', 0.5],
      ['b', 0.5],
    ])
    const laid = layWeights(field, ['a', 'x', 'c'], [3], mean)
    expect(laid.bones).toEqual(['a', 'x', 'c', 'b'])
    expect([...laid.rows.subarray(12, 16)]).toEqual([0.5, 0, 0, 0.5])
    expect([...laid.rows.subarray(0, 4)]).toEqual([1, 0, 0, 0])
  })
})
