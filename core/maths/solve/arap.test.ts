import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { wobblyGrid } from '../../test/meshes'
import { Arap, type HeldSpot } from './arap'

const atVertex = (v: number): HeldSpot => ({ corners: [v, v, v], shares: [1, 0, 0] })
const mesh = wobblyGrid(20, 12)
const HELD = [0, 19, 220, 239, 110]
const arap = new Arap(mesh, HELD.map(atVertex))
const placesOf = (move: (x: number, y: number) => readonly [number, number]): Float64Array =>
  Float64Array.from(HELD.flatMap((v) => [...move(mesh.vertices[2 * v]!, mesh.vertices[2 * v + 1]!)]))

describe('as-rigid-as-possible deformation', () => {
  test('rigid motions of the handles leave no energy, and move everything along', () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.integer({ min: -300, max: 300 }), (a, shift) => {
        const move = (x: number, y: number) =>
          [Math.cos(a) * x - Math.sin(a) * y + shift, Math.sin(a) * x + Math.cos(a) * y - shift] as const
        arap.solve(placesOf(move), 2)
        expect(arap.energy()).toBeLessThan(1e-4)
        for (let v = 0; v < 240; v += 7) {
          const [x, y] = move(mesh.vertices[2 * v]!, mesh.vertices[2 * v + 1]!)
          expect(Math.hypot(arap.places[2 * v]! - x, arap.places[2 * v + 1]! - y)).toBeLessThan(1e-3)
        }
      }),
      { numRuns: 30 },
    )
  })

  test('the energy falls with each iteration, and the first guess is near the end', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -40, max: 40, noNaN: true }), { minLength: 10, maxLength: 10 }), (by) => {
        const targets = placesOf((x, y) => [x, y]).map((v, i) => v + by[i]!)
        arap.begin(targets)
        // A held spot is drawn to its place first: from then on every step can only lose energy.
        arap.solve(targets, 1)
        let last = arap.energy()
        for (let k = 2; k < 9; k++) {
          arap.solve(targets, k)
          expect(arap.energy()).toBeLessThan(last + 1e-6 * last + 1e-9)
          last = arap.energy()
        }
      }),
      { numRuns: 20 },
    )
  })

  test('held spots are where they are held, in the midst of triangles, too', () => {
    const spot: HeldSpot = { corners: [0, 1, 21], shares: [0.2, 0.3, 0.5] }
    const held = new Arap(mesh, [spot, atVertex(239)])
    held.solve(Float64Array.of(40, -30, 200, 150), 3)
    const at = (axis: number): number => spot.corners.reduce((sum, c, k) => sum + spot.shares[k]! * held.places[2 * c + axis]!, 0)
    expect(at(0)).toBeCloseTo(40, 2)
    expect(at(1)).toBeCloseTo(-30, 2)
  })

  test('splints keep their length where all around gives way', () => {
    const bar = Array.from({ length: 8 }, (_, k) => 105 + k)
    const length = (a: Arap): number =>
      Math.hypot(a.places[2 * bar[7]!]! - a.places[2 * bar[0]!]!, a.places[2 * bar[7]! + 1]! - a.places[2 * bar[0]! + 1]!)
    const rest = length(new Arap(mesh, []))
    const targets = Float64Array.of(0, 0, 380, 0)
    const spots = [atVertex(100), atVertex(119)]
    const soft = new Arap(mesh, spots)
    const stiff = new Arap(mesh, spots, { rigid: [bar] })
    soft.solve(targets, 30)
    stiff.solve(targets, 30)
    expect(length(soft)).toBeGreaterThan(1.3 * rest)
    expect(length(stiff)).toBeLessThan(1.03 * rest)
  })

  test('stiff spots give way less than soft ones', () => {
    const stiffness = Float64Array.from({ length: 240 }, (_, v) => (v % 20 < 10 ? 20 : 1))
    const halves = new Arap(mesh, [atVertex(100), atVertex(119)], { stiffness })
    halves.solve(Float64Array.of(0, 50, 300, 50), 20)
    const gap = (from: number, to: number): number => halves.places[2 * to]! - halves.places[2 * from]!
    expect(gap(111, 118)).toBeGreaterThan(1.2 * gap(101, 108))
  })

  test('flat triangles, coincident handles and pieces that nothing holds give finite places', () => {
    const flat = { vertices: [0, 0, 10, 0, 20, 0, 5, 8, 100, 100, 110, 100, 105, 108], triangles: [0, 1, 2, 0, 1, 3, 4, 5, 6] }
    const held = new Arap(flat, [atVertex(0), atVertex(0), atVertex(2)])
    held.solve(Float64Array.of(0, 0, 3, 0, 40, 0), 4)
    for (const v of held.places) expect(Number.isFinite(v)).toBe(true)
    expect(held.places[8]).toBeCloseTo(100, 3)
    expect(new Arap(flat, []).energy()).toBeLessThan(1e-9)
  })
})
