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

/** Natural neighbours of a spot among scattered sites, and how much each counts. */
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
    this.spot[0] = x
    this.spot[1] = y
    this.lookAtSpot()
  }

  /** The same for what was written into `spot`. Numbers go in arrays here: handed on, each would be an object of its own. */
  lookAtSpot(): void {
    this.value.fill(0)
    this.slopeX.fill(0)
    this.slopeY.fill(0)
    this.findShares()
    this.nearCount = 0
    for (let i = 0; i < this.count; i++) if (this.shares[i]! > 0) this.near[this.nearCount++] = i
    this.bernstein()
  }

  /** Natural neighbour coordinates of the spot, brought into the hull. */
  private findShares(): void {
    const { sites, shares, count, extent, cell, stolen } = this
    shares.fill(0)
    if (this.within()) return
    const x = this.spot[0]!
    const y = this.spot[1]!
    for (let i = 0; i < count; i++) {
      const dx = sites[2 * i]! - x
      const dy = sites[2 * i + 1]! - y
      if (dx * dx + dy * dy > SAME * SAME * extent * extent) continue
      shares[i] = 1
      return
    }
    cell.box(this.spot, BOX * extent)
    for (let i = 0; i < count; i++) cell.keepNearer(this.spot, 0, sites, i)
    let sum = 0
    for (let i = 0; i < count; i++) {
      stolen.copy(cell)
      for (let j = 0; j < count && stolen.size > 0; j++) if (j !== i) stolen.keepNearer(sites, i, sites, j)
      stolen.writeArea(shares, i)
      sum += shares[i]!
    }
    for (let i = 0; i < count; i++) shares[i] = shares[i]! / sum < 1e-9 ? 0 : shares[i]! / sum
  }

  /** Where is looked, x and y. */
  readonly spot = new Float64Array(2)

  /** Tells whether the spot lies on the rim of the hull or beyond: there two corners alone count, and their shares are set. */
  private within(): boolean {
    const { hull, sites, shares, extent } = this
    const x = this.spot[0]!
    const y = this.spot[1]!
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
      const a = hull[k]!
      const b = hull[(k + 1) % n]!
      const ax = sites[2 * a]!
      const ay = sites[2 * a + 1]!
      const dx = sites[2 * b]! - ax
      const dy = sites[2 * b + 1]! - ay
      const square = dx * dx + dy * dy
      if (dx * (y - ay) - dy * (x - ax) <= 1e-7 * extent * Math.sqrt(square)) isInside = false
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square))
      const fx = x - ax - t * dx
      const fy = y - ay - t * dy
      const far = fx * fx + fy * fy
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
        if (j === i) continue
        this.weight[0] = 3 * l * l * shares[j]!
        this.control(i, j, sites)
      }
      for (let b = a + 1; b < m; b++)
        for (let c = b + 1; c < m; c++) {
          const j = near[b]!
          const k = near[c]!
          // The middle control value is the mean of the six around it: linear functions stay as they are.
          this.weight[0] = l * shares[j]! * shares[k]!
          this.control(i, j, sites)
          this.control(i, k, sites)
          this.control(j, i, sites)
          this.control(j, k, sites)
          this.control(k, i, sites)
          this.control(k, j, sites)
        }
    }
  }

  /** Of the control value that is being added. */
  private readonly weight = new Float64Array(1)

  /** Adds a control value beside site i towards site j. */
  private control(i: number, j: number, sites: Float64Array): void {
    const weight = this.weight[0]!
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

  box(middle: Float64Array, r: number): void {
    for (let k = 0; k < 4; k++) {
      this.points[2 * k] = middle[0]! + (k === 1 || k === 2 ? r : -r)
      this.points[2 * k + 1] = middle[1]! + (k > 1 ? r : -r)
    }
    this.size = 4
  }

  copy(other: Polygon): void {
    this.points.set(other.points)
    this.size = other.size
  }

  /** Keeps what is nearer to the first spot than to the second (Sutherland and Hodgman 1974). */
  keepNearer(first: Float64Array, a: number, second: Float64Array, b: number): void {
    const { points, spare, size } = this
    const nx = second[2 * b]! - first[2 * a]!
    const ny = second[2 * b + 1]! - first[2 * a + 1]!
    const edge = (nx * (first[2 * a]! + second[2 * b]!) + ny * (first[2 * a + 1]! + second[2 * b + 1]!)) / 2
    let count = 0
    for (let i = 0; i < size; i++) {
      const j = (i + 1) % size
      const px = points[2 * i]!
      const py = points[2 * i + 1]!
      const qx = points[2 * j]!
      const qy = points[2 * j + 1]!
      const p = nx * px + ny * py - edge
      const q = nx * qx + ny * qy - edge
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

  writeArea(out: Float64Array, at: number): void {
    const { points, size } = this
    let sum = 0
    // About the first corner: far corners of rim cells would cost digits.
    const x0 = points[0]!
    const y0 = points[1]!
    for (let i = 1; i + 1 < size; i++)
      sum += (points[2 * i]! - x0) * (points[2 * i + 3]! - y0) - (points[2 * i + 2]! - x0) * (points[2 * i + 1]! - y0)
    out[at] = size < 3 ? 0 : Math.abs(sum) / 2
  }
}
