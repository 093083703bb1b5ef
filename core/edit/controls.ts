/** Commands on controls and on poses that are kept. */
import { z } from 'zod'
import { channelOf, clampTo } from '../document/channels'
import { ControlId, PoseId } from '../document/ids'
import { axesOf, Control, controlChannel, Name, rangeAlong, SavedPose, type Puppet } from '../document/schema'
import { command, EditError } from './command'
import { boneOf, partOf } from './lookup'

function controlAt(puppet: Puppet, id: string): number {
  const at = puppet.controls.findIndex((c) => c.id === id)
  if (at < 0) throw new EditError(`There is no control "${id}" in this puppet.`)
  return at
}

function checkControl(puppet: Puppet, control: Control): void {
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

export const addControl = command(
  'control.add',
  'Add control',
  z.object({ control: Control, index: z.number().int().min(0).optional() }),
  (puppet, { control, index }) => {
    if (puppet.controls.some((c) => c.id === control.id)) throw new EditError(`There is already a control "${control.id}".`)
    checkControl(puppet, control)
    puppet.controls.splice(Math.min(index ?? puppet.controls.length, puppet.controls.length), 0, control)
  },
)

/** Replaces a control by another form of it. */
export const setControl = command('control.set', 'Change control', z.object({ control: Control }), (puppet, { control }) => {
  const at = controlAt(puppet, control.id)
  checkControl(puppet, control)
  puppet.controls[at] = control
  keepValues(puppet, control)
})

export const deleteControl = command('control.delete', 'Delete control', z.object({ control: ControlId }), (puppet, { control }) => {
  puppet.controls.splice(controlAt(puppet, control), 1)
})

export const orderControl = command(
  'control.order',
  'Reorder controls',
  z.object({ control: ControlId, index: z.number().int().min(0) }),
  (puppet, { control, index }) => {
    const [moved] = puppet.controls.splice(controlAt(puppet, control), 1)
    puppet.controls.splice(Math.min(index, puppet.controls.length), 0, moved!)
  },
)

/** Keeps values under a name; a pose of the same id is replaced. */
export const keepPose = command('pose.keep', 'Keep pose', z.object({ pose: SavedPose }), (puppet, { pose }) => {
  const missing = Object.keys(pose.values).find((address) => !channelOf(puppet, address))
  if (missing !== undefined) throw new EditError(`Nothing in this puppet answers to "${missing}".`)
  if (Object.keys(pose.values).length === 0) throw new EditError('There is nothing in this pose: everything is at rest.')
  const at = puppet.poses.findIndex((p) => p.id === pose.id)
  if (at < 0) puppet.poses.push(pose)
  else puppet.poses[at] = pose
})

function poseAt(puppet: Puppet, id: string): number {
  const at = puppet.poses.findIndex((p) => p.id === id)
  if (at < 0) throw new EditError(`There is no kept pose "${id}".`)
  return at
}

export const forgetPose = command('pose.forget', 'Forget pose', z.object({ pose: PoseId }), (puppet, { pose }) => {
  puppet.poses.splice(poseAt(puppet, pose), 1)
})

export const renamePose = command('pose.rename', 'Rename pose', z.object({ pose: PoseId, name: Name }), (puppet, { pose, name }) => {
  puppet.poses[poseAt(puppet, pose)]!.name = name
})

/**
 * Brings the puppet towards a kept pose: by a share of the way from what is posed, 1 for all of it.
 *
 * @param only channels that take part; all of the pose without it
 */
export const applyPose = command(
  'pose.apply',
  'Apply pose',
  z.object({ pose: PoseId, share: z.number().min(0).max(1), only: z.array(z.string()).nullable() }),
  (puppet, { pose, share, only }) => {
    for (const [address, wanted] of Object.entries(puppet.poses[poseAt(puppet, pose)]!.values)) {
      const channel = channelOf(puppet, address)
      if (!channel || (only && !only.includes(address))) continue
      const now = puppet.pose[address] ?? channel.rest
      const value = clampTo(channel, channel.kind === 'choice' ? (share < 0.5 ? now : wanted) : now + (wanted - now) * share)
      if (value === channel.rest) delete puppet.pose[address]
      else puppet.pose[address] = value
    }
  },
)

/** The range that a control of a channel is given: the channel's limits, or a range that suits its kind. */
export function rangeFor(puppet: Puppet, address: string): Control['range'] {
  const channel = channelOf(puppet, address)
  if (!channel) return { min: -1, max: 1, rest: 0 }
  const usual = { angle: 45, scalar: 50, scale: 0.5, choice: 1 }[channel.kind]
  const [min, max] = [
    Number.isFinite(channel.min) ? channel.min : channel.rest - usual,
    Number.isFinite(channel.max) ? channel.max : channel.rest + usual,
  ]
  return { min: Math.min(min, channel.rest), max: Math.max(max, channel.rest), rest: channel.rest }
}
