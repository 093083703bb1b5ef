/** From values as they are seen to those that the pose has to have, for what is dragged and typed. */
import type { Puppet } from '@marionette/core/document/schema'
import { edit, type Edit } from '@marionette/core/edit/command'
import { setPose } from '@marionette/core/edit/pose'
import { ownValues, seenValue } from '@marionette/core/record/own'
import { compile } from '@marionette/core/rig/compile'
import { evaluate, makeFrame, writePose, type Frame } from '@marionette/core/rig/evaluate'
import { openPuppet, useDocument } from './document'
import { isPlayed } from './live'
import { useHeldSpeeds, writeSpeeds } from './speeds'
import { stageModel } from './stageModel'

let frames = new WeakMap<Puppet, Frame>()
useHeldSpeeds.subscribe(() => (frames = new WeakMap()))

/** A frame of a puppet in its pose; the same for the same puppet. */
export function frameOf(puppet: Puppet): Frame {
  let frame = frames.get(puppet)
  if (!frame) {
    const rig = compile(puppet)
    frame = makeFrame(rig)
    writeSpeeds(frame)
    evaluate(rig, writePose(rig, puppet.pose, new Float64Array(rig.restPose.length)), frame)
    frames.set(puppet, frame)
  }
  return frame
}

let isRecording = (): boolean => false
/** While something is recorded the pose stays, and what is seen is told by what was there before the gesture. */
export const askRecording = (by: () => boolean): void => void (isRecording = by)

/** Values of the pose with which channels are seen to have some values. */
export function ownNow(frame: Frame, seen: Readonly<Record<string, number>>): Record<string, number> {
  const before = useDocument.getState().history?.puppet
  if (isRecording() && before) return ownValues(frameOf(before), before, seen)
  const played = Object.entries(seen).filter(([address]) => isPlayed(address))
  return { ...ownValues(frame, openPuppet(), seen), ...Object.fromEntries(played) }
}

/** The frame of the open puppet in its pose. */
export const posedFrame = (): Frame => stageModel.get(openPuppet(), false).frame

/** The edit after which channels are seen at some values. */
export const seenAt = (seen: Readonly<Record<string, number>>): Edit => edit(setPose, { values: ownNow(posedFrame(), seen) })

/** A channel's value as it is seen in the pose. */
export const valueSeen = (address: string): number => seenValue(posedFrame(), address)
