import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import { restMatrix } from '../parts/tree'
import { bindBlended, bindWhole } from './commands'
import { run } from '../puppet/edit'
import { groupParts, setHome } from '../parts/commands'
import { apply } from '../maths/geometry/affine'
import { compile } from '../puppet/compile'
import { armPuppet, box, drawingPart } from '../test/puppets'
import { autoWeights, proposeBones, WeightsError } from './autoWeights'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'

describe('automatic weights', () => {
  test('of a group cover everything in it that has no bind of its own', () => {
    const both = run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'both', name: 'Both' })
    const field = autoWeights(both, 'both', ['upper', 'lower', 'palm'])
    const right = (f: { vertices: number[] }): number => Math.max(...f.vertices.filter((_, i) => i % 2 === 0))
    expect(right(field)).toBeCloseTo(340)
    const tied = run(both, bindWhole, { parts: ['hand'], bone: 'palm' })
    expect(right(autoWeights(tied, 'both', ['upper', 'lower']))).toBeCloseTo(300)
    const bound = run(both, bindBlended, { part: 'both', bones: ['upper', 'lower', 'palm'], field })
    expect(brokenInvariants(bound)).toEqual([])
    expect(compile(bound).drawings.every((d) => d.tessellation)).toBe(true)
  })

  test('are kept in the space of the part, wherever its home is', () => {
    const turned = run(armPuppet(), setHome, { part: 'sleeve', home: { x: 12, y: -7, angle: 30, scaleX: -1.5, scaleY: 0.75, skew: 0 } })
    const field = autoWeights(turned, 'sleeve', ['upper'])
    const xs = field.vertices.filter((_, i) => i % 2 === 0)
    expect(Math.min(...xs)).toBeCloseTo(100, 1)
    expect(Math.max(...xs)).toBeCloseTo(300, 1)
    const corner = apply(restMatrix(turned, 'sleeve'), { x: 100, y: 80 })
    expect(Number.isFinite(corner.x)).toBe(true)
  })

  test('progress runs up to one', () => {
    const seen: number[] = []
    autoWeights(armPuppet(), 'sleeve', ['upper', 'lower'], (done) => seen.push(done))
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
    expect(seen.at(-1)).toBe(1)
  })

  test('what shows nothing, or is flattened, is refused by name', () => {
    const empty = run(armPuppet(), addArtwork, { parent: 'arm-root', parts: [newPart('nothing', 'Nothing')], drawings: [] })
    expect(() => autoWeights(empty, 'nothing', ['upper'])).toThrow(WeightsError)
    expect(() => autoWeights(empty, 'nothing', ['upper'])).toThrow('"Nothing" shows nothing')
    const flat = box('d-flat', 0, 0, 0, 0)
    const dot = run(armPuppet(), addArtwork, { parent: 'arm-root', parts: [drawingPart('dot', 'Dot', flat)], drawings: [flat] })
    expect(() => autoWeights(dot, 'dot', ['upper'])).toThrow(WeightsError)
  })

  test('bones that mostly lie inside a part are proposed for it', () => {
    expect(proposeBones(armPuppet(), 'sleeve')).toEqual(['upper', 'lower'])
    expect(proposeBones(armPuppet(), 'hand')).toEqual(['palm'])
  })
})
