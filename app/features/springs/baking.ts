/** Springs of the open clip made into keys, or held as they are at the moment. */
import { boneChannel } from '@marionette/core/bones/channels'
import { edit } from '@marionette/core/kernel/command'
import { bakeSpringsEdits } from '@marionette/core/playing/bakeSprings'
import { setSprings, springOf } from '@marionette/core/springs/commands'
import { nth } from '@marionette/core/kernel/sure'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { posedFrame, seenAt } from '../../editor/poseInverse'
import { bakeStretch } from '../clips/baking'
import { roundValues } from '../posing/poseTool'

/** Makes keys of a group, in the stretch between the chosen keys, in the range that plays, or in all of the clip. */
export function bakeGroup(editor: Editor, spring: string, tolerance: number): void {
  const { name } = springOf(openPuppet(editor), spring)
  bakeStretch(editor, `Bake ${name}`, tolerance, (puppet, options) => bakeSpringsEdits(puppet, { ...options, spring }))
}

/** Poses the bones of a group as they swing at this moment, and mutes it. */
export function freezeGroup(editor: Editor, id: string): void {
  const puppet = openPuppet(editor)
  const spring = springOf(puppet, id)
  const frame = posedFrame(editor)
  const seen = Object.fromEntries(
    spring.bones.flatMap((bone) => {
      const b = frame.rig.bones.index.get(bone)
      return b === undefined ? [] : [[boneChannel(bone, 'angle'), nth(frame.skeleton.angle, b)]]
    }),
  )
  perform(editor, [seenAt(editor, roundValues(seen)), edit(setSprings, { id, muted: true })], `Freeze ${spring.name}`)
}
