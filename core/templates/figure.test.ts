import { expect, test } from 'vitest'
import { newPuppet } from '../puppet/new'
import { applyEdits } from '../puppet/edit'
import { TEMPLATES } from './builtin'
import { figureBones, figureEdits } from './figure'

test.each(TEMPLATES.map((t) => [t.name, t] as const))(
  '%s: the skeleton stands in the middle of the canvas, with its tree and its limits',
  (_, template) => {
    const empty = newPuppet('p', 'P', { width: 900, height: 600 })
    const puppet = applyEdits(empty, figureEdits(empty, template, 'f')).puppet
    const bones = Object.values(puppet.bones)
    expect(bones).toHaveLength(figureBones(template).length)
    const ys = bones.flatMap((b) => [b.start.y, b.end.y])
    const xs = bones.flatMap((b) => [b.start.x, b.end.x])
    expect(Math.min(...xs)).toBeGreaterThanOrEqual(40)
    expect(Math.max(...xs)).toBeLessThanOrEqual(860)
    expect(Math.min(...ys) + Math.max(...ys)).toBeCloseTo(600, -1)
    expect((Math.max(...ys) - Math.min(...ys)) / 600 > 0.8 || (Math.max(...xs) - Math.min(...xs)) / 900 > 0.8).toBe(true)
    const idOf = (key: string): string => `f-${figureBones(template).findIndex((b) => b.key === key) + 1}`
    for (const { key, name, parent, limits } of figureBones(template))
      expect(puppet.bones[idOf(key)]).toMatchObject({ name, parent: parent === null ? null : idOf(parent), limits })
  },
)
