/**
 * Smooth curves through points: cubic splines with continuous second derivative (de Boor 1978, "A Practical Guide to
 * Splines", chapter IV), over knots spaced by the distances of the points. Buffers are made once.
 */

/** Knots nearer to each other than this, px, are kept this far apart, so that coincident points give a sane curve. */
const CLOSEST = 1e-3

/** A smooth curve through spots, measured by its length. */
export class Spline {
  /** Points in use. */
  count = 0
  /** [n] parameter of each point, px along the chords */
  readonly knots: Float64Array
  /** [2n] */
  readonly points: Float64Array
  /** [2n] derivative by the parameter at each point */
  readonly slopes: Float64Array
  /** x, y, and their derivatives by the parameter where `at` last looked. */
  readonly out = new Float64Array(4)
  private readonly upper: Float64Array

  constructor(most: number) {
    this.knots = new Float64Array(most)
    this.points = new Float64Array(2 * most)
    this.slopes = new Float64Array(2 * most)
    this.upper = new Float64Array(most)
  }

  /** Spaces the knots by the distances of the points. */
  space(): void {
    const { knots, points: p } = this
    knots[0] = 0
    for (let i = 1; i < this.count; i++)
      knots[i] = knots[i - 1]! + Math.max(CLOSEST, Math.hypot(p[2 * i]! - p[2 * i - 2]!, p[2 * i + 1]! - p[2 * i - 1]!))
  }

  /** Parameter of the last point. */
  get end(): number {
    return this.knots[this.count - 1]!
  }

  /**
   * Finds the slopes; the curve runs out straight at its ends, or with given slopes there.
   *
   * @param first slope at the first point, by its x and y; NaN for none
   * @param last slope at the last point
   */
  fit(firstX = NaN, firstY = NaN, lastX = NaN, lastY = NaN): void {
    this.fitAxis(0, firstX, lastX)
    this.fitAxis(1, firstY, lastY)
  }

  /** Solves the tridiagonal system for the slopes of one axis (Thomas). */
  private fitAxis(axis: number, first: number, last: number): void {
    const { count: n, knots, points: p, slopes: m, upper } = this
    const at = (i: number): number => p[2 * i + axis]!
    if (n === 2) {
      const straight = (at(1) - at(0)) / (knots[1]! - knots[0]!)
      m[axis] = first === first ? first : last === last ? 1.5 * straight - 0.5 * last : straight
      m[2 + axis] = last === last ? last : 1.5 * straight - 0.5 * m[axis]!
      return
    }
    let h = knots[1]! - knots[0]!
    if (first === first) {
      upper[0] = 0
      m[axis] = first
    } else {
      upper[0] = 0.5
      m[axis] = (1.5 * (at(1) - at(0))) / h
    }
    for (let i = 1; i < n - 1; i++) {
      const next = knots[i + 1]! - knots[i]!
      const diagonal = 2 * (h + next) - next * upper[i - 1]!
      upper[i] = h / diagonal
      const right = 3 * ((next / h) * (at(i) - at(i - 1)) + (h / next) * (at(i + 1) - at(i)))
      m[2 * i + axis] = (right - next * m[2 * i - 2 + axis]!) / diagonal
      h = next
    }
    const k = n - 1
    m[2 * k + axis] = last === last ? last : ((3 * (at(k) - at(k - 1))) / h - m[2 * k - 2 + axis]!) / (2 - upper[k - 1]!)
    for (let i = n - 2; i >= 0; i--) m[2 * i + axis] = m[2 * i + axis]! - upper[i]! * m[2 * i + 2 + axis]!
  }

  /** The stretch between two points in which a parameter lies. */
  spanAt(t: number): number {
    const { knots, count } = this
    let low = 0
    let high = count - 2
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (knots[middle]! <= t) low = middle
      else high = middle - 1
    }
    return low
  }

  /** Writes place and derivative at a parameter into `out`; beyond its ends the curve goes on straight. */
  at(t: number): void {
    const { knots, points: p, slopes: m, out } = this
    const inside = Math.min(this.end, Math.max(0, t))
    const i = this.spanAt(inside)
    const h = knots[i + 1]! - knots[i]!
    const s = (inside - knots[i]!) / h
    const s2 = s * s
    const s3 = s2 * s
    const a = 2 * s3 - 3 * s2 + 1
    const b = (s3 - 2 * s2 + s) * h
    const c = 3 * s2 - 2 * s3
    const d = (s3 - s2) * h
    const da = (6 * s2 - 6 * s) / h
    const db = 3 * s2 - 4 * s + 1
    const dd = 3 * s2 - 2 * s
    const k = 2 * i
    out[2] = da * p[k]! + db * m[k]! - da * p[k + 2]! + dd * m[k + 2]!
    out[3] = da * p[k + 1]! + db * m[k + 1]! - da * p[k + 3]! + dd * m[k + 3]!
    out[0] = a * p[k]! + b * m[k]! + c * p[k + 2]! + d * m[k + 2]! + (t - inside) * out[2]
    out[1] = a * p[k + 1]! + b * m[k + 1]! + c * p[k + 3]! + d * m[k + 3]! + (t - inside) * out[3]
  }
}
