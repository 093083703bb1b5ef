import { describe, expect, test } from 'vitest'
import { run } from '@marionette/core/puppet/edit'
import { commentPart, lockPart, tagPart } from '@marionette/core/parts/marks'
import { groupParts, showPart } from '@marionette/core/parts/commands'
import { bindWhole } from '@marionette/core/binds/commands'
import { armPuppet } from '@marionette/core/test/puppets'
import { conditionsOf, isFiltering, listedRows, NO_FILTER, type PartFilter, type SortBy } from './partFilter'

const puppet = (() => {
  let p = run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'arm', name: 'Arm group' })
  p = run(p, tagPart, { parts: ['hand'], tag: 2 })
  p = run(p, commentPart, { part: 'sleeve', comment: 'needs a button' })
  p = run(p, showPart, { parts: ['sleeve'], visible: false })
  p = run(p, lockPart, { parts: ['arm'], locked: true })
  return run(p, bindWhole, { parts: ['hand'], bone: 'palm' })
})()
const rows = (filter: Partial<PartFilter>, sort: SortBy = 'order'): string[] =>
  listedRows(puppet, { ...NO_FILTER, ...filter }, sort).map((r) => r.id)

describe('finding parts', () => {
  test.each<[string, Partial<PartFilter>, string[]]>([
    ['words of the name', { text: 'han' }, ['hand']],
    ['words of the comment', { text: 'button' }, ['sleeve']],
    ['kind', { kind: 'group' }, ['arm']],
    ['tag', { tag: 2 }, ['hand']],
    ['no tag', { tag: 0 }, ['arm', 'sleeve']],
    ['bound', { bound: true }, ['hand']],
    ['unbound drawings', { bound: false, kind: 'drawing' }, ['sleeve']],
    ['hidden', { hidden: true }, ['sleeve']],
    ['locked', { locked: true }, ['arm']],
    ['commented', { commented: true }, ['sleeve']],
    ['masked', { masked: true }, []],
    ['all', {}, ['arm', 'hand', 'sleeve']],
  ])('by %s', (_, filter, expected) => expect(rows(filter)).toEqual(expected))

  test('sorting lists by name, kind or tag', () => {
    expect(rows({}, 'name')).toEqual(['arm', 'hand', 'sleeve'])
    expect(rows({}, 'tag')[0]).toBe('hand')
    expect(rows({}, 'kind').at(-1)).toBe('arm')
  })

  test('conditions are counted', () => {
    expect(isFiltering(NO_FILTER)).toBe(false)
    expect(conditionsOf({ ...NO_FILTER, text: 'x', tag: 0, hidden: false })).toBe(2)
  })
})
