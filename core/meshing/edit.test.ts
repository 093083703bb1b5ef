import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Mesh } from '../maths/geometry/editableMesh'
import { boundaryLoops, edgeKey } from '../maths/geometry/meshOutline'
import { evenGrid, wobblyGrid } from '../test/meshes'
import { addMeshPoint, deleteMeshEdge, deleteMeshPoints, joinMeshPoints, meshEdges, moveMeshPoints, splitMeshEdges } from './edit'

const areas = ({ vertices: v, triangles }: Mesh): number[] => {
  const out: number[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [2 * triangles[t]!, 2 * triangles[t + 1]!, 2 * triangles[t + 2]!]
    out.push(((v[b]! - v[a]!) * (v[c + 1]! - v[a + 1]!) - (v[b + 1]! - v[a + 1]!) * (v[c]! - v[a]!)) / 2)
  }
  return out
}
const areaOf = (mesh: Mesh): number => areas(mesh).reduce((a, b) => a + b, 0)

/** Area inside the outline, from the loops alone. */
function outlineArea(mesh: Mesh): number {
  const at = (v: number): [number, number] => [mesh.vertices[2 * v]!, mesh.vertices[2 * v + 1]!]
  return boundaryLoops(mesh.triangles).reduce((total, loop) => {
    const twice = loop.reduce((sum, v, i) => {
      const [x0, y0] = at(v)
      const [x1, y1] = at(loop[(i + 1) % loop.length]!)
      return sum + x0 * y1 - x1 * y0
    }, 0)
    return total + twice / 2
  }, 0)
}

/** All turn the same way, no edge belongs to three, and they cover their outline once. */
function expectSound(mesh: Mesh): void {
  expect(Math.min(...areas(mesh))).toBeGreaterThan(0)
  const directed = new Set<string>()
  mesh.triangles.forEach((a, i) => {
    const key = `${a}>${mesh.triangles[i % 3 === 2 ? i - 2 : i + 1]!}`
    expect(directed.has(key)).toBe(false)
    directed.add(key)
  })
  expect(areaOf(mesh)).toBeCloseTo(outlineArea(mesh), 6)
  expect(new Set(mesh.triangles).size).toBe(mesh.vertices.length / 2)
}

