import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { medialLine } from '../../artwork/medial'
import { alongLine } from './polyline'
import { Delaunay } from './delaunay'
import { largestCircle, signedDistance } from './largestCircle'
import { boundaryLoops } from './meshOutline'
import { grow, traceBorders } from './trace'

const box = (x: number, y: number, w: number, h: number): [number, number][] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
  [x, y],
]

describe('Delaunay triangulation', () => {
  test('no point lies in the circle of a triangle, whatever the points', () => {
    const spot = fc.tuple(fc.integer({ min: 1, max: 99 }), fc.integer({ min: 1, max: 99 }))
    fc.assert(
      fc.property(fc.array(spot, { minLength: 1, maxLength: 60 }), (points) => {
        const mesh = new Delaunay(0, 0, 100, 100)
        for (const [x, y] of points) mesh.insert(x, y)
        let area = 0
        for (let t = 0; t < mesh.vertices.length; t += 3) {
          if (mesh.vertices[t]! < 0) continue
          const [a, b, c] = [0, 1, 2].map((k) => mesh.vertices[t + k]!).map((v) => [mesh.points[2 * v]!, mesh.points[2 * v + 1]!])
          const [[ax, ay], [bx, by], [cx, cy]] = [a!, b!, c!] as [number[], number[], number[]] as [
            [number, number],
            [number, number],
            [number, number],
          ]
          area += ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / 2
          const d = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
          const ux = ((ax * ax + ay * ay) * (by - cy) + (bx * bx + by * by) * (cy - ay) + (cx * cx + cy * cy) * (ay - by)) / d
          const uy = ((ax * ax + ay * ay) * (cx - bx) + (bx * bx + by * by) * (ax - cx) + (cx * cx + cy * cy) * (bx - ax)) / d
          const r = Math.hypot(ax - ux, ay - uy)
          for (const [x, y] of points) expect(Math.hypot(x - ux, y - uy)).toBeGreaterThan(r - 1e-6)
        }
        // The triangles fill the box.
        expect(area).toBeCloseTo(10000, 6)
      }),
      { numRuns: 60 },
    )
  })

  test('a point that is there already gives its vertex; one outside none', () => {
    const mesh = new Delaunay(0, 0, 10, 10)
    const vertex = mesh.insert(4, 4)
    expect(mesh.insert(4, 4)).toBe(vertex)
    expect(mesh.insert(20, 4)).toBeNull()
  })
})

describe('tracing', () => {
  const mask = (...rows: string[]) => ({
    width: rows[0]!.length,
    height: rows.length,
    cells: Uint8Array.from(rows.join(''), (c) => Number(c === '#')),
  })

  test('outlines run one way, holes the other; cells that touch at a corner stay apart', () => {
    expect(traceBorders(mask('##', '##'))).toEqual([[[2, 0], [2, 2], [0, 2], [0, 0]]]) // prettier-ignore
    expect(traceBorders(mask('###', '#.#', '###'))).toHaveLength(2)
    expect(traceBorders(mask('#.', '.#'))).toHaveLength(2)
    expect(traceBorders(mask('..'))).toEqual([])
  })

  test('growing reaches in all eight directions', () => {
    const grown = grow(mask('#'), 2)
    expect([grown.width, grown.height, grown.cells.reduce((a, b) => a + b, 0)]).toEqual([5, 5, 25])
  })

  test('the rim of a mesh in loops', () => {
    // A square of two triangles, and another triangle apart.
    const loops = boundaryLoops([0, 1, 2, 0, 2, 3, 4, 5, 6])
    expect(loops.map((l) => l.length).sort()).toEqual([3, 4])
  })
})

describe('the largest circle', () => {
  test('sits in the middle of a square, and in the bulb of a key', () => {
    expect(largestCircle([[box(0, 0, 10, 10)]])!.radius).toBeCloseTo(5, 0)
    const key = [[[0, 0], [20, 0], [20, 8], [60, 8], [60, 12], [20, 12], [20, 20], [0, 20], [0, 0]]] as [number, number][][] // prettier-ignore
    const { centre, radius } = largestCircle([key], 0.01)!
    expect(radius).toBeCloseTo(10, 1)
    expect(centre.x).toBeCloseTo(10, 0)
    expect(largestCircle([])).toBeNull()
  })

  test('holes keep it away', () => {
    const { centre } = largestCircle([[box(0, 0, 30, 10), box(1, 1, 10, 8)]], 0.01)!
    expect(centre.x).toBeGreaterThan(14)
    expect(signedDistance([[box(0, 0, 30, 10)]], -3, 5)).toBeCloseTo(-3)
  })
})

describe('the medial line', () => {
  test('runs along a limb, midway between its sides, from end to end', () => {
    const line = medialLine([[box(0, 0, 200, 20)]])
    const xs = line.map((p) => p.x)
    expect(Math.min(...xs)).toBeLessThan(6)
    expect(Math.max(...xs)).toBeGreaterThan(194)
    for (const p of line.filter((q) => q.x > 20 && q.x < 180)) expect(Math.abs(p.y - 10)).toBeLessThan(3)
    expect(alongLine(line, 0.5).x).toBeCloseTo(100, -1)
  })

  test('goes round a corner', () => {
    const corner = [[0, 0], [100, 0], [100, 100], [80, 100], [80, 20], [0, 20], [0, 0]] as [number, number][] // prettier-ignore
    const line = medialLine([[corner]])
    const ends = [line[0]!, line.at(-1)!].sort((a, b) => a.x - b.x)
    expect(ends[0]!.x).toBeLessThan(8)
    expect(ends[1]!.y).toBeGreaterThan(92)
  })

  test('of nothing there is none', () => expect(medialLine([])).toEqual([]))
})
