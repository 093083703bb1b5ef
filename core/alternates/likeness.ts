/**
 * Which spot of one closed outline goes to which of another: the monotone matching, once round, that costs least, found by dynamic
 * programming (Sederberg and Greenwood 1992, "A physically based approach to 2-D shape blending"). It costs to go far and to turn; spots
 * may wait while the other outline goes on.
 */

/** What it costs to turn by half a circle, and to wait for one spot, in squares of the outlines' size. */
const TURNS = 0.08
const WAITS = 0.002
/** Every so manyth spot of the first is tried as the partner of the first of the second. */
const TRIED = 4

interface Spots {
  readonly count: number
  readonly points: Float64Array
  /** [2n] directions of length 1. */
  readonly along: Float64Array
}

/**
 * @param a,b [2n] spots along closed outlines that run the same way round
 * @returns pairs of spots in order, each spot at least once
 */
export function matchedSpots(a: Float64Array, b: Float64Array): readonly (readonly [number, number])[] {
  const [one, other] = [spotsOf(a), spotsOf(b)]
  const size = Math.max(sizeOf(a), sizeOf(b), 1e-9)
  let best: (readonly [number, number])[] = []
  let least = Infinity
  for (let start = 0; start < one.count; start += TRIED) {
    const { cost, path } = align(one, other, start, size)
    if (cost >= least) continue
    least = cost
    best = path
  }
  return best
}

function spotsOf(points: Float64Array): Spots {
  const count = points.length / 2
  const along = new Float64Array(points.length)
  for (let k = 0; k < count; k++) {
    const [p, q] = [(k + count - 1) % count, (k + 1) % count]
    const [dx, dy] = [points[2 * q]! - points[2 * p]!, points[2 * q + 1]! - points[2 * p + 1]!]
    const length = Math.hypot(dx, dy) || 1
    along[2 * k] = dx / length
    along[2 * k + 1] = dy / length
  }
  return { count, points, along }
}

function sizeOf(points: Float64Array): number {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let k = 0; k < points.length; k += 2) {
    minX = Math.min(minX, points[k]!)
    maxX = Math.max(maxX, points[k]!)
    minY = Math.min(minY, points[k + 1]!)
    maxY = Math.max(maxY, points[k + 1]!)
  }
  return Math.hypot(maxX - minX, maxY - minY)
}

const BOTH = 0
const FIRST = 1
const SECOND = 2

/** The cheapest matching in which spot `start` of the first is the partner of the first of the second. */
function align(a: Spots, b: Spots, start: number, size: number): { cost: number; path: (readonly [number, number])[] } {
  const [n, m] = [a.count, b.count]
  const at = (i: number): number => (start + i) % n
  const price = (i: number, j: number): number => {
    const [k, l] = [2 * at(i), 2 * (j % m)]
    const [dx, dy] = [(a.points[k]! - b.points[l]!) / size, (a.points[k + 1]! - b.points[l + 1]!) / size]
    return dx * dx + dy * dy + (TURNS * (1 - a.along[k]! * b.along[l]! - a.along[k + 1]! * b.along[l + 1]!)) / 2
  }
  // Both go all the way round, and end where they began.
  const costs = new Float64Array((n + 1) * (m + 1)).fill(Infinity)
  const steps = new Uint8Array((n + 1) * (m + 1))
  costs[0] = price(0, 0)
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      if (i === 0 && j === 0) continue
      const here = i * (m + 1) + j
      const both = i > 0 && j > 0 ? costs[here - m - 2]! : Infinity
      const first = i > 0 ? costs[here - m - 1]! + WAITS : Infinity
      const second = j > 0 ? costs[here - 1]! + WAITS : Infinity
      const least = Math.min(both, first, second)
      steps[here] = least === both ? BOTH : least === first ? FIRST : SECOND
      costs[here] = least + price(i, j)
    }
  const path: (readonly [number, number])[] = []
  for (let i = n, j = m; i > 0 || j > 0;) {
    const step = steps[i * (m + 1) + j]!
    if (step !== SECOND) i--
    if (step !== FIRST) j--
    path.push([at(i), j % m])
  }
  return { cost: costs[costs.length - 1]!, path: path.reverse() }
}
