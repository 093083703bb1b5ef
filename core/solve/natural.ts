/**
 * Smooth values in the plane from values at scattered sites: natural neighbour coordinates (Sibson 1981), as the
 * barycentric coordinates of a cubic Bernstein form over the neighbours (Farin 1990). It takes every site's value exactly,
 * reproduces linear functions, and is smooth everywhere. With slopes limited so that its control values lie between those of
 * neighbours, it stays between them, too.
 *
 * Cells are clipped from a box by bisectors: sites are few (a pad has some dozens), so that this is quicker than keeping a
 * triangulation. Outside of the hull of the sites a spot counts as the nearest one of the hull.
 */

/** Sizes of the box around the sites; cells of sites at the rim end there. */
const BOX = 1e4
/** Distance, as a share of the extent, at which a spot is a site. */
const SAME = 1e-9

export class NaturalField {
  readonly count: number
  private readonly extent: number
  private readonly hull: readonly number[]
  /** [n] coordinates of the last spot; those of no neighbour are 0. */
  readonly shares: Float64Array
  /** [n] Of the last spot: what the value, and the slopes along x and y, of each site count. */
  readonly value: Float64Array
  readonly slopeX: Float64Array
  readonly slopeY: Float64Array
  /** Sites that count at the last spot. */
  readonly near: Int32Array
  nearCount = 0
  private readonly cell = new Polygon()
  private readonly stolen = new Polygon()

  /** @param sites [2n] x,y; no two in one place */
  constructor(readonly sites: Float64Array) {
    const n = (this.count = sites.length / 2)
    let extent = 1e-9
    for (let i = 0; i < n; i++)
      for (let j = 0; j < i; j++)
        extent = Math.max(extent, Math.hypot(sites[2 * i]! - sites[2 * j]!, sites[2 * i + 1]! - sites[2 * j + 1]!))
    this.extent = extent
    this.hull = hullOf(sites)
    this.shares = new Float64Array(n)
    this.value = new Float64Array(n)
    this.slopeX = new Float64Array(n)
    this.slopeY = new Float64Array(n)
    this.near = new Int32Array(n)
  }

  /** Sets what each site counts at a spot. */
  look(x: number, y: number): void {
    this.value.fill(0)
    this.slopeX.fill(0)
    this.slopeY.fill(0)
    this.findShares(x, y)
    this.nearCount = 0
    for (let i = 0; i < this.count; i++) if (this.shares[i]! > 0) this.near[this.nearCount++] = i
    this.bernstein()
  }

  /** Natural neighbour coordinates of a spot, brought into the hull. */
  private findShares(px: number, py: number): void {
    const { sites, shares, count, extent } = this
    shares.fill(0)
    const spot = this.within(px, py)
    if (spot) return
    const [x, y] = [this.inX, this.inY]
    for (let i = 0; i < count; i++)
      if (Math.hypot(sites[2 * i]! - x, sites[2 * i + 1]! - y) <= SAME * extent) {
        shares[i] = 1
        return
      }
    this.cell.box(x, y, BOX * extent)
    for (let i = 0; i < count; i++) this.cell.keepNearer(x, y, sites[2 * i]!, sites[2 * i + 1]!)
    let sum = 0
    for (let i = 0; i < count; i++) {
      this.stolen.copy(this.cell)
      for (let j = 0; j < count && this.stolen.size > 0; j++)
        if (j !== i) this.stolen.keepNearer(sites[2 * i]!, sites[2 * i + 1]!, sites[2 * j]!, sites[2 * j + 1]!)
      shares[i] = this.stolen.area()
      sum += shares[i]!
    }
    for (let i = 0; i < count; i++) shares[i] = shares[i]! / sum < 1e-9 ? 0 : shares[i]! / sum
  }

  private inX = 0
  private inY = 0

