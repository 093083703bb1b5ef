import { beforeEach, expect, test } from 'vitest'
import { DEMOS } from '@marionette/demo/demos'
import { boneChannel } from '@marionette/core/bones/channels'
import { setPose } from '@marionette/core/poses/commands'
import { edit } from '@marionette/core/kernel/command'
import { setSprings } from '@marionette/core/springs/commands'
import { openDocument, openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { quietEditor } from '../../test/quietEditor'
import { freezeGroup } from './baking'
import { bonesToSwing, leaveOut, makeSprings, springsOfBone, swingAlone } from './making'
import { shakerOf } from './shaker'

const { puppet } = DEMOS['marlo']!()
const bone = (name: string): string => Object.values(puppet.bones).find((b) => b.name === name)!.id
const groups = (editor: Editor): Record<string, number> =>
  Object.fromEntries(openPuppet(editor).springs.map(({ name, bones }) => [name, bones.length]))

let editor: Editor
beforeEach(() => {
  ;({ editor } = quietEditor())
  openDocument(editor, { puppet, revision: 1 })
})

test('a bone swings with all that hangs from it, but for what swings already', () => {
  makeSprings(editor, [bone('Head')], 'ears')
  expect(groups(editor)).toEqual({ Hair: 2, Scarf: 2, Satchel: 1, Head: 1 })
  expect(bonesToSwing(openPuppet(editor), [bone('Chest')])).not.toContain(bone('Scarf tip'))
})

test('a bone that is left out goes from its group, and the last one takes the group along', () => {
  leaveOut(editor, bone('Scarf tail'))
  expect(groups(editor)).toEqual({ Hair: 2, Scarf: 1, Satchel: 1 })
  leaveOut(editor, bone('Satchel'))
  expect(groups(editor)).toEqual({ Hair: 2, Scarf: 1 })
})

test('a group alone mutes the others, and once more lets all swing', () => {
  const { id } = springsOfBone(puppet, bone('Hair tip'))!
  const muted = (): boolean[] => openPuppet(editor).springs.map((s) => s.muted)
  swingAlone(editor, id)
  expect(muted()).toEqual([false, true, true])
  swingAlone(editor, id)
  expect(muted()).toEqual([false, false, false])
})

test('what is frozen is posed as it hangs, and swings no more', () => {
  const satchel = springsOfBone(puppet, bone('Satchel'))!
  perform(editor, [
    edit(setSprings, { id: satchel.id, gravity: 1 }),
    edit(setPose, { values: { [boneChannel(bone('Hips'), 'angle')]: 20 } }),
  ])
  freezeGroup(editor, satchel.id)
  const after = openPuppet(editor)
  // Leaning to one side it hangs back to the other.
  expect(after.pose[boneChannel(bone('Satchel'), 'angle')]).toBeLessThan(-1)
  expect(springsOfBone(after, bone('Satchel'))!.muted).toBe(true)
})

test('the shaker adds to the pose, and nods with what carries the springs', () => {
  const spring = springsOfBone(puppet, bone('Hair lock'))!.id
  expect(shakerOf(puppet, 'hop', spring)(0.35)[boneChannel(bone('Hips'), 'y')]).toBeLessThan(-20)
  expect(Object.keys(shakerOf(puppet, 'nod', spring)(0.1))).toEqual([boneChannel(bone('Head'), 'angle')])
  expect(shakerOf(puppet, 'hop', spring)(2)).toEqual({})
})
