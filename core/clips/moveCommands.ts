/** Helpers that animators ask for: anticipation, overshoot, and hands that come late. They set keys, which can be moved like any others. */
import { z } from 'zod'
import { ChannelAddress, ClipId, HungPoseId, LayerId } from '../kernel/ids'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { clampTo } from '../kernel/channel'
import { changeKeys, hasPose, newKey, putKey } from './edits'
import { clipOf, hungPoseOf, isSameTime, layerOf } from './lookup'
import { SAME_TIME, type Clip, type ClipLayer, type HungPose, type Track } from './records'
import { valueAtTime } from './curve'

const Accent = z.object({
  clip: ClipId,
  layer: LayerId,
  from: HungPoseId,
  to: HungPoseId,
  /** Share of the move by which it goes beyond its end, or back before it begins. */
  amount: z.number().min(0).max(2),
  /** Seconds that this takes. */
  seconds: z.number().min(0.005).max(5),
  only: z.array(ChannelAddress).nullable(),
})
type Accent = z.infer<typeof Accent>

interface Move {
  readonly address: string
  readonly track: Track
  readonly from: number
  readonly to: number
}

/** Channels that really move between two poses of a layer. */
function movesBetween(layer: ClipLayer, a: HungPose, b: HungPose, only: readonly string[] | null): Move[] {
  return Object.entries(layer.tracks).flatMap(([address, track]): Move[] => {
    if (only && !only.includes(address)) return []
    if (!hasPose(track, a.id) || !hasPose(track, b.id)) return []
    const [from, to] = [valueAtTime(track, a.time), valueAtTime(track, b.time)]
    return from === to ? [] : [{ address, track, from, to }]
  })
}

function accented(
  clip: Clip,
  { layer: id, from, to, seconds, only }: Accent,
): { layer: ClipLayer; a: HungPose; b: HungPose; moves: Move[] } {
  const layer = layerOf(clip, id)
  const [a, b] = [hungPoseOf(clip, from), hungPoseOf(clip, to)]
  if (b.time - a.time <= seconds + SAME_TIME) throw new EditError('The two poses are too near to each other for this.')
  const moves = movesBetween(layer, a, b, only)
  if (moves.length === 0) throw new EditError('Nothing moves between these two poses.')
  return { layer, a, b, moves }
}

/**
 * Goes back before a move: some time after the pose that it leaves, each channel that moves is as far beyond that pose, away from where
 * it will go, as a share of the move.
 */
export const anticipate = command('move.anticipate', 'Add anticipation', Accent, (puppet, accent, { channelOf }) => {
  const clip = clipOf(puppet, accent.clip)
  const { layer, a, moves } = accented(clip, accent)
  for (const { address, from, to } of moves) {
    const channel = channelOf(puppet, address)
    if (!channel || channel.kind === 'choice') continue
    putKey(layer, address, newKey(a.time + accent.seconds, clampTo(channel, from - accent.amount * (to - from)), null, 'flat'))
  }
})

/**
 * Goes beyond the end of a move and comes back: at the time of the pose that it comes to, each channel that moves is beyond it by a share
 * of the move, and the pose itself is there some time later.
 */
export const overshoot = command('move.overshoot', 'Add overshoot', Accent, (puppet, accent, { channelOf }) => {
  const clip = clipOf(puppet, accent.clip)
  const { layer, b, moves } = accented(clip, accent)
  for (const { address, from, to } of moves) {
    const channel = channelOf(puppet, address)
    if (!channel || channel.kind === 'choice') continue
    changeKeys(
      layer,
      address,
      (key) => key.pose === b.id,
      (key) => ({ ...key, time: key.time + accent.seconds }),
    )
    putKey(layer, address, newKey(b.time, clampTo(channel, to + accent.amount * (to - from)), null, 'flat'))
  }
})

/** What is left of a swing in the next one. */
const LEFT = 0.45
/** Swings smaller than this share of the move are no longer seen, and no more than so many are made. */
const UNSEEN = 0.02
const MOST_SWINGS = 6

/**
 * Settles after a move: each channel that moves swings about the pose that it has come to, to either side in turn, by a share of the move
 * and ever less, each swing some time after the one before. What is keyed later stays.
 */
export const settle = command('move.settle', 'Add settle', Accent, (puppet, accent, { channelOf }) => {
  const { layer, b, moves } = accented(clipOf(puppet, accent.clip), accent)
  for (const { address, track, from, to } of moves) {
    const channel = channelOf(puppet, address)
    if (!channel || channel.kind === 'choice') continue
    const next = track.keys.find((key) => key.time > b.time + SAME_TIME)?.time ?? Infinity
    let [share, time] = [accent.amount, b.time + accent.seconds]
    for (let swing = 0; swing < MOST_SWINGS && Math.abs(share) >= UNSEEN; swing++) {
      if (time + accent.seconds >= next) break
      putKey(layer, address, newKey(time, clampTo(channel, to + share * (to - from)), null, 'flat'))
      share *= -LEFT
      time += accent.seconds
    }
    if (time < next - SAME_TIME) putKey(layer, address, newKey(time, to, null, 'flat'))
  }
})

/**
 * Lets a chain follow late: the keys of each channel between two times are moved by some seconds for each link before it, less from link
 * to link.
 *
 * @param falloff what each link adds, as a share of what the one before it adds
 */
export const followLate = command(
  'move.follow',
  'Follow late',
  z.object({
    clip: ClipId,
    layer: LayerId,
    /** From the root of the chain to its end; the first stays. */
    channels: z.array(ChannelAddress).min(2).max(100),
    from: z.number().min(0),
    to: z.number().min(0),
    seconds: z.number().min(-5).max(5),
    falloff: z.number().min(0).max(1),
  }),
  (puppet, { clip: id, layer: into, channels, from, to, seconds, falloff }) => {
    const layer = layerOf(clipOf(puppet, id), into)
    let late = 0
    channels.slice(1).forEach((address, link) => {
      late += seconds * falloff ** link
      const isMeant = (time: number): boolean => (time > from || isSameTime(time, from)) && (time < to || isSameTime(time, to))
      changeKeys(
        layer,
        address,
        (key) => isMeant(key.time),
        (key) => ({ ...key, time: Math.max(0, key.time + late) }),
      )
    })
  },
)