describe('a mesh edited by hand', () => {
  test('a point inside splits a triangle and keeps the outline', () => {
    const grid = evenGrid(4, 4)
    const { mesh, point } = addMeshPoint(grid, 14, 16.5)
    expectSound(mesh)
    expect([mesh.vertices[2 * point], mesh.vertices[2 * point + 1]]).toEqual([14, 16.5])
    expect(mesh.triangles.length).toBe(grid.triangles.length + 6)
    expect(areaOf(mesh)).toBeCloseTo(areaOf(grid), 9)
  })

  test('a point near an edge lies on it, one near a point is that point', () => {
    const grid = evenGrid(4, 4)
    const rim = addMeshPoint(grid, 14, 0.2)
    expect(rim.mesh.vertices[2 * rim.point + 1]).toBe(0)
    expectSound(rim.mesh)
    expect(addMeshPoint(grid, 10.1, 10.2).mesh.vertices.length).toBe(grid.vertices.length)
  })

  test('a point outside draws the mesh to it, and is refused where others lie between', () => {
    const grid = evenGrid(3, 3)
    const { mesh } = addMeshPoint(grid, 26, 9)
    expectSound(mesh)
    expect(areaOf(mesh)).toBeCloseTo(400 + 30, 9)
    // A ring with a gap: the far side of the gap is hidden behind the near one.
    const cut = deleteMeshPoints(evenGrid(5, 5), [12])
    expectSound(addMeshPoint(cut, 60, 20).mesh)
  })

  test('moving stops before a triangle turns over', () => {
    const grid = evenGrid(3, 3)
    const moved = moveMeshPoints(grid, new Map([[4, [10 + 100, 10]]]))
    expectSound(moved)
    expect(moved.vertices[8]).toBeGreaterThan(15)
    expect(moved.vertices[8]).toBeLessThan(20)
    const all = new Map(Array.from({ length: 9 }, (_, v) => [v, [grid.vertices[2 * v]! + 100, grid.vertices[2 * v + 1]! - 50] as const]))
    expect(moveMeshPoints(grid, all).vertices[0]).toBe(100)
  })

  test('a point taken out of the middle leaves no hole, one at a corner takes the corner along', () => {
    const grid = evenGrid(4, 4)
    const middle = deleteMeshPoints(grid, [5])
    expectSound(middle)
    expect(areaOf(middle)).toBeCloseTo(900, 9)
    const corner = deleteMeshPoints(grid, [0])
    expectSound(corner)
    expect(areaOf(corner)).toBeLessThan(900)
    expect(() => deleteMeshPoints({ vertices: [0, 0, 9, 0, 0, 9], triangles: [0, 1, 2] }, [0])).toThrow('a triangle at least')
  })

  test('two points are joined by turning what lies between', () => {
    const grid = wobblyGrid(8, 8)
    const joined = joinMeshPoints(grid, 9, 54 - 8)
    expect(meshEdges(joined).has(edgeKey(9, 46))).toBe(true)
    expectSound(joined)
    expect(joined.vertices).toEqual(grid.vertices)
    expect(() => joinMeshPoints(evenGrid(3, 3), 0, 2)).toThrow('Another point lies between')
  })

  test('a notch of the rim is filled by joining its ends', () => {
    const notched = deleteMeshEdge(evenGrid(3, 3), 0, 1)
    expect(areaOf(notched)).toBeCloseTo(350, 9)
    const filled = joinMeshPoints(notched, 0, 1)
    expect(areaOf(filled)).toBeCloseTo(400, 9)
    expectSound(filled)
  })

  test('an inner edge turns into the other diagonal, an edge of a folded pair stays', () => {
    const square = { vertices: [0, 0, 10, 0, 10, 10, 0, 10], triangles: [0, 1, 2, 0, 2, 3] }
    expect([...meshEdges(deleteMeshEdge(square, 0, 2))]).toContain(edgeKey(1, 3))
    const arrow = { vertices: [0, 0, 10, 0, 3, 3, 0, 10], triangles: [0, 1, 2, 0, 2, 3] }
    expect(() => deleteMeshEdge(arrow, 0, 2)).toThrow('would fold')
  })

  test('split edges leave no point standing on an edge', () => {
    const grid = wobblyGrid(6, 6)
    const some = new Set([...meshEdges(grid)].filter((_, i) => i % 3 !== 0))
    const split = splitMeshEdges(grid, some)
    expectSound(split)
    expect(split.vertices.length / 2).toBe(36 + some.size)
    expect(areaOf(split)).toBeCloseTo(areaOf(grid), 9)
  })

  test('any sequence of edits leaves a sound mesh', () => {
    const step = fc.record({
      what: fc.constantFrom('add', 'move', 'delete', 'join', 'turn'),
      x: fc.double({ min: -5, max: 55, noNaN: true }),
      y: fc.double({ min: -5, max: 55, noNaN: true }),
      v: fc.nat(1000),
      w: fc.nat(1000),
    })
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
        let mesh: Mesh = wobblyGrid(6, 6)
        for (const { what, x, y, v, w } of steps) {
          const n = mesh.vertices.length / 2
          const [a, b] = [v % n, w % n]
          try {
            if (what === 'add') mesh = addMeshPoint(mesh, x, y).mesh
            else if (what === 'move') mesh = moveMeshPoints(mesh, new Map([[a, [x, y]]]))
            else if (what === 'delete') mesh = deleteMeshPoints(mesh, [a])
            else if (what === 'join') mesh = joinMeshPoints(mesh, a, b)
            else mesh = deleteMeshEdge(mesh, mesh.triangles[v % mesh.triangles.length]!, mesh.triangles[w % mesh.triangles.length]!)
          } catch (error) {
            expect((error as Error).message).toMatch(/\.$/)
          }
          expect(Math.min(...areas(mesh))).toBeGreaterThan(0)
        }
      }),
      { numRuns: 300, seed: 5 },
    )
  })
})
