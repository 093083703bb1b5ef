import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import type { Puppet } from '../puppet/schema'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { frameBounds, partsAt } from '../puppet/probe'
import { armPuppet, box, drawingPart } from '../test/puppets'
import { run } from '../puppet/edit'
import { setMasks } from './commands'
import { deletePart, groupParts, movePart } from '../parts/commands'
import { EditError } from '../kernel/errors'
import { newPart } from '../parts/new'
import { addArtwork } from '../puppet/artworkCommands'

const mask = (shape: string, keep: 'inside' | 'outside' = 'inside') => ({ shape, keep, by: 'area' as const })
const masked = (keep: 'inside' | 'outside' = 'inside'): Puppet =>
  run(armPuppet(), setMasks, { part: 'sleeve', masks: [mask('hand', keep)] })

/** A small box over the elbow, hidden, that masks the sleeve. */
function withLens(keep: 'inside' | 'outside'): Puppet {
  const lens = box('d-lens', 180, 70, 40, 60)
  const part = { ...drawingPart('lens', 'Lens', lens), visible: false }
  const puppet = armPuppet()
  return run(run(puppet, addArtwork, { parent: puppet.root, parts: [part], drawings: [lens] }), setMasks, {
    part: 'sleeve',
    masks: [mask('lens', keep)],
  })
}

describe('masks', () => {
  test('a part cannot mask itself, not by what it is in, nor in a circle', () => {
    const grouped = run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'group', name: 'Group' })
    expect(() => run(armPuppet(), setMasks, { part: 'hand', masks: [mask('hand')] })).toThrow(EditError)
    expect(() => run(grouped, setMasks, { part: 'hand', masks: [mask('group')] })).toThrow(EditError)
    expect(() => run(masked(), setMasks, { part: 'hand', masks: [mask('sleeve')] })).toThrow('would mask itself')
    expect(() => run(armPuppet(), setMasks, { part: 'hand', masks: [mask('nobody')] })).toThrow('no part')
  })

  test('moving a part into what it masks is refused', () => {
    const puppet = armPuppet()
    const group = newPart('pocket', 'Pocket')
    const bag = run(puppet, addArtwork, { parent: puppet.root, parts: [group], drawings: [] })
    const cut = run(bag, setMasks, { part: 'sleeve', masks: [mask('pocket')] })
    expect(() => run(cut, movePart, { part: 'sleeve', parent: 'pocket', index: 0 })).toThrow('would mask itself')
  })

  test('a deleted part masks nothing any more', () => {
    const puppet = run(masked(), deletePart, { part: 'hand' })
    expect(puppet.parts['sleeve']!.masks).toEqual([])
    expect(brokenInvariants(puppet)).toEqual([])
  })

  test('what is masked away is not hit and does not count for bounds', () => {
    const inside = poseRig(compile(withLens('inside')))
    expect(partsAt(inside, 200, 100)).toEqual(['sleeve'])
    expect(partsAt(inside, 120, 100)).toEqual([])
    expect(frameBounds(inside, new Set(['sleeve']))).toEqual({ minX: 180, minY: 80, maxX: 220, maxY: 120 })
    const outside = poseRig(compile(withLens('outside')))
    expect(partsAt(outside, 200, 100)).toEqual([])
    expect(partsAt(outside, 120, 100)).toEqual(['sleeve'])
  })

  test('a hidden part that masks is compiled, but not shown', () => {
    const rig = compile(withLens('inside'))
    expect(rig.drawings).toHaveLength(3)
    expect(rig.shown).toBe(2)
    expect(rig.paint.length).toBeGreaterThan(rig.painted)
  })
})
