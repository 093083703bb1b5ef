/** Commands on poses that are kept, on moods among them, and on keys that show a value. */
import { z } from 'zod'
import { clampTo, type Channel } from '../kernel/channel'
import { ChannelAddress, CueId, PoseId } from '../kernel/ids'
import { Cue, SavedPose } from './records'
import { Name } from '../kernel/numbers'
import type { Puppet } from '../puppet/schema'
import { command, type ChannelLookup } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { nth, sure } from '../kernel/sure'

/** Keeps values under a name; a pose of the same id is replaced. */
export const keepPose = command('pose.keep', 'Keep pose', z.object({ pose: SavedPose }), (puppet, { pose }, { channelOf }) => {
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

/** Deletes a saved pose. Refused where there is none with this id. */
export const forgetPose = command('pose.forget', 'Forget pose', z.object({ pose: PoseId }), (puppet, { pose }) => {
  puppet.poses.splice(poseAt(puppet, pose), 1)
})

/** Renames a saved pose. */
export const renamePose = command('pose.rename', 'Rename pose', z.object({ pose: PoseId, name: Name }), (puppet, { pose, name }) => {
  nth(puppet.poses, poseAt(puppet, pose)).name = name
})

/**
 * Brings the puppet towards a kept pose: by a share of the way from what is posed, 1 for all of it.
 *
 * @param only channels that take part; all of the pose without it
 */
export const applyPose = command(
  'pose.apply',
  'Apply pose',
  z.object({ pose: PoseId, share: z.number().min(0).max(1), only: z.array(ChannelAddress).nullable() }),
  (puppet, { pose, share, only }, { channelOf }) => {
    for (const [address, wanted] of Object.entries(nth(puppet.poses, poseAt(puppet, pose)).values)) {
      const channel = channelOf(puppet, address)
      if (!channel || (only && !only.includes(address))) continue
      bring(puppet, channel, wanted, share)
    }
  },
)

/** Brings a channel towards a value by a share of the way; a choice goes over half way. */
function bring(puppet: Puppet, channel: Channel, wanted: number, share: number): void {
  const now = puppet.pose[channel.address] ?? channel.rest
  const value = clampTo(channel, channel.kind === 'choice' ? (share < 0.5 ? now : wanted) : now + (wanted - now) * share)
  if (value === channel.rest) delete puppet.pose[channel.address]
  else puppet.pose[channel.address] = value
}

/** Channels that any mood of the board has to do with. */
export const moodChannels = ({ poses }: Pick<Puppet, 'poses'>): ReadonlySet<string> =>
  new Set(poses.filter((p) => p.face === 'mood').flatMap((p) => Object.keys(p.values)))

/** Values of all moods' channels in one mood: those that it says nothing of are at rest. Null is no mood at all. */
export function moodValues(puppet: Puppet, mood: string | null, channelOf: ChannelLookup): Record<string, number> {
  const own = mood === null ? {} : nth(puppet.poses, poseAt(puppet, mood)).values
  return Object.fromEntries(
    [...moodChannels(puppet)].flatMap((address) => {
      const channel = channelOf(puppet, address)
      return channel ? [[address, own[address] ?? channel.rest]] : []
    }),
  )
}

/** The mood that the face is in: null in none at all, undefined where it is in between or elsewhere. */
export function moodOf(puppet: Puppet, channelOf: ChannelLookup): string | null | undefined {
  const rest = moodValues(puppet, null, channelOf)
  const isAt = (values: Readonly<Record<string, number>>): boolean =>
    Object.entries(rest).every(([address, at]) => Math.abs((puppet.pose[address] ?? at) - (values[address] ?? at)) < 1e-6)
  if (isAt({})) return null
  return puppet.poses.find((p) => p.face === 'mood' && isAt(p.values))?.id
}

/**
 * Brings the face into a mood, by a share of the way from what it is in. What other moods move and this one does not goes to rest; all
 * else stays as it is.
 */
export const takeMood = command(
  'pose.mood',
  'Take up mood',
  z.object({ mood: PoseId.nullable(), share: z.number().min(0).max(1) }),
  (puppet, { mood, share }, { channelOf }) => {
    for (const [address, wanted] of Object.entries(moodValues(puppet, mood, channelOf)))
      bring(puppet, sure(channelOf(puppet, address)), wanted, share)
  },
)

/** Sets what a key shows; another key of its place or its letter is replaced. */
export const setCue = command('cue.set', 'Set key', z.object({ cue: Cue }), (puppet, { cue }, { channelOf }) => {
  if (!channelOf(puppet, cue.channel)) throw new EditError(`Nothing in this puppet answers to "${cue.channel}".`)
  puppet.cues = [...puppet.cues.filter((c) => c.id !== cue.id && c.key !== cue.key), cue]
})

/** Deletes a cue. */
export const deleteCue = command('cue.delete', 'Delete key', z.object({ cue: CueId }), (puppet, { cue }) => {
  const at = puppet.cues.findIndex((c) => c.id === cue)
  if (at < 0) throw new EditError(`There is no key "${cue}" in this puppet.`)
  puppet.cues.splice(at, 1)
})
