/** Even spacing: a move goes the same way as before, the same distance with every frame. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { ChannelAddress, ClipId, LayerId } from '../kernel/ids'
import { nth } from '../kernel/sure'
import type { Vec } from '../kernel/numbers'
import { readyTrack, trackValue } from './curve'
import { clipOf, isSameTime, layerOf } from './lookup'
import { Seconds, type Key, type Track } from './records'
import { thinnedKeys } from './thin'

/**
 * Times at which something has come each even step along its way.
 *
 * @param places where it is at each time of `at`
 * @param at seconds, rising; closer than frames where it is fast
 * @param times new times, seconds, in even steps from the first of `at` to the last
 * @returns for each new time the old one at which it is there now. Null where it does not move.
 */
export function evenTimes(places: readonly Vec[], at: readonly number[], times: readonly number[]): number[] | null {
  const along = [0]
  for (let k = 1; k < places.length; k++) {
    const [a, b] = [nth(places, k - 1), nth(places, k)]
    along.push(nth(along, k - 1) + Math.hypot(b.x - a.x, b.y - a.y))
  }
  const all = nth(along, -1)
  if (all < 1e-6) return null
  let k = 1
  return times.map((_, n) => {
    if (n === 0 || n === times.length - 1) return nth(at, n === 0 ? 0 : -1)
    const wanted = (all * n) / (times.length - 1)
    while (k < along.length - 1 && nth(along, k) < wanted) k++
    const [from, to] = [nth(along, k - 1), nth(along, k)]
    const share = to > from ? (wanted - from) / (to - from) : 0
    return nth(at, k - 1) + share * (nth(at, k) - nth(at, k - 1))
  })
}

/** How far a curve may be from what was asked for, as a share of its values in the stretch. */
const TOLERANCE = 2e-3

/**
 * Shows what some channels did at other times of a stretch. Keys inside it come to the times at which they are shown now, and keep their
 * poses; between them are as many more as the new pace needs.
 */
export const repace = command(
  'clip.repace',
  'Even spacing',
  z.object({
    clip: ClipId,
    layer: LayerId,
    channels: z.array(ChannelAddress).min(1).max(5000),
    /** New times, in even steps, and the old time that each shows. */
    times: z.array(Seconds).min(3).max(100_000),
    shown: z.array(Seconds).min(3).max(100_000),
  }),
  (puppet, { clip: id, layer: layerId, channels, times, shown }) => {
    if (times.length !== shown.length) throw new EditError('Each new time needs the time that it shows.')
    const isRising = (list: readonly number[]): boolean => list.every((time, k) => k === 0 || time >= nth(list, k - 1))
    if (!isRising(times) || !isRising(shown)) throw new EditError('Times of a stretch go on, never back.')
    const layer = layerOf(clipOf(puppet, id), layerId)
    const moved = channels.filter((channel) => layer.tracks[channel])
    if (moved.length === 0) throw new EditError('None of these channels has keys on this layer.')
    for (const channel of moved) {
      const track = layer.tracks[channel]
      if (track) track.keys = repaced(track, times, shown)
    }
  },
)

/** Keys of a track of which a stretch is shown at another pace. */
function repaced(track: Track, times: readonly number[], shown: readonly number[]): Key[] {
  const ready = readyTrack(track)
  const [from, to] = [nth(times, 0), nth(times, -1)]
  const inside = track.keys.filter(({ time }) => time > from && time < to && !isSameTime(time, from) && !isSameTime(time, to))
  // Where the keys come to, as samples among the others.
  const comes = inside.map((key) => ({ key, time: newTime(key.time, times, shown) }))
  const samples = times.map((time, k) => ({ time, value: trackValue(ready, nth(shown, k)), key: null as Key | null }))
  for (const { key, time } of comes) {
    const near = samples.findIndex((sample) => isSameTime(sample.time, time))
    const sample = { time, value: key.value, key }
    if (near > 0 && near < samples.length - 1) samples[near] = sample
    else if (near < 0) samples.push(sample)
  }
  samples.sort((a, b) => a.time - b.time)
  const values = samples.map(({ value }) => value)
  const tolerance = TOLERANCE * (Math.max(...values) - Math.min(...values))
  const kept = new Set(samples.flatMap(({ key }, k) => (key ? [k] : [])))
  const made = thinnedKeys(
    samples.map(({ time }) => time),
    values,
    tolerance,
    kept,
  )
  const poseAt = (time: number): string | null =>
    [...comes.map(({ key, time: t }) => ({ ...key, time: t })), ...track.keys].find((key) => isSameTime(key.time, time))?.pose ?? null
  const isOutside = ({ time }: Key): boolean => (time < from && !isSameTime(time, from)) || (time > to && !isSameTime(time, to))
  const before = track.keys.filter((key) => isOutside(key) && key.time < from)
  const after = track.keys.filter((key) => isOutside(key) && key.time > to)
  return [...before, ...made.map((key) => ({ ...key, pose: poseAt(key.time) })), ...after]
}

/** The new time at which an old one is shown. */
function newTime(old: number, times: readonly number[], shown: readonly number[]): number {
  const at = Math.max(
    1,
    shown.findIndex((time) => time >= old),
  )
  const [a, b] = [nth(shown, at - 1), nth(shown, at)]
  const share = b > a ? (old - a) / (b - a) : 0
  return nth(times, at - 1) + share * (nth(times, at) - nth(times, at - 1))
}
