import { describe, expect, test } from 'vitest'
import { IDENTITY } from '../maths/geometry/affine'
import { box } from '../test/puppets'
import { meshRegion } from './mesh'
import { polygonsArea, regionOf } from './region'

function meshArea(mesh: { vertices: number[]; triangles: number[] }): number {
  let sum = 0
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => 2 * mesh.triangles[t + k]!) as [number, number, number]
    const v = mesh.vertices
    sum += Math.abs((v[b]! - v[a]!) * (v[c + 1]! - v[a + 1]!) - (v[b + 1]! - v[a + 1]!) * (v[c]! - v[a]!)) / 2
  }
  return sum
}

describe('regions and meshes', () => {
  test('overlapping drawings are one region', () => {
    const region = regionOf(
      [box('a', 0, 0, 100, 50), box('b', 50, 0, 100, 50)].map((drawing) => ({ drawing, map: IDENTITY })),
      0.25,
    )
    expect(region).toHaveLength(1)
    expect(polygonsArea(region)).toBeCloseTo(7500)
  })

  test('the mesh covers the region and nothing else, holes left open', () => {
    const ring = [
      [
        [
          [0, 0],
          [90, 0],
          [90, 90],
          [0, 90],
          [0, 0],
        ],
        [
          [30, 30],
          [30, 60],
          [60, 60],
          [60, 30],
          [30, 30],
        ],
      ],
    ] as [number, number][][][]
    expect(meshArea(meshRegion(ring, 7))).toBeCloseTo(8100 - 900, 0)
  })

  test('no triangle is much larger than the spacing asks for', () => {
    const mesh = meshRegion(regionOf([{ drawing: box('a', 0, 0, 200, 60), map: IDENTITY }], 0.25), 8)
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      for (let k = 0; k < 3; k++) {
        const a = 2 * mesh.triangles[t + k]!
        const b = 2 * mesh.triangles[t + ((k + 1) % 3)]!
        expect(Math.hypot(mesh.vertices[a]! - mesh.vertices[b]!, mesh.vertices[a + 1]! - mesh.vertices[b + 1]!)).toBeLessThan(18)
      }
    }
  })

  test('a line alone gives a ribbon', () => {
    const drawing = box('a', 0, 0, 100, 0)
    const shape = drawing.shapes[0]!
    const line = {
      paint: { kind: 'flat' as const, colour: '#000000' },
      alpha: 1,
      width: 10,
      cap: 'round' as const,
      join: 'round' as const,
      miter: 4,
      dash: null,
      pen: null,
    }
    const path = { closed: false, ids: [0, 1], anchors: [0, 0, 100, 0], handles: [0, 0, 0, 0, 0, 0, 0, 0] }
    const region = regionOf([{ drawing: { ...drawing, shapes: [{ ...shape, ink: null, line, paths: [path] }] }, map: IDENTITY }], 0.25)
    expect(polygonsArea(region)).toBeCloseTo(110 * 10)
  })

  test('an empty region gives an empty mesh', () => {
    expect(meshRegion([], 5)).toEqual({ vertices: [], triangles: [] })
  })
})
