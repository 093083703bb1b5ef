/** Commands on whole poses that hang on the line of a clip. A pose owns the keys that name it, wherever they were moved since. */
import { z } from 'zod'
import { ChannelAddress, ClipId, HungPoseId, LayerId } from '../kernel/ids'
import { command, type ChannelLookup } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { finite, Name } from '../kernel/numbers'
import { clampTo } from '../kernel/channel'
import type { Puppet } from '../puppet/schema'
import { changeKeys, dropKeys, newKey, putKey } from './edits'
import { clipOf, hungPoseOf, isSameTime, keysOfPose, layerOf } from './lookup'
import { valueOnOtherSide } from './mirror'
import { type Clip, type ClipLayer, type HungPose, type Key, LONGEST, Seconds } from './records'
import { valueAtTime } from './curve'

const In = { clip: ClipId, layer: LayerId }

/** Puts a pose on the line; the one at its time goes, and its keys become keys by themselves. */
function hang(clip: Clip, pose: HungPose): void {
  const gone = new Set(clip.poses.filter((p) => isSameTime(p.time, pose.time)).map((p) => p.id))
  for (const layer of clip.layers)
    for (const track of Object.values(layer.tracks))
      for (const key of track.keys) if (key.pose !== null && gone.has(key.pose)) key.pose = null
  clip.poses = [...clip.poses.filter((p) => !gone.has(p.id)), pose].sort((a, b) => a.time - b.time)
}

/** Sets keys of a pose in a layer; what was posed and not keyed there is kept by them. */
function keyed(puppet: Puppet, clip: Clip, layer: ClipLayer, pose: HungPose, values: Readonly<Record<string, number>>, of: ChannelLookup) {
  for (const [address, value] of Object.entries(values)) {
    const channel = of(puppet, address)
    if (!channel) throw new EditError(`Nothing in this puppet answers to "${address}".`)
    putKey(layer, address, newKey(pose.time, clampTo(channel, value), pose.id))
    delete clip.loose[address]
  }
}

/**
 * Hangs a pose on the line: a key at its time for each of its values. Where a clip moves more than the pose says, the caller gives the
 * values of the moment for that as well, so that the whole puppet comes to this pose. A pose in which everything is at rest has no keys
 * yet; it gets them for what poses hung later move.
 */
export const hangPose = command(
  'hung.add',
  'Add pose',
  z.object({ ...In, pose: z.object({ id: HungPoseId, name: Name, time: Seconds }), values: z.record(ChannelAddress, finite) }),
  (puppet, { clip: id, layer, pose, values }, { channelOf }) => {
    const clip = clipOf(puppet, id)
    const own = layerOf(clip, layer)
    const resting = clip.poses.filter((p) => !isSameTime(p.time, pose.time) && keysOfPose(clip, p.id).length === 0)
    const first = Object.keys(values).filter((address) => !own.tracks[address])
    hang(clip, pose)
    keyed(puppet, clip, own, pose, values, channelOf)
    // Poses at rest say so once there is anything that moves.
    for (const { id: rest, time } of resting)
      for (const address of first) putKey(own, address, newKey(time, channelOf(puppet, address)?.rest ?? 0, rest))
  },
)

/** Renames a pose on the line. */
export const renameHungPose = command(
  'hung.rename',
  'Rename pose',
  z.object({ clip: ClipId, pose: HungPoseId, name: Name }),
  (puppet, { clip, pose, name }) => {
    hungPoseOf(clipOf(puppet, clip), pose).name = name
  },
)

/**
 * Moves a pose with its keys, those that are late by as much.
 *
 * @param ripples whether what comes later moves along, keys by themselves and markers included
 */
export const moveHungPose = command(
  'hung.move',
  'Move pose',
  z.object({ clip: ClipId, pose: HungPoseId, to: Seconds, ripples: z.boolean() }),
  (puppet, { clip: id, pose: which, to, ripples }) => {
    const clip = clipOf(puppet, id)
    const pose = hungPoseOf(clip, which)
    const from = pose.time
    const by = to - from
    const ids = new Set(ripples ? clip.poses.filter((p) => p.time >= from).map((p) => p.id) : [which])
    const moves = (key: Key): boolean => (key.pose !== null ? ids.has(key.pose) : ripples && key.time >= from)
    for (const layer of clip.layers)
      for (const channel of Object.keys(layer.tracks)) changeKeys(layer, channel, moves, (key) => ({ ...key, time: shifted(key.time, by) }))
    for (const other of clip.poses) if (ids.has(other.id)) other.time = shifted(other.time, by)
    if (ripples) for (const marker of clip.markers) if (marker.time >= from) marker.time = shifted(marker.time, by)
    const there = clip.poses.filter((p) => !ids.has(p.id) && isSameTime(p.time, to))
    if (there.length > 0) hang(clip, pose)
    else clip.poses.sort((a, b) => a.time - b.time)
  },
)