  /**
   * Brings a spot into the hull as `inX`, `inY`. On the rim it lies between two corners and they alone count: then the shares
   * are set, and true is returned.
   */
  private within(x: number, y: number): boolean {
    const { hull, sites, shares, extent } = this
    this.inX = x
    this.inY = y
    const n = hull.length
    if (this.count === 1) {
      shares[0] = 1
      return true
    }
    let isInside = n > 2
    let best = Infinity
    let from = 0
    let to = 0
    let share = 0
    for (let k = 0; k < n; k++) {
      const [a, b] = [hull[k]!, hull[(k + 1) % n]!]
      const [ax, ay, bx, by] = [sites[2 * a]!, sites[2 * a + 1]!, sites[2 * b]!, sites[2 * b + 1]!]
      const [dx, dy] = [bx - ax, by - ay]
      const length = Math.hypot(dx, dy)
      if ((dx * (y - ay) - dy * (x - ax)) / length <= 1e-7 * extent) isInside = false
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (length * length)))
      const far = Math.hypot(x - ax - t * dx, y - ay - t * dy)
      if (far >= best) continue
      best = far
      from = a
      to = b
      share = t
    }
    if (isInside) return false
    shares[from] = 1 - share
    shares[to] = shares[to]! + share
    return true
  }

  /** Turns coordinates into what values and slopes of the sites count. */
  private bernstein(): void {
    const { near, nearCount: m, shares, sites } = this
    for (let a = 0; a < m; a++) {
      const i = near[a]!
      const l = shares[i]!
      this.value[i]! += l * l * l
      for (let b = 0; b < m; b++) {
        const j = near[b]!
        if (j !== i) this.control(i, j, 3 * l * l * shares[j]!, sites)
      }
      for (let b = a + 1; b < m; b++)
        for (let c = b + 1; c < m; c++) {
          const [j, k] = [near[b]!, near[c]!]
          // The middle control value is the mean of the six around it: linear functions stay as they are.
          const w = l * shares[j]! * shares[k]!
          this.control(i, j, w, sites)
          this.control(i, k, w, sites)
          this.control(j, i, w, sites)
          this.control(j, k, w, sites)
          this.control(k, i, w, sites)
          this.control(k, j, w, sites)
        }
    }
  }

  /** Adds a control value beside site i towards site j. */
  private control(i: number, j: number, weight: number, sites: Float64Array): void {
    this.value[i]! += weight
    this.slopeX[i]! += (weight * (sites[2 * j]! - sites[2 * i]!)) / 3
    this.slopeY[i]! += (weight * (sites[2 * j + 1]! - sites[2 * i + 1]!)) / 3
  }

  /**
   * Slopes of values at the sites: least squares through each over all others, nearer ones counting more.
   *
   * @param values [n]
   * @param overshoots leaves them as they are; else they are made weaker until no control value lies outside of the two sites
   *   that it lies between
   * @param out [2n] along x and y
   */
  slopes(values: Float64Array, overshoots: boolean, out: Float64Array): void {
    for (let i = 0; i < this.count; i++) {
      this.slopeAt(values, i, out)
      if (!overshoots) this.limit(values, i, out)
    }
  }

  private slopeAt(values: Float64Array, i: number, out: Float64Array): void {
    const { sites, count, extent } = this
    let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0]
    for (let j = 0; j < count; j++) {
      if (j === i) continue
      const x = (sites[2 * j]! - sites[2 * i]!) / extent
      const y = (sites[2 * j + 1]! - sites[2 * i + 1]!) / extent
      const w = 1 / (x * x + y * y) ** 2
      const z = values[j]! - values[i]!
      xx += w * x * x
      xy += w * x * y
      yy += w * y * y
      xz += w * x * z
      yz += w * y * z
    }
    // Sites on one line say nothing of the way across: there the slope is none.
    const ridge = 1e-12 * (xx + yy) + 1e-300
    const det = (xx + ridge) * (yy + ridge) - xy * xy
    out[2 * i] = (xz * (yy + ridge) - yz * xy) / det / extent
    out[2 * i + 1] = (yz * (xx + ridge) - xz * xy) / det / extent
  }

  private limit(values: Float64Array, i: number, out: Float64Array): void {
    const { sites, count } = this
    let share = 1
    for (let j = 0; j < count; j++) {
      if (j === i) continue
      const rise = (out[2 * i]! * (sites[2 * j]! - sites[2 * i]!) + out[2 * i + 1]! * (sites[2 * j + 1]! - sites[2 * i + 1]!)) / 3
      const room = values[j]! - values[i]!
      if (Math.abs(rise) < 1e-12 * (1 + Math.abs(values[i]!))) continue
      share = rise * room <= 0 ? 0 : Math.min(share, room / rise)
    }
    out[2 * i]! *= Math.max(0, share)
    out[2 * i + 1]! *= Math.max(0, share)
  }
}

