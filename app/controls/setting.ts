/** Setting controls by hand: dragged, typed, stepped by keys; those that spring back leave nothing behind. */
import { channelOf } from '@marionette/core/document/channels'
import { controlChannel, stepped, type Control } from '@marionette/core/document/schema'
import { axesFor, controlRange, randomControls } from '@marionette/core/inspect/randomPose'
import { beginGesture, endGesture, openPuppet, perform, updateGesture, useDocument } from '../state/document'
import { seenAt } from '../state/own'

export type Axis = 'value' | 'x' | 'y'

const valuesFor = (control: Control, values: Readonly<Partial<Record<Axis, number>>>): Record<string, number> =>
  Object.fromEntries(
    Object.entries(values).map(([axis, v]) => [
      controlChannel(control, axis as Axis),
      stepped(control, controlRange(openPuppet(), control, axis as Axis), Math.round(v * 1000) / 1000),
    ]),
  )

export const setControlTo = (control: Control, values: Readonly<Partial<Record<Axis, number>>>): boolean =>
  perform([seenAt(valuesFor(control, values))], `Set ${control.name}`)

export function dragControlTo(control: Control, values: Readonly<Partial<Record<Axis, number>>>): void {
  if (useDocument.getState().gesture === null) beginGesture(`Set ${control.name}`)
  updateGesture([seenAt(valuesFor(control, values))])
}

/** Ends a drag; what springs back is at rest again. */
export const letGo = (control: Control, kept = true): void => endGesture(kept && !control.springs)

/** Brings controls back to rest. */
export function restControls(controls: readonly Control[]): void {
  const puppet = openPuppet()
  const values = Object.fromEntries(
    controls.flatMap((c) =>
      axesFor(c).map((axis) => [controlChannel(c, axis), channelOf(puppet, controlChannel(c, axis))?.rest ?? 0] as const),
    ),
  )
  perform([seenAt(values)], controls.length === 1 ? `${controls[0]!.name} to rest` : `${controls.length} controls to rest`)
}

/** Sets all controls at random within their ranges, to see how they go together. */
export function shakeControls(controls: readonly Control[]): void {
  perform([seenAt(randomControls(openPuppet(), controls, Math.random))], 'Controls at random')
}
