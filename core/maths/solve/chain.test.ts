import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { jointsOf, reachWithChain, type Chain } from './chain'

const FREE = { min: -Infinity, max: Infinity }

const straight = (count: number, length = 30): Chain => ({
  root: { x: 100, y: 100 },
  base: 0,
  links: Array.from({ length: count }, () => ({ x: length, y: 0 })),
  angles: Array.from({ length: count }, () => 0),
  limits: Array.from({ length: count }, () => FREE),
})

const missOf = (chain: Chain, angles: readonly number[], target: { x: number; y: number }): number => {
  const tip = jointsOf(chain, angles).at(-1)!
  return Math.hypot(tip.x - target.x, tip.y - target.y)
}

const spot = (chain: Chain, share: number, angle: number) => {
  const length = chain.links.reduce((sum, v) => sum + Math.hypot(v.x, v.y), 0)
  return { x: chain.root.x + share * length * Math.cos(angle), y: chain.root.y + share * length * Math.sin(angle) }
}

describe('reaching with a chain', () => {
  test('any target within reach is reached, with any number of bones', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 14 }),
        fc.double({ min: 0.15, max: 0.97, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (count, share, angle) => {
          const chain = straight(count)
          const target = spot(chain, share, angle)
          expect(missOf(chain, reachWithChain(chain, target), target)).toBeLessThan(0.1)
        },
      ),
    )
  })

  test('a target straight ahead or behind the root does not lock a straight chain', () => {
    for (const x of [250, 180, 60, 20])
      expect(missOf(straight(6), reachWithChain(straight(6), { x, y: 100 }), { x, y: 100 })).toBeLessThan(0.1)
  })

  test('what is too far is pointed at, stretched out', () => {
    const chain = straight(5)
    const joints = jointsOf(chain, reachWithChain(chain, { x: 100, y: -900 }))
    expect(joints.at(-1)!.x).toBeCloseTo(100, 0)
    expect(joints.at(-1)!.y).toBeCloseTo(-50, 0)
  })

  test('limits hold always, and a target that they allow is reached', () => {
    const limits = Array.from({ length: 6 }, () => ({ min: -20, max: 45 }))
    fc.assert(
      fc.property(fc.array(fc.double({ min: -20, max: 45, noNaN: true }), { minLength: 6, maxLength: 6 }), (wanted) => {
        const chain = { ...straight(6), limits }
        const target = jointsOf(chain, wanted).at(-1)!
        const angles = reachWithChain(chain, target)
        for (const a of angles) {
          expect(a).toBeGreaterThanOrEqual(-20 - 1e-9)
          expect(a).toBeLessThanOrEqual(45 + 1e-9)
        }
        expect(missOf(chain, angles, target)).toBeLessThan(1)
      }),
      { numRuns: 200 },
    )
  })

  test('with two bones it comes as near as the formula', () => {
    fc.assert(
      fc.property(fc.double({ min: -90, max: 90, noNaN: true }), fc.double({ min: 0.1, max: 1.3, noNaN: true }), (degrees, share) => {
        const chain = { ...straight(2, 60), angles: [0, 30] }
        const target = spot(chain, share, (degrees * Math.PI) / 180)
        // Two equal bones reach every spot within their length, and fall short of others by what is left.
        const short = Math.max(0, Math.hypot(target.x - chain.root.x, target.y - chain.root.y) - 120)
        expect(missOf(chain, reachWithChain(chain, target), target)).toBeLessThan(short + 0.05)
      }),
    )
  })

  test('where nothing has to move nothing moves', () => {
    const chain = { ...straight(5), angles: [10, -5, 20, 8, 3] }
    expect(reachWithChain(chain, jointsOf(chain, chain.angles).at(-1)!)).toEqual(chain.angles)
  })
})
