/**
 * Sparse symmetric systems A x = b by LDLᵀ factorisation.
 *
 * Up-looking factorisation on the elimination tree (Davis 2005, "Algorithm 849: A concise sparse Cholesky
 * factorization package"), after a fill-reducing order by nested dissection (George 1973). The vertices of our
 * systems lie in the plane, so separators are found by cutting at coordinate medians instead of in the graph alone.
 */

/** A symmetric matrix by columns, upper triangle with diagonal: column j has rows[starts[j]..starts[j+1]) <= j. */
export interface SymmetricMatrix {
  readonly n: number
  readonly starts: Int32Array
  readonly rows: Int32Array
  readonly values: Float64Array
}

/** Builds a symmetric matrix from triplets; entries of the same place add up. Either triangle may be given. */
export function symmetricFromTriplets(n: number, i: ArrayLike<number>, j: ArrayLike<number>, v: ArrayLike<number>): SymmetricMatrix {
  const columns: Map<number, number>[] = Array.from({ length: n }, () => new Map())
  for (let k = 0; k < v.length; k++) {
    const row = Math.min(i[k]!, j[k]!)
    const column = columns[Math.max(i[k]!, j[k]!)]!
    column.set(row, (column.get(row) ?? 0) + v[k]!)
  }
  const starts = new Int32Array(n + 1)
  for (let c = 0; c < n; c++) starts[c + 1] = starts[c]! + columns[c]!.size
  const rows = new Int32Array(starts[n]!)
  const values = new Float64Array(starts[n]!)
  for (let c = 0; c < n; c++) {
    let at = starts[c]!
    for (const [row, value] of columns[c]!) {
      rows[at] = row
      values[at++] = value
    }
  }
  return { n, starts, rows, values }
}

/** Below this many vertices a region is ordered as it comes. */
const LEAF = 24

/**
 * Nested dissection by coordinates.
 *
 * @param points [2n] x,y of the vertices
 * @returns order [n]: the vertex eliminated at each step
 */
export function dissect(matrix: SymmetricMatrix, points: ArrayLike<number>): Int32Array {
  const { n } = matrix
  const neighbours: number[][] = Array.from({ length: n }, () => [])
  for (let c = 0; c < n; c++) {
    for (let k = matrix.starts[c]!; k < matrix.starts[c + 1]!; k++) {
      const r = matrix.rows[k]!
      if (r === c) continue
      neighbours[c]!.push(r)
      neighbours[r]!.push(c)
    }
  }
  const order = new Int32Array(n)
  const side = new Int8Array(n)
  let end = n
  // Separators are eliminated last: fill `order` from the back, biggest separator first.
  const place = (vertices: number[]): void => {
    for (const v of vertices) order[--end] = v
  }
  const stack: number[][] = [Array.from({ length: n }, (_, k) => k)]
  while (stack.length > 0) {
    const region = stack.pop()!
    if (region.length <= LEAF) {
      place(region)
      continue
    }
    const { left, right } = halve(region, points)
    for (const v of left) side[v] = 1
    for (const v of right) side[v] = 2
    const separator = left.filter((v) => neighbours[v]!.some((u) => side[u] === 2))
    const cut = new Set(separator)
    for (const v of region) side[v] = 0
    place(separator)
    stack.push(
      left.filter((v) => !cut.has(v)),
      right,
    )
  }
  return order
}

/** Splits a region at the median of its longer side. */
function halve(region: number[], points: ArrayLike<number>): { left: number[]; right: number[] } {
  let minX = Infinity
  let maxX = -Infinity
  let minY = Infinity
  let maxY = -Infinity
  for (const v of region) {
    minX = Math.min(minX, points[2 * v]!)
    maxX = Math.max(maxX, points[2 * v]!)
    minY = Math.min(minY, points[2 * v + 1]!)
    maxY = Math.max(maxY, points[2 * v + 1]!)
  }
  const axis = maxX - minX >= maxY - minY ? 0 : 1
  const sorted = [...region].sort((a, b) => points[2 * a + axis]! - points[2 * b + axis]! || a - b)
  const middle = sorted.length >> 1
  return { left: sorted.slice(0, middle), right: sorted.slice(middle) }
}

/** A matrix that is not positive definite: some vertex is held by nothing. */
export class SingularError extends Error {}

/** A factorised matrix: solves for any right side. */
export interface Factor {
  readonly n: number
  /** Entries below the diagonal of L. */
  readonly fill: number
  /** Solves A x = b; `x` may be `b`. */
  solve(b: Float64Array, x: Float64Array): void
  /** Solves for pairs x, y: `b` and `x` hold [2n], and `x` may be `b`. Allocates nothing. */
  solvePairs(b: Float64Array, x: Float64Array): void
}

