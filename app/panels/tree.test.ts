import { describe, expect, test } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { addBone, hangBone } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { moveParts } from '@marionette/core/parts/arrange'
import { groupParts } from '@marionette/core/parts/commands'
import { armPuppet, generatePuppet, TYPICAL } from '@marionette/core/test/puppets'
import { boneLanding, boneOptions, boneRows, firstFolds, partLanding, partRows, sideAt, type DropSide } from './tree'

const grouped = (): Puppet => run(armPuppet(), groupParts, { parts: ['sleeve', 'hand'], id: 'arm', name: 'Arm group' })
const ids = (rows: readonly { id: string }[]): string[] => rows.map((r) => r.id)

describe('rows', () => {
  test('parts stand front to back, groups before what is in them', () => {
    expect(ids(partRows(grouped(), new Set()))).toEqual(['arm', 'hand', 'sleeve'])
    expect(ids(partRows(grouped(), new Set(['arm'])))).toEqual(['arm'])
  })

  test('rails say where a line goes on below', () => {
    const branched = run(armPuppet(), addBone, {
      id: 'thumb',
      name: 'Thumb',
      parent: 'lower',
      start: { x: 300, y: 90 },
      end: { x: 320, y: 80 },
    })
    const rows = boneRows(branched, new Set())
    expect(rows.map((r) => [r.id, r.depth, r.rails])).toEqual([
      ['upper', 0, [false]],
      ['lower', 1, [false, false]],
      ['palm', 2, [false, false, true]],
      ['thumb', 2, [false, false, false]],
    ])
    expect(boneOptions(branched).map((o) => o.label)).toEqual(['Upper', 'Lower', 'Palm', 'Thumb'])
  })

  test('large puppets start with their groups folded, small ones open', () => {
    expect(firstFolds(grouped())).toEqual([])
    const large = generatePuppet(TYPICAL)
    const parts = large.parts[large.root]!.children.slice(0, 3)
    expect(firstFolds(run(large, groupParts, { parts, id: 'g', name: 'G' }))).toEqual(['g'])
  })
})

describe('dropping', () => {
  test('edges mean beside, the middle of what can hold means into', () => {
    expect([0.1, 0.5, 0.9].map((share) => sideAt(share, true))).toEqual(['above', 'into', 'below'])
    expect([0.1, 0.49, 0.9].map((share) => sideAt(share, false))).toEqual(['above', 'above', 'below'])
  })

  /** The rows after dropping one on another. */
  function dropPart(dragged: string, row: string, side: DropSide): string[] {
    const puppet = run(grouped(), groupParts, { parts: ['sleeve'], id: 'cuff', name: 'Cuff' })
    const { parent, index } = partLanding(puppet, row, side)
    return ids(partRows(run(puppet, moveParts, { parts: [dragged], parent, index }), new Set()))
  }

  test('parts land where the line was shown', () => {
    expect(dropPart('hand', 'cuff', 'below')).toEqual(['arm', 'cuff', 'sleeve', 'hand'])
    expect(dropPart('hand', 'cuff', 'into')).toEqual(['arm', 'cuff', 'hand', 'sleeve'])
    expect(dropPart('sleeve', 'hand', 'above')).toEqual(['arm', 'sleeve', 'hand', 'cuff'])
    expect(dropPart('hand', 'arm', 'above')).toEqual(['hand', 'arm', 'cuff', 'sleeve'])
    expect(dropPart('cuff', 'hand', 'above')).toEqual(['arm', 'cuff', 'sleeve', 'hand'])
  })

  test('bones land where the line was shown', () => {
    const puppet = run(armPuppet(), addBone, { id: 'tail', name: 'Tail', parent: null, start: { x: 0, y: 0 }, end: { x: 9, y: 9 } })
    const drop = (dragged: string, row: string, side: DropSide): string[] => {
      const { parent, index } = boneLanding(puppet, dragged, row, side)
      return ids(boneRows(run(puppet, hangBone, { bone: dragged, parent, index }), new Set()))
    }
    expect(drop('tail', 'upper', 'above')).toEqual(['tail', 'upper', 'lower', 'palm'])
    expect(drop('palm', 'tail', 'below')).toEqual(['upper', 'lower', 'tail', 'palm'])
    expect(drop('tail', 'lower', 'into')).toEqual(['upper', 'lower', 'palm', 'tail'])
  })
})
