/**
 * Areas of what closed outlines enclose, by how often they go round: twice where an outline lies over itself, the other way round where
 * it is folded through itself. Winding numbers of the middles of a grid's cells, row by row (the scan of Wylie and others 1967).
 */
import type { Bounds } from '../maths/geometry/bounds'

export interface Windings {
  /** Enclosed at all. */
  readonly once: number
  /** Enclosed twice or more. */
  readonly twice: number
  /** Enclosed against the way in which most is. */
  readonly against: number
}

const CELLS = 64

interface Crossing {
  readonly x: number
  readonly way: 1 | -1
}

function crossingsAt(lines: readonly (readonly number[])[], y: number): Crossing[] {
  const out: Crossing[] = []
  for (const points of lines) {
    const n = points.length
    for (let i = 0; i < n; i += 2) {
      const [x0, y0, x1, y1] = [points[i]!, points[i + 1]!, points[(i + 2) % n]!, points[(i + 3) % n]!]
      if (y0 > y === y1 > y) continue
      out.push({ x: x0 + ((y - y0) / (y1 - y0)) * (x1 - x0), way: y1 > y0 ? 1 : -1 })
    }
  }
  return out.sort((a, b) => a.x - b.x)
}

/**
 * Measures outlines together.
 *
 * @param lines closed outlines as flat x,y pairs
 * @param box that holds them
 * @returns areas in the squares of their units, true to a cell of the grid: a 64th of the box each way
 */
export function windingsOf(lines: readonly (readonly number[])[], { minX, minY, maxX, maxY }: Bounds): Windings {
  const high = (maxY - minY) / CELLS
  let [once, twice, right, left] = [0, 0, 0, 0]
  if (!(high > 0) || !(maxX > minX)) return { once, twice, against: 0 }
  for (let row = 0; row < CELLS; row++) {
    const crossings = crossingsAt(lines, minY + (row + 0.5) * high)
    let winding = 0
    for (let k = 0; k + 1 < crossings.length; k++) {
      winding += crossings[k]!.way
      if (winding === 0) continue
      const area = (crossings[k + 1]!.x - crossings[k]!.x) * high
      once += area
      if (Math.abs(winding) > 1) twice += area
      if (winding > 0) right += area
      else left += area
    }
  }
  return { once, twice, against: Math.min(left, right) }
}
