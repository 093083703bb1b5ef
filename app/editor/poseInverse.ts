/** From values as they are seen to those that the pose has to have, for what is dragged and typed. */
import type { Puppet } from '@marionette/core/puppet/schema'
import { setPose } from '@marionette/core/poses/commands'
import { ownValues, seenValue } from '@marionette/core/recording/inverse'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { areEditsRedirected, openPuppet, useDocument } from './document'
import { isPlayed } from './live'
import { heldMoment, useHeldSpeeds } from './speeds'
import { stageModel } from './stageModel'
import { editorState, type Editor } from './editor'
import { edit, type Edit } from '@marionette/core/kernel/command'
import type { Frame } from '@marionette/core/puppet/frame'

/** Frames of puppets, for the speeds that are held. */
const framesOf = editorState((editor) => {
  const own = { frames: new WeakMap<Puppet, Frame>() }
  useHeldSpeeds.of(editor).subscribe(() => (own.frames = new WeakMap()))
  return own
})

/** A frame of a puppet in its pose; the same for the same puppet. */
export function frameOf(editor: Editor, puppet: Puppet): Frame {
  const { frames } = framesOf(editor)
  let frame = frames.get(puppet)
  if (!frame) {
    const rig = compile(puppet)
    frame = makeFrame(rig)
    evaluate(rig, writePose(rig, puppet.pose, new Float64Array(rig.restPose.length)), frame, heldMoment(editor, rig))
    frames.set(puppet, frame)
  }
  return frame
}

/** Values of the pose with which channels are seen to have some values. */
export function ownNow(editor: Editor, frame: Frame, seen: Readonly<Record<string, number>>): Record<string, number> {
  const before = useDocument.of(editor).getState().history?.puppet
  // While edits are redirected the pose stays, and what is seen is told by what was there before the gesture.
  if (areEditsRedirected(editor) && before) return ownValues(frameOf(editor, before), before, seen)
  const played = Object.entries(seen).filter(([address]) => isPlayed(editor, address))
  return { ...ownValues(frame, openPuppet(editor), seen), ...Object.fromEntries(played) }
}

/** The frame of the open puppet in its pose. */
export const posedFrame = (editor: Editor): Frame => stageModel(editor).get(openPuppet(editor), false).frame

/** The edit after which channels are seen at some values. */
export const seenAt = (editor: Editor, seen: Readonly<Record<string, number>>): Edit =>
  edit(setPose, { values: ownNow(editor, posedFrame(editor), seen) })

/** A channel's value as it is seen in the pose. */
export const valueSeen = (editor: Editor, address: string): number => seenValue(posedFrame(editor), address)
