import { describe, expect, test } from 'vitest'
import { meshRegion } from '../../artwork/mesh'
import { samplerOf } from '../../binds/field'
import { heatWeights, MOST_INFLUENCES, type WeightRows } from './heat'
import type { TriangleMesh } from '../geometry/triangleMesh'

/** A bar from (0, 0) to (200, 40). */
const bar = (): TriangleMesh =>
  meshRegion(
    [
      [
        [
          [0, 0],
          [200, 0],
          [200, 40],
          [0, 40],
          [0, 0],
        ],
      ],
    ],
    6,
  )

/** Bones along the middle of the bar, cut into equal pieces. */
const bones = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => [(200 * i) / count, 20, (200 * (i + 1)) / count, 20]).flat()

/** The weight of a bone at a spot, read between the vertices. */
function weightAt(mesh: TriangleMesh, rows: WeightRows, x: number, y: number, bone: number): number {
  const bones = new Int32Array(4)
  const weights = new Float64Array(4)
  samplerOf({ ...mesh, ...rows }, Math.max(...rows.bones) + 1).sample(x, y, 0, bones, weights, new Float64Array(2))
  return bones.reduce((sum, b, k) => sum + (b === bone ? weights[k]! : 0), 0)
}

describe('heat weights', () => {
  test('sum to one everywhere, with at most four influences, strongest first', () => {
    const mesh = bar()
    const rows = heatWeights(mesh, bones(7))
    expect(rows.starts).toHaveLength(mesh.vertices.length / 2 + 1)
    for (let i = 0; i + 1 < rows.starts.length; i++) {
      const row = rows.weights.slice(rows.starts[i]!, rows.starts[i + 1]!)
      expect(row.length).toBeLessThanOrEqual(MOST_INFLUENCES)
      expect(row.reduce((a, b) => a + b)).toBeCloseTo(1, 12)
      expect(row).toEqual([...row].sort((a, b) => b - a))
      for (const w of row) expect(w).toBeGreaterThanOrEqual(0)
    }
  })

  test('two bones share evenly at their joint and own their far ends', () => {
    const mesh = bar()
    const rows = heatWeights(mesh, bones(2))
    expect(Math.abs(weightAt(mesh, rows, 100, 20, 0) - 0.5)).toBeLessThan(0.12)
    expect(weightAt(mesh, rows, 10, 20, 0)).toBeGreaterThan(0.98)
    expect(weightAt(mesh, rows, 190, 20, 1)).toBeGreaterThan(0.98)
  })

  test('fall steadily along the bar', () => {
    const mesh = bar()
    const rows = heatWeights(mesh, bones(2))
    const along = [40, 60, 80, 100, 120, 140, 160].map((x) => weightAt(mesh, rows, x, 20, 0))
    for (let i = 1; i < along.length; i++) expect(along[i]!).toBeLessThanOrEqual(along[i - 1]! + 1e-6)
  })

  test('mirrored bones give mirrored weights', () => {
    const mesh = bar()
    const rows = heatWeights(mesh, bones(2))
    for (const [x, y] of [
      [70, 10],
      [90, 30],
      [100, 5],
    ] as const) {
      const there = weightAt(mesh, rows, x, y, 0)
      const back = weightAt(mesh, rows, 200 - x, y, 1)
      expect(Math.abs(there - back)).toBeLessThan(0.12)
    }
  })

  test('a bone across a gap does not reach through it', () => {
    // Two bars joined at the left like a hairpin; the bone of the lower bar is nearer to the upper rim than the path to it.
    const mesh = meshRegion(
      [
        [
          [
            [0, 0],
            [200, 0],
            [200, 30],
            [30, 30],
            [30, 40],
            [200, 40],
            [200, 70],
            [0, 70],
            [0, 0],
          ],
        ],
      ],
      6,
    )
    const rows = heatWeights(mesh, [20, 5, 200, 5, 20, 55, 200, 55])
    // This spot of the upper bar is as near to the lower bone as to its own.
    expect(weightAt(mesh, rows, 180, 29, 0)).toBeGreaterThan(0.9)
  })

  test('a piece that sees no bone follows the nearest', () => {
    const mesh = meshRegion(
      [
        [
          [
            [0, 0],
            [40, 0],
            [40, 40],
            [0, 40],
            [0, 0],
          ],
        ],
        [
          [
            [100, 0],
            [140, 0],
            [140, 40],
            [100, 40],
            [100, 0],
          ],
        ],
      ],
      8,
    )
    const rows = heatWeights(mesh, [5, 20, 35, 20, 5, 90, 35, 90])
    expect(weightAt(mesh, rows, 120, 20, 0)).toBeGreaterThan(0.9)
  })
})