/** Factorises a positive definite matrix in a given elimination order. Throws SingularError. */
export function factorise(matrix: SymmetricMatrix, order: Int32Array): Factor {
  const { n } = matrix
  const a = permute(matrix, order)
  const parent = new Int32Array(n)
  const flag = new Int32Array(n)
  const count = new Int32Array(n)
  // Symbolic: the elimination tree and the number of entries in each column of L.
  for (let k = 0; k < n; k++) {
    parent[k] = -1
    flag[k] = k
    for (let p = a.starts[k]!; p < a.starts[k + 1]!; p++) {
      for (let i = a.rows[p]!; i < k && flag[i] !== k; i = parent[i]!) {
        if (parent[i] === -1) parent[i] = k
        count[i]!++
        flag[i] = k
      }
    }
  }
  const starts = new Int32Array(n + 1)
  for (let k = 0; k < n; k++) starts[k + 1] = starts[k]! + count[k]!
  const rows = new Int32Array(starts[n]!)
  const values = new Float64Array(starts[n]!)
  const d = new Float64Array(n)
  const y = new Float64Array(n)
  const pattern = new Int32Array(n)
  count.fill(0)
  // Numeric: row k of L solves the triangular system of the rows above it.
  for (let k = 0; k < n; k++) {
    let top = n
    flag[k] = k
    for (let p = a.starts[k]!; p < a.starts[k + 1]!; p++) {
      let i = a.rows[p]!
      y[i]! += a.values[p]!
      let length = 0
      for (; flag[i] !== k; i = parent[i]!) {
        pattern[length++] = i
        flag[i] = k
      }
      while (length > 0) pattern[--top] = pattern[--length]!
    }
    d[k] = y[k]!
    y[k] = 0
    for (; top < n; top++) {
      const i = pattern[top]!
      const yi = y[i]!
      y[i] = 0
      const end = starts[i]! + count[i]!
      for (let p = starts[i]!; p < end; p++) y[rows[p]!]! -= values[p]! * yi
      const l = yi / d[i]!
      d[k]! -= l * yi
      rows[end] = k
      values[end] = l
      count[i]!++
    }
    if (!(d[k]! > 0)) throw new SingularError(`the matrix is not positive definite at step ${k} of ${n}`)
  }
  const work = new Float64Array(2 * n)
  return {
    n,
    fill: starts[n]!,
    solve(b, x) {
      for (let k = 0; k < n; k++) work[k] = b[order[k]!]!
      for (let k = 0; k < n; k++) for (let p = starts[k]!; p < starts[k + 1]!; p++) work[rows[p]!]! -= values[p]! * work[k]!
      for (let k = 0; k < n; k++) work[k]! /= d[k]!
      for (let k = n - 1; k >= 0; k--) for (let p = starts[k]!; p < starts[k + 1]!; p++) work[k]! -= values[p]! * work[rows[p]!]!
      for (let k = 0; k < n; k++) x[order[k]!] = work[k]!
    },
    solvePairs(b, x) {
      for (let k = 0; k < n; k++) {
        work[2 * k] = b[2 * order[k]!]!
        work[2 * k + 1] = b[2 * order[k]! + 1]!
      }
      forwardPairs(starts, rows, values, d, work)
      backwardPairs(starts, rows, values, work)
      for (let k = 0; k < n; k++) {
        x[2 * order[k]!] = work[2 * k]!
        x[2 * order[k]! + 1] = work[2 * k + 1]!
      }
    },
  }
}

/** L y = b, then y = D⁻¹ y, for pairs in place. */
function forwardPairs(starts: Int32Array, rows: Int32Array, values: Float64Array, d: Float64Array, work: Float64Array): void {
  for (let k = 0; k < d.length; k++) {
    const x = work[2 * k]!
    const y = work[2 * k + 1]!
    for (let p = starts[k]!, end = starts[k + 1]!; p < end; p++) {
      const q = 2 * rows[p]!
      const l = values[p]!
      work[q]! -= l * x
      work[q + 1]! -= l * y
    }
    work[2 * k] = x / d[k]!
    work[2 * k + 1] = y / d[k]!
  }
}

/** Lᵀ x = y for pairs in place. */
function backwardPairs(starts: Int32Array, rows: Int32Array, values: Float64Array, work: Float64Array): void {
  for (let k = starts.length - 2; k >= 0; k--) {
    let x = work[2 * k]!
    let y = work[2 * k + 1]!
    for (let p = starts[k]!, end = starts[k + 1]!; p < end; p++) {
      const q = 2 * rows[p]!
      const l = values[p]!
      x -= l * work[q]!
      y -= l * work[q + 1]!
    }
    work[2 * k] = x
    work[2 * k + 1] = y
  }
}

/** Renumbers a matrix so that step k of `order` becomes row and column k. */
function permute(matrix: SymmetricMatrix, order: Int32Array): SymmetricMatrix {
  const { n } = matrix
  const place = new Int32Array(n)
  for (let k = 0; k < n; k++) place[order[k]!] = k
  const starts = new Int32Array(n + 1)
  const columnOf = (c: number, p: number): number => Math.max(place[c]!, place[matrix.rows[p]!]!)
  for (let c = 0; c < n; c++) for (let p = matrix.starts[c]!; p < matrix.starts[c + 1]!; p++) starts[columnOf(c, p) + 1]!++
  for (let k = 0; k < n; k++) starts[k + 1]! += starts[k]!
  const next = starts.slice(0, n)
  const rows = new Int32Array(matrix.rows.length)
  const values = new Float64Array(matrix.values.length)
  for (let c = 0; c < n; c++) {
    for (let p = matrix.starts[c]!; p < matrix.starts[c + 1]!; p++) {
      const at = next[columnOf(c, p)]!++
      rows[at] = Math.min(place[c]!, place[matrix.rows[p]!]!)
      values[at] = matrix.values[p]!
    }
  }
  return { n, starts, rows, values }
}
