/** Where a spot lies in a triangulation: its triangle and barycentric coordinates, the nearest spot of the mesh outside. */
/** Triangles over a region, to be looked up by place. */
export interface Region {
  readonly vertices: readonly number[]
  readonly triangles: readonly number[]
}

/** Where a point is: a triangle and the shares of its corners. */
export interface Spot {
  triangle: number
  u: number
  v: number
  w: number
}

const locators = new WeakMap<readonly number[], { triangles: readonly number[]; locate: (x: number, y: number) => Spot }>()

/** Finds the triangle at or nearest to a point. Made once for a region; the spot that is given back is written anew each time. */
export function locatorOf(region: Region): (x: number, y: number) => Spot {
  const known = locators.get(region.vertices)
  if (known?.triangles === region.triangles) return known.locate
  const locate = makeLocator(region)
  locators.set(region.vertices, { triangles: region.triangles, locate })
  return locate
}

/** Triangles are filed in a grid. */
function makeLocator(field: Region): (x: number, y: number) => Spot {
  const { vertices, triangles } = field
  const count = triangles.length / 3
  let minX = Infinity
  let minY = Infinity
  let maxX = -Infinity
  let maxY = -Infinity
  for (let i = 0; i < vertices.length; i += 2) {
    minX = Math.min(minX, vertices[i]!)
    maxX = Math.max(maxX, vertices[i]!)
    minY = Math.min(minY, vertices[i + 1]!)
    maxY = Math.max(maxY, vertices[i + 1]!)
  }
  const columns = Math.max(1, Math.min(64, Math.ceil(Math.sqrt(count))))
  const cell = Math.max((maxX - minX) / columns, (maxY - minY) / columns, 1e-6)
  const wide = Math.floor((maxX - minX) / cell) + 1
  const high = Math.floor((maxY - minY) / cell) + 1
  const cells: number[][] = Array.from({ length: wide * high }, () => [])
  for (let t = 0; t < count; t++) {
    const xs = [0, 1, 2].map((k) => vertices[2 * triangles[3 * t + k]!]!)
    const ys = [0, 1, 2].map((k) => vertices[2 * triangles[3 * t + k]! + 1]!)
    for (let r = Math.floor((Math.min(...ys) - minY) / cell); r <= Math.floor((Math.max(...ys) - minY) / cell); r++) {
      for (let c = Math.floor((Math.min(...xs) - minX) / cell); c <= Math.floor((Math.max(...xs) - minX) / cell); c++) {
        cells[r * wide + c]?.push(t)
      }
    }
  }
  const found: Spot = { triangle: 0, u: 1, v: 0, w: 0 }
  return (x, y) => {
    const c = Math.floor((x - minX) / cell)
    const r = Math.floor((y - minY) / cell)
    if (c >= 0 && r >= 0 && c < wide && r < high) {
      for (const t of cells[r * wide + c]!) if (within(field, t, x, y, found)) return found
    }
    const qx = Math.min(Math.max(x, minX), maxX)
    const qy = Math.min(Math.max(y, minY), maxY)
    const middleC = Math.min(wide - 1, Math.floor((qx - minX) / cell))
    const middleR = Math.min(high - 1, Math.floor((qy - minY) / cell))
    // Nothing in a ring of cells is nearer than its breadth beyond the nearest spot of the grid.
    const off = (x - qx) ** 2 + (y - qy) ** 2
    let best = Infinity
    for (let ring = 0; ring < wide + high; ring++) {
      const reach = Math.max(0, ring - 1) * cell
      if (best <= off + reach * reach) break
      for (let row = Math.max(0, middleR - ring); row <= Math.min(high - 1, middleR + ring); row++) {
        const isSide = row === middleR - ring || row === middleR + ring
        for (let column = middleC - ring; column <= middleC + ring; column += isSide || ring === 0 ? 1 : 2 * ring) {
          if (column < 0 || column >= wide) continue
          for (const t of cells[row * wide + column]!) best = closest(field, t, x, y, best, found)
        }
      }
    }
    return found
  }
}

/** Whether (x, y) lies in triangle t; then writes its barycentric coordinates. */
function within(field: Region, t: number, x: number, y: number, out: Spot): boolean {
  const { vertices: p, triangles } = field
  const a = 2 * triangles[3 * t]!
  const b = 2 * triangles[3 * t + 1]!
  const c = 2 * triangles[3 * t + 2]!
  const det = (p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (p[c]! - p[a]!)
  if (det === 0) return false
  const v = ((x - p[a]!) * (p[c + 1]! - p[a + 1]!) - (y - p[a + 1]!) * (p[c]! - p[a]!)) / det
  const w = ((p[b]! - p[a]!) * (y - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (x - p[a]!)) / det
  if (v < -1e-9 || w < -1e-9 || v + w > 1 + 1e-9) return false
  out.triangle = t
  out.u = 1 - v - w
  out.v = v
  out.w = w
  return true
}

/** Compares the edges of triangle t with the best squared distance so far; writes and returns the better one. */
function closest(field: Region, t: number, x: number, y: number, best: number, out: Spot): number {
  const { vertices: p, triangles } = field
  for (let k = 0; k < 3; k++) {
    const a = 2 * triangles[3 * t + k]!
    const b = 2 * triangles[3 * t + ((k + 1) % 3)]!
    const dx = p[b]! - p[a]!
    const dy = p[b + 1]! - p[a + 1]!
    const s = Math.min(1, Math.max(0, ((x - p[a]!) * dx + (y - p[a + 1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
    const d = (x - p[a]! - s * dx) ** 2 + (y - p[a + 1]! - s * dy) ** 2
    if (d >= best) continue
    best = d
    out.triangle = t
    out.u = k === 0 ? 1 - s : k === 2 ? s : 0
    out.v = k === 1 ? 1 - s : k === 0 ? s : 0
    out.w = k === 2 ? 1 - s : k === 1 ? s : 0
  }
  return best
}
