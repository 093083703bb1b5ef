/** Measures of triangulations. */

/**
 * Smallest angles of a triangulation, degrees: of triangles beside a corner of its outline that is sharper than 60
 * degrees (`forced`), and of all others (`free`). A mesh without any of a kind has 60 there.
 */
export function smallestAngles({ vertices: v, triangles }: { vertices: readonly number[]; triangles: readonly number[] }): {
  free: number
  forced: number
} {
  const angle = (a: number, b: number, c: number): number => {
    const [ux, uy] = [v[2 * b]! - v[2 * a]!, v[2 * b + 1]! - v[2 * a + 1]!]
    const [wx, wy] = [v[2 * c]! - v[2 * a]!, v[2 * c + 1]! - v[2 * a + 1]!]
    return (Math.abs(Math.atan2(ux * wy - uy * wx, ux * wx + uy * wy)) * 180) / Math.PI
  }
  // The angle that a mesh fills about a vertex of its rim is that of the outline's corner there.
  const edges = new Map<string, number>()
  const filled = new Map<number, number>()
  const corners: [number, number, number][] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!]
    corners.push([a, b, c])
    for (const [p, q, r] of [
      [a, b, c],
      [b, c, a],
      [c, a, b],
    ] as const) {
      filled.set(p, (filled.get(p) ?? 0) + angle(p, q, r))
      const key = p < q ? `${p},${q}` : `${q},${p}`
      edges.set(key, (edges.get(key) ?? 0) + 1)
    }
  }
  const rim = new Set([...edges].filter(([, n]) => n === 1).flatMap(([key]) => key.split(',').map(Number)))
  const sharp = new Set([...filled].filter(([p, sum]) => rim.has(p) && sum < 60).map(([p]) => p))
  const out = { free: 60, forced: 60 }
  for (const [a, b, c] of corners) {
    const least = Math.min(angle(a, b, c), angle(b, c, a), angle(c, a, b))
    const kind = [a, b, c].some((p) => sharp.has(p)) ? 'forced' : 'free'
    out[kind] = Math.min(out[kind], least)
  }
  return out
}

/** A grid of points 10 px apart, in rows of triangles. */
export const evenGrid = (columns: number, rows: number): { vertices: number[]; triangles: number[] } => grid(columns, rows, 0)

/** A grid of points a little off their places, 10 px apart, in rows of triangles. */
export const wobblyGrid = (columns: number, rows: number): { vertices: number[]; triangles: number[] } => grid(columns, rows, 2)

function grid(columns: number, rows: number, wobble: number): { vertices: number[]; triangles: number[] } {
  const vertices: number[] = []
  const triangles: number[] = []
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const i = y * columns + x
      vertices.push(10 * x + wobble * Math.sin(i * 12.9898), 10 * y + wobble * Math.cos(i * 78.233))
      if (x < columns - 1 && y < rows - 1) triangles.push(i, i + 1, i + columns + 1, i, i + columns + 1, i + columns)
    }
  return { vertices, triangles }
}
