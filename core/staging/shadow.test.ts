import { describe, expect, test } from 'vitest'
import { apply } from '../maths/geometry/affine'
import { run } from '../puppet/edit'
import { newPuppet } from '../puppet/new'
import { setShadow } from './commands'
import { newShadow, shadowMap } from './shadow'

const ground = { ...newShadow('ground', 800, 600), skew: 45, length: 0.5, x: 0, y: 0 }

describe('a shadow', () => {
  test('begins where the feet stand on the ground', () => {
    const map = shadowMap(ground)
    for (const x of [0, 120, 999]) {
      const at = apply(map, { x, y: 800 })
      expect([at.x, at.y]).toEqual([expect.closeTo(x, 9), expect.closeTo(800, 9)])
    }
  })

  test('is as long as its share of what stands above the ground, and leans by its tangent', () => {
    const at = apply(shadowMap(ground), { x: 100, y: 600 })
    expect(at.y).toBeCloseTo(800 - 0.5 * 200, 9)
    expect(at.x).toBeCloseTo(100 + 0.5 * 200 * Math.tan(Math.PI / 4), 9)
  })

  test('falls towards whoever looks where its length is below 0', () => {
    expect(apply(shadowMap({ ...ground, length: -0.5 }), { x: 0, y: 600 }).y).toBeCloseTo(900, 9)
  })

  test('behind the figure is its copy, shifted', () => {
    const shadow = { ...newShadow('behind', 800, 600), x: 12, y: -7 }
    expect(apply(shadowMap(shadow), { x: 30, y: 40 })).toEqual({ x: 42, y: 33 })
  })

  test('is put on, changed and taken off', () => {
    const puppet = run(newPuppet('p', 'P'), setShadow, { shadow: ground })
    expect(puppet.shadow).toEqual(ground)
    expect(() => run(puppet, setShadow, { shadow: { ...ground, opacity: 2 } })).toThrow()
    expect(run(puppet, setShadow, { shadow: null }).shadow).toBeNull()
  })
})