/** Corners of the convex hull, counter-clockwise as numbers run (Andrew 1979); both ends where all lie on one line. */
function hullOf(sites: Float64Array): number[] {
  const order = Array.from({ length: sites.length / 2 }, (_, i) => i).sort(
    (a, b) => sites[2 * a]! - sites[2 * b]! || sites[2 * a + 1]! - sites[2 * b + 1]!,
  )
  const turn = (o: number, a: number, b: number): number =>
    (sites[2 * a]! - sites[2 * o]!) * (sites[2 * b + 1]! - sites[2 * o + 1]!) -
    (sites[2 * a + 1]! - sites[2 * o + 1]!) * (sites[2 * b]! - sites[2 * o]!)
  const half = (list: readonly number[]): number[] => {
    const out: number[] = []
    for (const i of list) {
      // Sites on a straight rim stay corners: between them the rim is told by its two nearest.
      while (out.length > 1 && turn(out.at(-2)!, out.at(-1)!, i) < 0) out.pop()
      out.push(i)
    }
    return out.slice(0, -1)
  }
  const [under, over] = [half(order), half([...order].reverse())]
  return [...under, ...over]
}

/** A convex polygon that half planes are taken from, in buffers of its own. */
class Polygon {
  size = 0
  private points = new Float64Array(128)
  private spare = new Float64Array(128)

  box(x: number, y: number, r: number): void {
    this.points.set([x - r, y - r, x + r, y - r, x + r, y + r, x - r, y + r])
    this.size = 4
  }

  copy(other: Polygon): void {
    this.points.set(other.points)
    this.size = other.size
  }

  /** Keeps what is nearer to the first spot than to the second (Sutherland and Hodgman 1974). */
  keepNearer(ax: number, ay: number, bx: number, by: number): void {
    const { points, spare, size } = this
    const [nx, ny] = [bx - ax, by - ay]
    const edge = (nx * (ax + bx) + ny * (ay + by)) / 2
    let count = 0
    for (let i = 0; i < size; i++) {
      const j = (i + 1) % size
      const [px, py, qx, qy] = [points[2 * i]!, points[2 * i + 1]!, points[2 * j]!, points[2 * j + 1]!]
      const [p, q] = [nx * px + ny * py - edge, nx * qx + ny * qy - edge]
      if (p <= 0 && count < 62) {
        spare[2 * count] = px
        spare[2 * count++ + 1] = py
      }
      if (p < 0 !== q < 0 && p !== q && p * q < 0 && count < 62) {
        const t = p / (p - q)
        spare[2 * count] = px + t * (qx - px)
        spare[2 * count++ + 1] = py + t * (qy - py)
      }
    }
    this.points = spare
    this.spare = points
    this.size = count
  }

  area(): number {
    const { points, size } = this
    let sum = 0
    // About the first corner: far corners of rim cells would cost digits.
    const [x0, y0] = [points[0]!, points[1]!]
    for (let i = 1; i + 1 < size; i++)
      sum += (points[2 * i]! - x0) * (points[2 * i + 3]! - y0) - (points[2 * i + 2]! - x0) * (points[2 * i + 1]! - y0)
    return size < 3 ? 0 : Math.abs(sum) / 2
  }
}
