import { describe, expect, test } from 'vitest'
import { run } from './edit'
import { addControl } from '../controls/commands'
import { addConstraint, addTarget } from '../constraints/commands'
import { setPose } from '../poses/commands'
import { posePuppet } from './evaluate'
import { armPuppet } from '../test/puppets'
import { brokenInvariants } from './invariants'
import { readPuppet } from './migrate'
import type { Puppet } from './schema'
import { newControl } from '../controls/new'

/** An arm whose hand and last bone share an id, as versions up to 10 allowed, with all that names either. */
function sharedIds(): Record<string, unknown> {
  let puppet: Puppet = armPuppet()
  puppet = run(puppet, addTarget, { id: 'goal', name: 'Goal', at: { x: 320, y: 60 }, parent: null })
  puppet = run(puppet, addConstraint, {
    constraint: {
      kind: 'reach',
      id: 'reaching',
      name: 'Reach',
      amount: 0,
      bones: ['upper', 'lower', 'palm'],
      target: 'goal',
      side: 0,
      soft: 0,
      stretch: 1,
      level: null,
      pole: null,
    },
  })
  puppet = run(puppet, addControl, {
    control: {
      ...newControl('turn', 'Turn'),
      ties: [{ channel: 'bone/palm/angle', axis: 'value', from: [0, 1], to: [0, 30], curve: null }],
    },
  })
  puppet = run(puppet, setPose, { values: { 'bone/palm/angle': 25, 'bone/lower/angle': 40, 'part/hand/x': 5 } })
  // Every "palm" becomes "hand": the bone then has the id of the part.
  const text = JSON.stringify({ ...puppet, version: 10 })
    .replaceAll('"palm"', '"hand"')
    .replaceAll('bone/palm/', 'bone/hand/')
  return JSON.parse(text) as Record<string, unknown>
}

describe('an id of an older document that stands for two things', () => {
  test('stays with the first kind; the other gets one of its own wherever it is named', () => {
    const puppet = readPuppet(sharedIds())
    expect(brokenInvariants(puppet)).toEqual([])
    expect(puppet.parts['hand']!.name).toBe('Hand')
    expect(puppet.bones['bone-hand']).toMatchObject({ id: 'bone-hand', name: 'Palm', parent: 'lower' })
    expect(puppet.bones['lower']!.children).toEqual(['bone-hand'])
    expect(puppet.constraints[0]).toMatchObject({ bones: ['upper', 'lower', 'bone-hand'] })
    expect(puppet.controls[0]!.ties[0]!.channel).toBe('bone/bone-hand/angle')
    expect(puppet.pose).toEqual({ 'bone/bone-hand/angle': 25, 'bone/lower/angle': 40, 'part/hand/x': 5 })
  })

  test('moves everything as it did', () => {
    const one = posePuppet(readPuppet(sharedIds()))
    const other = posePuppet(readPuppet(JSON.parse(JSON.stringify(sharedIds()).replaceAll('bone/hand/', 'bone/hand/'))))
    expect([...one.bones]).toEqual([...other.bones])
    expect(Math.abs(one.bones[12]! - 1)).toBeGreaterThan(0.01)
  })

  test('is free after renaming even where the new id was taken as well', () => {
    const raw = sharedIds()
    const parts = raw['parts'] as Record<string, Record<string, unknown>>
    parts['bone-hand'] = { ...parts['sleeve'], id: 'bone-hand' }
    ;(parts[raw['root'] as string]!['children'] as string[]).push('bone-hand')
    const puppet = readPuppet(raw)
    expect(Object.keys(puppet.bones)).toContain('bone-hand-2')
  })

  test('handles of a cage go along with its id', () => {
    const cage = {
      kind: 'cage',
      ...{ id: 'upper', name: 'Cage', when: 'before', bone: null, on: true, amount: 1, only: null },
      ...{ box: { x: 100, y: 80, width: 200, height: 40 }, angle: 0, columns: 1, rows: 1, smooth: true, form: new Array(8).fill(0) },
    }
    const raw = JSON.parse(JSON.stringify({ ...armPuppet(), version: 10, pose: { 'handle/upper.1.0/y': 9 } })) as Record<string, unknown>
    ;(raw['parts'] as Record<string, Record<string, unknown>>)['sleeve']!['deformers'] = [cage]
    const puppet = readPuppet(raw)
    expect(puppet.parts['sleeve']!.deformers[0]!.id).toBe('deformer-upper')
    expect(puppet.pose).toEqual({ 'handle/deformer-upper.1.0/y': 9 })
    expect(puppet.bones['upper']!.name).toBe('Upper')
  })
})
