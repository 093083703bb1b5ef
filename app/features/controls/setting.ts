/** Setting controls by hand: dragged, typed, stepped by keys; those that spring back leave nothing behind. */
import { channelOf } from '@marionette/core/puppet/channels'
import { controlChannel, stepped, type Control } from '@marionette/core/puppet/schema'
import { axesFor, controlRange, randomControls } from '@marionette/core/reports/randomPose'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, useDocument } from '../../editor/document'
import { seenAt } from '../../editor/poseInverse'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

export type Axis = 'value' | 'x' | 'y'

const valuesFor = (editor: Editor, control: Control, values: Readonly<Partial<Record<Axis, number>>>): Record<string, number> =>
  Object.fromEntries(
    Object.entries(values).map(([axis, v]) => [
      controlChannel(control, axis as Axis),
      stepped(control, controlRange(openPuppet(editor), control, axis as Axis), Math.round(v * 1000) / 1000),
    ]),
  )

export const setControlTo = (editor: Editor, control: Control, values: Readonly<Partial<Record<Axis, number>>>): boolean =>
  perform(editor, [seenAt(editor, valuesFor(editor, control, values))], `Set ${control.name}`)

export function dragControlTo(editor: Editor, control: Control, values: Readonly<Partial<Record<Axis, number>>>): void {
  if (useDocument.of(editor).getState().gesture === null) beginGesture(editor, `Set ${control.name}`)
  updateGesture(editor, [seenAt(editor, valuesFor(editor, control, values))])
}

/** Ends a drag; what springs back is at rest again. */
export const letGo = (editor: Editor, control: Control, kept = true): void => endGesture(editor, kept && !control.springs)

/** Brings controls back to rest. */
export function restControls(editor: Editor, controls: readonly Control[]): void {
  const puppet = openPuppet(editor)
  const values = Object.fromEntries(
    controls.flatMap((c) =>
      axesFor(c).map((axis) => [controlChannel(c, axis), channelOf(puppet, controlChannel(c, axis))?.rest ?? 0] as const),
    ),
  )
  perform(
    editor,
    [seenAt(editor, values)],
    controls.length === 1 ? `${nth(controls, 0).name} to rest` : `${controls.length} controls to rest`,
  )
}

/** Sets all controls at random within their ranges, to see how they go together. */
export function shakeControls(editor: Editor, controls: readonly Control[]): void {
  perform(editor, [seenAt(editor, randomControls(openPuppet(editor), controls, Math.random))], 'Controls at random')
}
