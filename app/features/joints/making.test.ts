import { beforeEach, describe, expect, test } from 'vitest'
import { restMatrix, restPivot } from '@marionette/core/parts/tree'
import { setJoint } from '@marionette/core/joints/commands'
import { bindWhole } from '@marionette/core/binds/commands'
import { run } from '@marionette/core/puppet/edit'
import { edit } from '@marionette/core/kernel/command'
import { armPuppet } from '@marionette/core/test/puppets'
import { openDocument, openPuppet, perform, undo } from '../../editor/document'
import { quietEditor } from '../../test/quietEditor'
import { joinParts, placedJoint } from './making'

const { editor } = quietEditor({ proposeJoint: async () => ({ centre: { x: 300, y: 100 }, radius: 15 }) })

beforeEach(() => openDocument(editor, { puppet: armPuppet(), revision: 1 }))

const joint = () => Object.values(openPuppet(editor).joints)[0]!

describe('a joint of pieces that no bone turns', () => {
  test('takes the pivot of the upper one along: when it is made, and when it is moved', async () => {
    const before = restMatrix(openPuppet(editor), 'hand')
    await joinParts(editor, 'sleeve', 'hand')
    expect(restPivot(openPuppet(editor), 'hand')).toEqual({ x: 300, y: 100 })
    const moved = { ...joint(), at: { x: 296, y: 104 } }
    const placing = edit(setJoint, { joint: moved.id, at: moved.at, radius: moved.radius })
    perform(editor, placedJoint(openPuppet(editor), placing, moved))
    expect(restPivot(openPuppet(editor), 'hand')).toEqual({ x: 296, y: 104 })
    // Where it lies does not change.
    restMatrix(openPuppet(editor), 'hand').forEach((v, i) => expect(v).toBeCloseTo(before[i]!))
  })

  test('is one step of the history', async () => {
    const before = openPuppet(editor)
    await joinParts(editor, 'sleeve', 'hand')
    undo(editor)
    expect(openPuppet(editor)).toEqual(before)
  })
})

test('a joint that a bone turns leaves pivots alone', async () => {
  let puppet = run(armPuppet(), bindWhole, { parts: ['sleeve'], bone: 'lower' })
  puppet = run(puppet, bindWhole, { parts: ['hand'], bone: 'palm' })
  openDocument(editor, { puppet, revision: 1 })
  await joinParts(editor, 'sleeve', 'hand')
  expect(joint().at).toEqual({ x: 300, y: 100 })
  expect(openPuppet(editor).parts['hand']!.pivot).toEqual(puppet.parts['hand']!.pivot)
})
