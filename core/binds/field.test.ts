import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { meshRegion } from '../artwork/mesh'
import { samplerOf } from './field'
import type { WeightField } from './records'

/** A square of 100 px whose two bones share along x. */
function slope(): WeightField {
  const mesh = meshRegion(
    [
      [
        [
          [0, 0],
          [100, 0],
          [100, 100],
          [0, 100],
          [0, 0],
        ],
      ],
    ],
    10,
  )
  const n = mesh.vertices.length / 2
  const share = (i: number): number => mesh.vertices[2 * i]! / 100
  return {
    ...mesh,
    starts: Array.from({ length: n + 1 }, (_, i) => 2 * i),
    bones: Array.from({ length: n }, () => [0, 1]).flat(),
    weights: Array.from({ length: n }, (_, i) => [1 - share(i), share(i)]).flat(),
  }
}

const field = slope()

function read(x: number, y: number): [number, number] {
  const bones = new Int32Array(4)
  const weights = new Float64Array(4)
  samplerOf(field, 2).sample(x, y, 0, bones, weights, new Float64Array(2))
  const of = (bone: number): number => bones.reduce((sum, b, k) => sum + (b === bone ? weights[k]! : 0), 0)
  return [of(0), of(1)]
}

describe('reading a weight field', () => {
  test('is linear between the vertices, and sums to one', () => {
    const inside = fc.double({ min: 0.5, max: 99.5, noNaN: true })
    fc.assert(
      fc.property(inside, inside, (x, y) => {
        const [first, second] = read(x, y)
        expect(second).toBeCloseTo(x / 100, 6)
        expect(first + second).toBeCloseTo(1, 12)
      }),
    )
  })

  test('outside it gives what the nearest spot of the rim has', () => {
    expect(read(-400, 50)[0]).toBeCloseTo(1)
    expect(read(500, 50)[1]).toBeCloseTo(1)
    expect(read(30, -200)[1]).toBeCloseTo(0.3, 6)
    expect(read(70, 900)[1]).toBeCloseTo(0.7, 6)
  })

  test('the same field has one sampler', () => {
    expect(samplerOf(field, 2)).toBe(samplerOf(field, 2))
  })
})
