import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Match } from './records'
import { matchedSpots } from './likeness'
import { corrected, inverse, lengthsOf, matched, type Outline } from './outlines'
import { pairsOf, type Piece } from './pairing'
import { meanValueWeights } from './warping'

const circle = (count: number, turn = 0, squash = 1): Float64Array =>
  Float64Array.from({ length: 2 * count }, (_, i) => {
    const angle = (2 * Math.PI * (i >> 1)) / count + turn
    return i % 2 === 0 ? 100 * Math.cos(angle) : 100 * squash * Math.sin(angle)
  })

describe('mean value coordinates', () => {
  const star = Float64Array.from([0, 0, 40, -30, 100, 0, 60, 40, 90, 100, 40, 70, -10, 100, 20, 40])
  const weighted = (x: number, y: number): { weights: Float64Array; back: [number, number] } => {
    const weights = new Float64Array(star.length / 2)
    meanValueWeights(x, y, star, weights)
    const sum = (axis: number): number => weights.reduce((s, w, k) => s + w * star[2 * k + axis]!, 0)
    return { weights, back: [sum(0), sum(1)] }
  }

  test('sum to one and give the spot itself, inside and outside', () => {
    fc.assert(
      fc.property(fc.double({ min: -60, max: 160, noNaN: true }), fc.double({ min: -60, max: 160, noNaN: true }), (x, y) => {
        const { weights, back } = weighted(x, y)
        expect(weights.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6)
        expect(back[0]).toBeCloseTo(x, 4)
        expect(back[1]).toBeCloseTo(y, 4)
      }),
    )
  })

  test('on a corner or an edge are those of it alone, also where a corner is listed twice', () => {
    expect([...weighted(100, 0).weights]).toEqual([0, 0, 1, 0, 0, 0, 0, 0])
    const { weights } = weighted(20, -15)
    expect(weights[0]).toBeCloseTo(0.5, 9)
    expect(weights[1]).toBeCloseTo(0.5, 9)
    const twice = new Float64Array(5)
    meanValueWeights(3, 2, Float64Array.from([0, 0, 0, 0, 10, 0, 10, 10, 0, 10]), twice)
    expect(twice.every(Number.isFinite)).toBe(true)
    expect(twice.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9)
  })
})

describe('matched spots', () => {
  test('of an outline and itself, begun elsewhere, are its own', () => {
    const own = circle(40, 0, 0.6)
    // A turn of eight spots of the same ellipse.
    const begun = Float64Array.from({ length: own.length }, (_, i) => own[(i + 16) % own.length]!)
    const pairs = matchedSpots(begun, own)
    expect(pairs).toHaveLength(40)
    expect(pairs.every(([a, b]) => (a + 8) % 40 === b)).toBe(true)
  })

  test('go once round both in order, and leave nobody out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 40 }),
        fc.integer({ min: 8, max: 40 }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (n, m, squash) => {
          const pairs = matchedSpots(circle(n), circle(m, 0.3, squash))
          expect(new Set(pairs.map((p) => p[0])).size).toBe(n)
          expect(new Set(pairs.map((p) => p[1])).size).toBe(m)
          for (const [k, [a, b]] of pairs.entries()) {
            const [c, d] = pairs[(k + 1) % pairs.length]!
            expect([0, 1]).toContain((c - a + n) % n)
            expect([0, 1]).toContain((d - b + m) % m)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('a correction', () => {
  const points = Float64Array.from([0, 0, 40, 0, 40, 20, 0, 20])
  const square: Outline = {
    closed: true,
    stretches: [0, 1, 2, 3].map((k) => ({ at: k, to: (k + 1) % 4, isLine: true, from: 0, until: 1 })),
  }
  const start = (outline: Outline): [number, number] => {
    const { at, to, from } = outline.stretches[0]!
    return [0, 1].map((axis) => points[2 * at + axis]! + from * (points[2 * to + axis]! - points[2 * at + axis]!)) as [number, number]
  }

  test('begins an outline later by a share of its length, or runs it the other way', () => {
    const begun = (turn: number, runsBack: boolean): number[] =>
      start(corrected(square, { turn, runsBack }, points)).map((v) => Math.round(1e6 * v) / 1e6)
    expect(begun(0.25, false)).toEqual([30, 0])
    expect(begun(0, false)).toEqual([0, 0])
    expect(begun(1 / 6, true)).toEqual([0, 20])
    expect(lengthsOf(corrected(square, { turn: 0.4, runsBack: true }, points), points).at(-1)).toBeCloseTo(1, 9)
  })

  test('is undone by its inverse: each spot has the partner that has it', () => {
    /** Spots of both outlines that are partners, as one word each. */
    const partners = (turn: number, runsBack: boolean, isBack: boolean): Set<string> => {
      const correction = { turn, runsBack }
      const [a, b] = matched(square, square, points, points, isBack ? inverse(correction) : correction)
      const word = (spot: readonly number[]): string => spot.map((v) => Math.round(1000 * v) + 0).join(',')
      const [one, other] = [a, b].map((outline) =>
        outline.stretches.map((_, k) => word(start({ ...outline, stretches: outline.stretches.slice(k) }))),
      )
      return new Set(one!.map((spot, k) => (isBack ? `${other![k]!} ${spot}` : `${spot} ${other![k]!}`)))
    }
    for (const runsBack of [false, true])
      for (let turn = 0; turn < 1; turn += 0.07) expect(partners(turn, runsBack, true), `${turn}`).toEqual(partners(turn, runsBack, false))
  })
})

describe('pairs', () => {
  const piece = (drawing: number, name: string, x: number, size = 10): Piece =>
    ({
      ...{ drawing, part: `p${drawing}`, name, home: [1, 0, 0, 1, 0, 0] as const },
      ...{ x, y: 0, size },
    }) as Piece
  const kind = { picture: null, geometry: { shapes: [0] } } as never
  const drawings = Array.from({ length: 10 }, () => kind)
  const pairs = (from: Piece[], to: Piece[], matches: Match[] = []): (string | null)[][] =>
    pairsOf(from, to, matches, drawings).map(({ a, b }) => [a.part, b?.part ?? null])

  test('go by name; of several of one name the likest, whatever their order', () => {
    const from = [piece(0, 'tooth', 0), piece(1, 'tooth', 20), piece(2, 'lip', 5, 60)]
    const to = [piece(3, 'lip', 5, 60), piece(4, 'tooth', 22), piece(5, 'tooth', 1)]
    expect(pairs(from, to)).toEqual([
      ['p0', 'p5'],
      ['p1', 'p4'],
      ['p2', 'p3'],
    ])
  })

  test('of other names go by likeness, and what is like nothing morphs into nothing', () => {
    const from = [piece(0, 'a', 0), piece(1, 'b', 300)]
    expect(pairs(from, [piece(2, 'c', 2)])).toEqual([
      ['p0', 'p2'],
      ['p1', null],
    ])
  })

  test('that were corrected count both ways', () => {
    const [from, to] = [[piece(0, 'a', 0)], [piece(1, 'a', 0), piece(2, 'b', 50)]]
    const match = { a: 'p0', b: 'p2', turn: 0.25, runsBack: false }
    expect(pairs(from, to, [match])).toEqual([['p0', 'p2']])
    expect(pairs(to, from, [match])).toEqual([
      ['p1', null],
      ['p2', 'p0'],
    ])
    expect(pairsOf(to, from, [match], drawings).find((p) => p.b)!.correction).toEqual({ turn: 0.75, runsBack: false })
    expect(pairs(from, to, [{ ...match, b: null }])).toEqual([['p0', null]])
  })
})
