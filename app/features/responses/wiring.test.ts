/** The graph of connections: what is around something, groups of parts that are moved together, and what is looked for. */
import { describe, expect, test } from 'vitest'
import { groupParts } from '@marionette/core/parts/commands'
import { run } from '@marionette/core/puppet/edit'
import { setControl } from '@marionette/core/controls/commands'
import { answeringArm, by, ruler, withResponses } from '@marionette/core/test/responding'
import { around, beside, byGroup, found, wiringOf, type Wiring } from './wiring'

/** Slider A moves sleeve and hand, which are one group, and the bone `upper`; slider B only the hand. */
const puppet = run(
  withResponses(
    answeringArm(),
    ruler('first', 'a', { 1: [by('part/sleeve/y', 5), by('part/hand/y', 5), by('bone/upper/angle', 10)] }),
    ruler('second', 'b', { 1: [by('part/hand/x', 5)] }),
  ),
  groupParts,
  { parts: ['sleeve', 'hand'], id: 'limb', name: 'Limb' },
)
const all = wiringOf(puppet)
const names = ({ nodes }: Wiring): string[] => nodes.map((n) => n.name).sort()
const pairs = ({ wires }: Wiring): string[] => wires.map((w) => `${w.from} ${w.to}`).sort()

describe('connections', () => {
  test('lead from what is listened to by what answers to what is moved', () => {
    expect(names(all)).toEqual(['A', 'B', 'Hand', 'Sleeve', 'Upper', 'first', 'second'])
    expect(pairs(all)).toContain('control/a response/first')
    expect(pairs(all)).toContain('response/first bone/upper')
    expect(pairs(all)).toContain('response/second part/hand')
  })

  test('of a tied channel lead from its control', () => {
    const control = puppet.controls.find((c) => c.id === 'c')!
    const tie = { axis: 'value' as const, channel: 'bone/palm/angle', from: [0, 1] as [number, number], to: [0, 30] as [number, number] }
    const tied = run(puppet, setControl, { control: { ...control, ties: [{ ...tie, curve: null }] } })
    expect(pairs(wiringOf(tied))).toContain('control/c bone/palm')
  })

  test('around something are all that leads there and all that it leads to, beside it only the next ones', () => {
    expect(names(around(all, new Set(['control/b'])))).toEqual(['B', 'Hand', 'second'])
    expect(names(around(all, new Set(['part/hand'])))).toEqual(['A', 'B', 'Hand', 'first', 'second'])
    expect(names(beside(all, new Set(['part/hand'])))).toEqual(['Hand', 'first', 'second'])
  })

  test('parts of a group stand behind it, and hang on it where it is open', () => {
    const folded = byGroup(puppet, all, new Set())
    expect(names(folded)).toEqual(['A', 'B', 'Limb', 'Upper', 'first', 'second'])
    expect(folded.nodes.find((n) => n.id === 'group/limb')).toMatchObject({ kind: 'group', note: '2 parts' })
    expect(pairs(folded)).toEqual([
      'control/a response/first',
      'control/b response/second',
      'response/first bone/upper',
      'response/first group/limb',
      'response/second group/limb',
    ])
    const open = byGroup(puppet, all, new Set(['group/limb']))
    expect(names(open)).toEqual(['A', 'B', 'Hand', 'Limb', 'Sleeve', 'Upper', 'first', 'second'])
    expect(pairs(open)).toContain('group/limb part/hand')
    expect(pairs(open)).not.toContain('response/first part/hand')
  })

  test('one part alone is no group', () => {
    const one = around(all, new Set(['control/b']))
    expect(names(byGroup(puppet, one, new Set()))).toEqual(['B', 'Hand', 'second'])
  })

  test('are found by their names, and nothing is found by nothing', () => {
    expect([...found(all, ' HAND ')]).toEqual(['part/hand'])
    expect(found(all, '').size).toBe(0)
    expect(found(all, 'no such thing').size).toBe(0)
  })
})
