/** Commands on controls. */
import { z } from 'zod'
import { count } from '../kernel/numbers'
import type { Channel } from '../kernel/channel'
import { ControlId } from '../kernel/ids'
import { axesOf, Control, controlChannel, rangeAlong } from './records'
import type { Puppet } from '../puppet/schema'
import { partOf } from '../parts/lookup'
import { command, type ChannelLookup } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { boneOf } from '../bones/lookup'
import { sure } from '../kernel/sure'

function controlAt(puppet: Puppet, id: string): number {
  const at = puppet.controls.findIndex((c) => c.id === id)
  if (at < 0) throw new EditError(`There is no control "${id}" in this puppet.`)
  return at
}

function checkControl(puppet: Puppet, control: Control, channelOf: ChannelLookup): void {
  if (control.bone !== null) boneOf(puppet, control.bone)
  if (control.place.on === 'stage' && control.place.part !== null) partOf(puppet, control.place.part)
  const missing = control.ties.find((t) => !channelOf(puppet, t.channel))
  if (missing) throw new EditError(`Nothing in this puppet answers to "${missing.channel}".`)
  for (const axis of control.kind === 'pad' ? (['x', 'y'] as const) : (['value'] as const)) {
    const { min, max, rest } = rangeAlong(control, axis)
    if (control.symmetric && Math.abs(max + min - 2 * rest) > 1e-6)
      throw new EditError('A symmetric control goes as far to one side of rest as to the other.')
  }
}

/** Values outside of a control's range are brought inside; those at rest are not kept. */
function keepValues(puppet: Puppet, control: Control): void {
  for (const axis of axesOf(control)) {
    const address = controlChannel(control, axis)
    const value = puppet.pose[address]
    if (value === undefined) continue
    const { min, max, rest } = rangeAlong(control, axis)
    const kept = Math.min(max, Math.max(min, value))
    if (kept === rest) delete puppet.pose[address]
    else puppet.pose[address] = kept
  }
}

/** Adds a control, at the end or at an index. Refused where its id is taken or a channel tied to it is not there. */
export const addControl = command(
  'control.add',
  'Add control',
  z.object({ control: Control, index: count.optional() }),
  (puppet, { control, index }, { channelOf }) => {
    if (puppet.controls.some((c) => c.id === control.id)) throw new EditError(`There is already a control "${control.id}".`)
    checkControl(puppet, control, channelOf)
    puppet.controls.splice(Math.min(index ?? puppet.controls.length, puppet.controls.length), 0, control)
  },
)

/** Replaces a control by another form of it. */
export const setControl = command('control.set', 'Change control', z.object({ control: Control }), (puppet, { control }, { channelOf }) => {
  const at = controlAt(puppet, control.id)
  checkControl(puppet, control, channelOf)
  puppet.controls[at] = control
  keepValues(puppet, control)
})

/** Deletes a control. Refused where there is none with this id. */
export const deleteControl = command('control.delete', 'Delete control', z.object({ control: ControlId }), (puppet, { control }) => {
  puppet.controls.splice(controlAt(puppet, control), 1)
})

/** Moves a control in the list. */
export const orderControl = command(
  'control.order',
  'Reorder controls',
  z.object({ control: ControlId, index: count }),
  (puppet, { control, index }) => {
    const [moved] = puppet.controls.splice(controlAt(puppet, control), 1)
    puppet.controls.splice(Math.min(index, puppet.controls.length), 0, sure(moved))
  },
)

/** The range that a control of a channel is given: the channel's limits, or a range that suits its kind. */
export function rangeFor(channel: Channel | null): Control['range'] {
  if (!channel) return { min: -1, max: 1, rest: 0 }
  const usual = { angle: 45, scalar: 50, scale: 0.5, choice: 1 }[channel.kind]
  const [min, max] = [
    Number.isFinite(channel.min) ? channel.min : channel.rest - usual,
    Number.isFinite(channel.max) ? channel.max : channel.rest + usual,
  ]
  return { min: Math.min(min, channel.rest), max: Math.max(max, channel.rest), rest: channel.rest }
}
