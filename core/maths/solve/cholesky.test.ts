import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { seededRandom } from './random'
import { dissect, factorise, SingularError, symmetricFromTriplets, type SymmetricMatrix } from './cholesky'

/** The five-point Laplacian of a grid with a little added to the diagonal, and the grid's points. */
function gridSystem(side: number): { matrix: SymmetricMatrix; points: number[] } {
  const i: number[] = []
  const j: number[] = []
  const v: number[] = []
  const points: number[] = []
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const at = y * side + x
      points.push(x, y)
      i.push(at)
      j.push(at)
      v.push(4.01)
      for (const next of [x + 1 < side ? at + 1 : -1, y + 1 < side ? at + side : -1]) {
        if (next < 0) continue
        i.push(at)
        j.push(next)
        v.push(-1)
      }
    }
  }
  return { matrix: symmetricFromTriplets(side * side, i, j, v), points }
}

function times(matrix: SymmetricMatrix, x: Float64Array): Float64Array {
  const out = new Float64Array(matrix.n)
  for (let c = 0; c < matrix.n; c++) {
    for (let k = matrix.starts[c]!; k < matrix.starts[c + 1]!; k++) {
      const r = matrix.rows[k]!
      out[r]! += matrix.values[k]! * x[c]!
      if (r !== c) out[c]! += matrix.values[k]! * x[r]!
    }
  }
  return out
}

describe('sparse Cholesky', () => {
  test('dissection is a permutation', () => {
    const { matrix, points } = gridSystem(17)
    expect([...dissect(matrix, points)].sort((a, b) => a - b)).toEqual(Array.from({ length: 289 }, (_, k) => k))
  })

  test('solves grid systems of any size to machine accuracy', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 24 }), fc.integer({ min: 1, max: 1e6 }), (side, seed) => {
        const { matrix, points } = gridSystem(side)
        const random = seededRandom(seed)
        const wanted = Float64Array.from({ length: matrix.n }, () => random() - 0.5)
        const x = new Float64Array(matrix.n)
        factorise(matrix, dissect(matrix, points)).solve(times(matrix, wanted), x)
        x.forEach((value, k) => expect(value).toBeCloseTo(wanted[k]!, 9))
      }),
      { numRuns: 20 },
    )
  })

  test('nested dissection leaves less fill than the rows in order', () => {
    const { matrix, points } = gridSystem(40)
    const inOrder = factorise(
      matrix,
      Int32Array.from({ length: matrix.n }, (_, k) => k),
    ).fill
    expect(factorise(matrix, dissect(matrix, points)).fill).toBeLessThan(inOrder * 0.55)
  })

  test('entries given twice add up, from either triangle', () => {
    const matrix = symmetricFromTriplets(2, [0, 0, 1, 1, 0], [0, 0, 1, 0, 1], [2, 2, 5, 1, 1])
    const x = new Float64Array(2)
    factorise(matrix, Int32Array.from([1, 0])).solve(Float64Array.from([8, 12]), x)
    expect(x[0]).toBeCloseTo(1)
    expect(x[1]).toBeCloseTo(2)
  })

  test('a system that holds nothing is refused', () => {
    const matrix = symmetricFromTriplets(2, [0, 1, 0], [0, 1, 1], [1, 1, -1])
    expect(() => factorise(matrix, Int32Array.from([0, 1]))).toThrow(SingularError)
  })
})