const shifted = (time: number, by: number): number => Math.min(LONGEST, Math.max(0, time + by))

/** Copies a pose to another time, as it is or as its mirror image. */
export const copyHungPose = command(
  'hung.copy',
  'Copy pose',
  z.object({ clip: ClipId, pose: HungPoseId, id: HungPoseId, to: Seconds, mirrored: z.boolean() }),
  (puppet, { clip: which, pose: from, id, to, mirrored }, host) => {
    const clip = clipOf(puppet, which)
    const pose = hungPoseOf(clip, from)
    const copies = keysOfPose(clip, from).map(({ layer, channel, key }) => {
      const plain: Key = { ...key, time: shifted(key.time, to - pose.time), pose: id }
      if (!mirrored) return { layer, channel, key: plain }
      const value = valueOnOtherSide(puppet, channel, key.value, host)
      return { layer, channel: host.otherAddress(puppet, channel), key: { ...plain, value, handles: null, way: wayOf(key) } }
    })
    hang(clip, { id, name: pose.name, time: to })
    for (const { layer, channel, key } of copies) putKey(layer, channel, key)
  },
)

const wayOf = ({ way }: Key): Key['way'] => (way === 'custom' ? 'smooth' : way)

/** Takes a pose off the line with all of its keys. */
export const deleteHungPose = command(
  'hung.delete',
  'Delete pose',
  z.object({ clip: ClipId, pose: HungPoseId }),
  (puppet, { clip: id, pose: which }) => {
    const clip = clipOf(puppet, id)
    const pose = hungPoseOf(clip, which)
    for (const layer of clip.layers) for (const channel of Object.keys(layer.tracks)) dropKeys(layer, channel, (key) => key.pose === which)
    clip.poses.splice(clip.poses.indexOf(pose), 1)
  },
)

/**
 * Hangs a breakdown between two poses: each channel by a share of the way from the one to the other. Shares below 0 and above 1 go beyond
 * them.
 *
 * @param only channels that take part; all that the two poses have where it is null
 */
export const breakDown = command(
  'hung.breakdown',
  'Add breakdown',
  z.object({
    ...In,
    from: HungPoseId,
    to: HungPoseId,
    pose: z.object({ id: HungPoseId, name: Name, time: Seconds }),
    share: z.number().min(-1).max(2),
    only: z.array(ChannelAddress).nullable(),
  }),
  (puppet, { clip: id, layer: into, from, to, pose, share, only }, { channelOf }) => {
    const clip = clipOf(puppet, id)
    const layer = layerOf(clip, into)
    const [a, b] = [hungPoseOf(clip, from), hungPoseOf(clip, to)]
    if (pose.time <= a.time || pose.time >= b.time) throw new EditError('A breakdown lies between its two poses.')
    const channels = new Set([a.id, b.id].flatMap((p) => keysOfPose(clip, p).flatMap((k) => (k.layer === layer ? [k.channel] : []))))
    const values: Record<string, number> = {}
    for (const address of channels) {
      const track = layer.tracks[address]
      const channel = channelOf(puppet, address)
      if (!track || !channel || (only && !only.includes(address))) continue
      const [x, y] = [valueAtTime(track, a.time), valueAtTime(track, b.time)]
      values[address] = channel.kind === 'choice' ? (share < 0.5 ? x : y) : x + share * (y - x)
    }
    if (Object.keys(values).length === 0) throw new EditError('Nothing of these poses takes part in the breakdown.')
    hang(clip, pose)
    keyed(puppet, clip, layer, pose, values, channelOf)
  },
)

/** Holds a pose: the same once more at a later time, and nothing moves in between. */
export const holdPose = command(
  'hung.hold',
  'Hold pose',
  z.object({ clip: ClipId, pose: HungPoseId, id: HungPoseId, until: Seconds }),
  (puppet, { clip: which, pose: held, id, until }) => {
    const clip = clipOf(puppet, which)
    const pose = hungPoseOf(clip, held)
    if (until <= pose.time) throw new EditError('A pose is held until a later time.')
    const copies = keysOfPose(clip, held)
    const by = until - pose.time
    hang(clip, { id, name: pose.name, time: until })
    for (const { layer, channel, key } of copies) {
      putKey(layer, channel, { ...key, time: shifted(key.time, by), pose: id, way: 'flat', handles: null })
      key.way = 'flat'
      key.handles = null
    }
  },
)
