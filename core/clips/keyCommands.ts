/** Commands on single keys and on the curves through them. */
import { z } from 'zod'
import { ChannelAddress, ClipId, LayerId } from '../kernel/ids'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { finite } from '../kernel/numbers'
import { clampTo } from '../kernel/channel'
import { changeKeys, dropKeys, newKey, putKey, scaledHandles } from './edits'
import { Ease, easedHandles } from './easing'
import { clipOf, isSameTime, keyAt, layerOf } from './lookup'
import { Beyond, type ClipLayer, Key, KeyHandles, KeyWay, LONGEST, Seconds } from './records'

/** Which keys are meant: a channel and a time each. */
const Chosen = z
  .array(z.object({ channel: ChannelAddress, time: Seconds }))
  .min(1)
  .max(20_000)
const In = { clip: ClipId, layer: LayerId }

/** The chosen keys by their channels. */
function timesOf(chosen: z.infer<typeof Chosen>): Map<string, number[]> {
  const out = new Map<string, number[]>()
  for (const { channel, time } of chosen) {
    const times = out.get(channel)
    if (times) times.push(time)
    else out.set(channel, [time])
  }
  return out
}

/** Changes every chosen key of a layer. Refused where one of them is not there. */
function changeChosen(layer: ClipLayer, chosen: z.infer<typeof Chosen>, change: (key: Key, channel: string) => Key): void {
  for (const [channel, times] of timesOf(chosen)) {
    for (const time of times) if (!keyAt(layer.tracks[channel], time)) throw new EditError(`There is no key at ${time} s on this track.`)
    changeKeys(
      layer,
      channel,
      (key) => times.some((time) => isSameTime(time, key.time)),
      (key) => change(key, channel),
    )
  }
}

/** Sets values at times. A key that is there keeps its pose, and its way and handles where no way is given. */
export const setKeys = command(
  'key.set',
  'Set key',
  z.object({
    ...In,
    keys: z
      .array(z.object({ channel: ChannelAddress, time: Seconds, value: finite, way: KeyWay.exclude(['custom']).optional() }))
      .min(1)
      .max(50_000),
  }),
  (puppet, { clip, layer: id, keys }, { channelOf }) => {
    const layer = layerOf(clipOf(puppet, clip), id)
    for (const { channel, time, value, way } of keys) {
      const known = channelOf(puppet, channel)
      if (!known) throw new EditError(`Nothing in this puppet answers to "${channel}".`)
      const before = keyAt(layer.tracks[channel], time)
      const clamped = clampTo(known, value)
      const key = before ? { ...before, value: clamped } : newKey(time, clamped)
      putKey(layer, channel, way ? { ...key, way, handles: null } : key)
    }
  },
)

/** Deletes keys. */
export const deleteKeys = command('key.delete', 'Delete keys', z.object({ ...In, keys: Chosen }), (puppet, { clip, layer: id, keys }) => {
  const layer = layerOf(clipOf(puppet, clip), id)
  for (const [channel, times] of timesOf(keys)) dropKeys(layer, channel, (key) => times.some((time) => isSameTime(time, key.time)))
})

/**
 * Moves and stretches keys: by time about a time, by value about a value. Keys that are moved onto others take their places; what
 * would begin before the clip is refused.
 */
export const moveKeys = command(
  'key.move',
  'Move keys',
  z.object({
    ...In,
    keys: Chosen,
    seconds: z.object({ about: finite, by: z.number().min(0.001).max(1000), shift: finite }),
    value: z.object({ about: finite, by: finite, shift: finite }),
  }),
  (puppet, { clip, layer: id, keys, seconds, value }, { channelOf }) => {
    const layer = layerOf(clipOf(puppet, clip), id)
    changeChosen(layer, keys, (key, address) => {
      const time = seconds.about + (key.time - seconds.about) * seconds.by + seconds.shift
      if (time < -1e-9 || time > LONGEST) throw new EditError('A key cannot lie before the beginning of its clip.')
      const channel = channelOf(puppet, address)
      const moved = value.about + (key.value - value.about) * value.by + value.shift
      const handles = key.handles && scaledHandles(key.handles, seconds.by, value.by)
      return { ...key, time: Math.max(0, time), value: channel ? clampTo(channel, moved) : moved, handles }
    })
  },
)

/** How curves go through keys. Custom keys begin with level handles, a fifth of a second long. */
export const setKeyWay = command(
  'key.way',
  'Change curve',
  z.object({ ...In, keys: Chosen, way: KeyWay }),
  (puppet, { clip, layer: id, keys, way }) => {
    changeChosen(layerOf(clipOf(puppet, clip), id), keys, (key) => ({
      ...key,
      way,
      handles: way === 'custom' ? (key.handles ?? { arrive: [0.2, 0], leave: [0.2, 0], aligned: true }) : null,
    }))
  },
)

/** Gives the curve at keys one of the usual characters. What a key has on one side alone shapes that side. */
export const easeKeys = command(
  'key.ease',
  'Ease keys',
  z.object({ ...In, keys: Chosen, ease: Ease }),
  (puppet, { clip, layer: id, keys, ease }) => {
    const layer = layerOf(clipOf(puppet, clip), id)
    const before = new Map(Object.entries(layer.tracks).map(([channel, track]) => [channel, [...track.keys]]))
    changeChosen(layer, keys, (key, channel) => {
      const all = before.get(channel) ?? []
      const at = all.findIndex((other) => isSameTime(other.time, key.time))
      return { ...key, way: 'custom', handles: easedHandles(all, at, ease) }
    })
  },
)

/** Puts copies of keys into a layer; what has a key at such a time is given the copy in its place. */
export const pasteKeys = command(
  'key.paste',
  'Paste keys',
  z.object({
    ...In,
    keys: z
      .array(z.object({ channel: ChannelAddress, key: Key }))
      .min(1)
      .max(20_000),
  }),
  (puppet, { clip, layer: id, keys }, { channelOf }) => {
    const layer = layerOf(clipOf(puppet, clip), id)
    for (const { channel, key } of keys) {
      const known = channelOf(puppet, channel)
      if (!known) throw new EditError(`Nothing in this puppet answers to "${channel}".`)
      putKey(layer, channel, { ...key, value: clampTo(known, key.value), pose: null })
    }
  },
)

/** Sets the handles of a key, which is custom from then on. */
export const setKeyHandles = command(
  'key.handles',
  'Shape curve',
  z.object({ ...In, channel: ChannelAddress, time: Seconds, handles: KeyHandles }),
  (puppet, { clip, layer: id, channel, time, handles }) => {
    changeChosen(layerOf(clipOf(puppet, clip), id), [{ channel, time }], (key) => ({ ...key, way: 'custom', handles }))
  },
)

/** What a track does before its first key and after its last. */
export const setBeyond = command(
  'track.beyond',
  'Change what is beyond the keys',
  z.object({ ...In, channel: ChannelAddress, before: Beyond, after: Beyond }),
  (puppet, { clip, layer: id, channel, before, after }) => {
    const track = layerOf(clipOf(puppet, clip), id).tracks[channel]
    if (!track) throw new EditError('There is no track for this channel.')
    Object.assign(track, { before, after })
  },
)
