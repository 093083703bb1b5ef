import { describe, expect, test } from 'vitest'
import { heatWeights } from '../maths/solve/heat'
import {
  denseOf,
  fieldOf,
  influenceWeights,
  mirroredWeights,
  sharedBorder,
  smoothedWeights,
  transferredWeights,
  type PlacedField,
} from './weightFields'

/** A box of cells of 10 px. */
function boxField(
  x: number,
  y: number,
  columns: number,
  rows: number,
  bones: readonly string[],
  of: (x: number, y: number) => number[],
): PlacedField {
  const field = { vertices: [] as number[], triangles: [] as number[], starts: [0], bones: [] as number[], weights: [] as number[] }
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c <= columns; c++) {
      const [vx, vy] = [x + 10 * c, y + 10 * r]
      field.vertices.push(vx, vy)
      of(vx, vy).forEach((w, b) => {
        field.bones.push(b)
        field.weights.push(w)
      })
      field.starts.push(field.bones.length)
      const at = r * (columns + 1) + c
      if (r < rows && c < columns) field.triangles.push(at, at + 1, at + columns + 1, at + 1, at + columns + 2, at + columns + 1)
    }
  return { field, bones, places: field.vertices }
}

const row = ({ bones, rows }: { bones: readonly string[]; rows: Float64Array }, v: number): number[] => [
  ...rows.subarray(v * bones.length, (v + 1) * bones.length),
]

describe('weights from weights', () => {
  const other = (b: string): string => ({ left: 'right', right: 'left' })[b] ?? b
  const body = boxField(-100, 0, 20, 4, ['left', 'right'], (x) => (x < -40 ? [1, 0] : x > 60 ? [0, 1] : [0.5, 0.5]))

  test('mirrored weights are symmetric, with bones that change sides', () => {
    const even = mirroredWeights(body, 0, -1, other)
    for (let v = 0; v < 105; v++) {
      const twin = Math.floor(v / 21) * 21 + (20 - (v % 21))
      expect(row(even, v)[0]).toBeCloseTo(row(even, twin)[1]!, 9)
    }
    expect(row(even, 20)).toEqual([0, 1])
  })

  test('symmetric shapes with symmetric bones get symmetric heat', () => {
    const rows = heatWeights({ vertices: body.field.vertices, triangles: body.field.triangles }, [-90, 20, 0, 20, 0, 20, 90, 20])
    const dense = denseOf({ field: { ...body.field, ...rows }, bones: ['left', 'right'] })
    for (let v = 0; v < 105; v++) {
      const twin = Math.floor(v / 21) * 21 + (20 - (v % 21))
      // Diagonals of the cells all lean one way, which heat feels a little.
      expect(Math.abs(row(dense, v)[0]! - row(dense, twin)[1]!)).toBeLessThan(0.03)
    }
  })

  test('smoothing evens out and keeps sums; pruning drops what is faint', () => {
    const smooth = smoothedWeights(body, 3)
    for (let v = 0; v < 105; v++) expect(row(smooth, v).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
    expect(row(smooth, 4)[1]).toBeGreaterThan(0.01)
    const pruned = fieldOf(
      body.field,
      Float64Array.from({ length: 210 }, (_, i) => (i % 2 === 0 ? 0.97 : 0.03)),
      2,
      0.05,
    )
    expect(pruned.weights.every((w) => w === 1)).toBe(true)
  })

  test('another part takes weights over by position', () => {
    const dense = transferredWeights(body, [-95, 20, 0, 20, 200, 20])
    expect(row(dense, 0)).toEqual([1, 0])
    expect(row(dense, 1)[0]).toBeCloseTo(0.5, 9)
    expect(row(dense, 2)).toEqual([0, 1])
  })

  test('parts that share their border have the same weights where they lie over each other', () => {
    const neck = boxField(0, 0, 4, 10, ['chest', 'neck'], () => [0, 1])
    const chest = boxField(0, 80, 4, 6, ['chest'], () => [1])
    const [a, b] = sharedBorder(neck, chest, 30)
    const at = (one: PlacedField, x: number, y: number): number =>
      one.places.findIndex((_, i) => i % 2 === 0 && one.places[i] === x && one.places[i + 1] === y) / 2
    for (const y of [80, 90, 100]) for (const x of [0, 20, 40]) expect(row(a, at(neck, x, y))).toEqual(row(b, at(chest, x, y)))
    expect(row(a, at(neck, 20, 0))).toEqual([0, 1])
    expect(row(b, at(chest, 20, 140))).toEqual([1, 0])
  })

  test('influence fades with distance, follows strength, and leaves nothing without a bone', () => {
    const ends = [0, 0, 100, 0, 100, 0, 200, 0]
    const dense = influenceWeights([50, 0, 100, 5, 150, 0, 900, 900], ['a', 'b'], ends, [
      { radius: 60, strength: 1 },
      { radius: 60, strength: 1 },
    ])
    expect(row(dense, 0)[0]).toBeGreaterThan(0.9)
    expect(row(dense, 1)).toEqual([0.5, 0.5])
    expect(row(dense, 3)).toEqual([0, 1])
    const none = influenceWeights([50, 0], ['a', 'b'], ends, [
      { radius: 60, strength: 0 },
      { radius: 60, strength: 1 },
    ])
    expect(row(none, 0)).toEqual([0, 1])
  })
})
