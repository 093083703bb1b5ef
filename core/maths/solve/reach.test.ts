import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Vec } from '../../kernel/numbers'
import { apply, turnAbout } from '../geometry/affine'
import { reachWithChain } from './chain'
import { nearestTurn, turnBetween, type AngleRange } from './reach'

interface TwoBones {
  readonly root: Vec
  readonly base: number
  readonly upper: Vec
  readonly lower: Vec
  readonly angles: readonly [number, number]
  readonly limits: readonly [AngleRange, AngleRange]
}

/** Angles of a chain of two bones. */
const reachWithTwo = ({ root, base, upper, lower, angles, limits }: TwoBones, target: Vec): [number, number] =>
  reachWithChain({ root, base, links: [upper, lower], angles, limits }, target) as [number, number]

const FREE = { min: -Infinity, max: Infinity }

const limb = (angles: [number, number] = [0, 10], limits = [FREE, FREE] as TwoBones['limits'], base = 0): TwoBones => ({
  root: { x: 50, y: 60 },
  base,
  upper: { x: 0, y: 100 },
  lower: { x: 5, y: 80 },
  angles,
  limits,
})

/** Where the held spot is once both bones have turned. */
function spotOf(l: TwoBones, [upper, lower]: readonly [number, number]): Vec {
  const about = { x: 0, y: 0 }
  const tip = apply(turnAbout(lower, about), l.lower)
  const arm = apply(turnAbout(l.base + upper, about), { x: l.upper.x + tip.x, y: l.upper.y + tip.y })
  return { x: l.root.x + arm.x, y: l.root.y + arm.y }
}

describe('reaching with two bones', () => {
  test('meets every target within reach, whatever is above the limb', () => {
    const angle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true })
    const distance = fc.double({ min: 25, max: 179, noNaN: true })
    fc.assert(
      fc.property(angle, distance, fc.integer({ min: -180, max: 180 }), fc.constantFrom(-40, 40), (a, r, base, bend) => {
        const l = limb([0, bend], [FREE, FREE], base)
        const target = { x: 50 + r * Math.cos(a), y: 60 + r * Math.sin(a) }
        const spot = spotOf(l, reachWithTwo(l, target))
        expect(Math.hypot(spot.x - target.x, spot.y - target.y)).toBeLessThan(1e-6)
      }),
    )
  })

  test('stretches straight towards a target that is too far', () => {
    const l = limb()
    const spot = spotOf(l, reachWithTwo(l, { x: 50, y: 1000 }))
    expect(Math.hypot(spot.x - 50, spot.y - 60)).toBeCloseTo(100 + Math.hypot(5, 80), 5)
    expect(spot.x).toBeCloseTo(50, 4)
  })

  test('keeps the side to which the limb bends', () => {
    for (const bend of [35, -35]) {
      const [, lower] = reachWithTwo(limb([0, bend]), { x: 80, y: 190 })
      expect(Math.sign(lower)).toBe(Math.sign(bend))
    }
  })

  test('bends to the side that limits allow', () => {
    const limits = [FREE, { min: -5, max: 140 }] as const
    const [, lower] = reachWithTwo(limb([0, -5], limits), { x: 80, y: 160 })
    expect(lower).toBeGreaterThan(0)
  })

  test('never leaves the limits, and still points at the target', () => {
    const limits = [FREE, { min: -20, max: 20 }] as const
    fc.assert(
      fc.property(fc.integer({ min: -200, max: 200 }), fc.integer({ min: -200, max: 200 }), (x, y) => {
        if (Math.hypot(x - 50, y - 60) < 5) return
        const l = limb([0, 10], limits)
        const angles = reachWithTwo(l, { x, y })
        expect(Math.abs(angles[1])).toBeLessThanOrEqual(20)
        const spot = spotOf(l, angles)
        const off = turnBetween({ x: spot.x - 50, y: spot.y - 60 }, { x: x - 50, y: y - 60 })
        expect(Math.abs(off)).toBeLessThan(1e-6)
      }),
    )
  })

  test('a drag never jumps by a full turn', () => {
    expect(nearestTurn(-170, 175)).toBe(190)
    expect(nearestTurn(725, 0)).toBe(5)
  })
})
