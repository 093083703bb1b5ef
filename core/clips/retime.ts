/** Retiming: a whole clip faster, slower, or along a curve. Every pose is shown as before, at another time. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { ClipId } from '../kernel/ids'
import { riseAt } from '../maths/solve/ruler'
import { clipOf, isSameTime } from './lookup'
import { LONGEST, type Clip, type Key } from './records'
import { nth } from '../kernel/sure'

/** How the time of a clip goes by: in even steps, or slower at its beginning, its end, or both. */
export const Pace = z.enum(['even', 'slow-start', 'slow-end', 'slow-both'])
export type Pace = z.infer<typeof Pace>

/** Handles of the curve from old time to new, both from 0 to 1; what is slow takes more of the new time. */
const CURVES: Readonly<Record<Exclude<Pace, 'even'>, readonly [number, number, number, number]>> = {
  'slow-start': [0.2, 0.55, 0.6, 0.85],
  'slow-end': [0.4, 0.15, 0.8, 0.45],
  'slow-both': [0.2, 0.45, 0.8, 0.55],
}

/** Where a time of a clip comes to. Times beyond its end go on in even steps. */
export function retimed(time: number, length: number, by: number, pace: Pace): number {
  const share = time / length
  return by * length * (pace === 'even' || share >= 1 ? share : riseAt(CURVES[pace], share))
}

/**
 * Makes a clip longer or shorter with all that is in it. Sounds are heard when they were, seen from what is acted; how they sound stays.
 * Handles of keys keep their share of the way to the next.
 */
export const retime = command(
  'clip.retime',
  'Retime clip',
  z.object({ clip: ClipId, by: z.number().min(0.05).max(20), pace: Pace }),
  (puppet, { clip: id, by, pace }) => {
    const clip = clipOf(puppet, id)
    if (clip.length * by > LONGEST) throw new EditError(`A clip is at most ${LONGEST / 60} minutes long.`)
    const to = (time: number): number => Math.min(LONGEST, retimed(time, clip.length, by, pace))
    for (const layer of clip.layers) {
      for (const track of Object.values(layer.tracks)) track.keys = apart(track.keys, to)
      if (layer.spoken) layer.spoken = retimedLine(layer.spoken, to)
    }
    for (const pose of clip.poses) pose.time = to(pose.time)
    for (const marker of clip.markers) marker.time = to(marker.time)
    for (const sound of clip.sounds) sound.at = to(sound.at)
    if (clip.range) clip.range = { from: to(clip.range.from), to: to(clip.range.to) }
    if (clip.tempo && pace === 'even')
      clip.tempo = { perMinute: Math.min(600, Math.max(10, clip.tempo.perMinute / by)), first: to(clip.tempo.first) }
    clip.length *= by
  },
)

/** Keys at their new times; handles go along with the way to the neighbour. */
function apart(keys: readonly Key[], to: (time: number) => number): Key[] {
  const times = keys.map((key) => to(key.time))
  if (times.some((time, k) => k > 0 && (time <= nth(times, k - 1) || isSameTime(time, nth(times, k - 1)))))
    throw new EditError('Some keys would come to lie on each other; retime it by less.')
  return keys.map((key, k) => {
    if (!key.handles) return { ...key, time: nth(times, k) }
    const stretch = (other: number): number => {
      const span = Math.abs((keys[other]?.time ?? key.time) - key.time)
      return span === 0 ? 1 : Math.abs(nth(times, other) - nth(times, k)) / span
    }
    const { arrive, leave, aligned } = key.handles
    const [back, on] = [k > 0 ? stretch(k - 1) : 1, k + 1 < keys.length ? stretch(k + 1) : 1]
    return { ...key, time: nth(times, k), handles: { arrive: [arrive[0] * back, arrive[1]], leave: [leave[0] * on, leave[1]], aligned } }
  })
}

function retimedLine(spoken: NonNullable<Clip['layers'][number]['spoken']>, to: (time: number) => number): typeof spoken {
  const start = to(spoken.start)
  return {
    ...spoken,
    start,
    duration: to(spoken.start + spoken.duration) - start,
    cues: spoken.cues.map((cue, k) => ({ ...cue, at: k === 0 ? 0 : to(spoken.start + cue.at) - start })),
  }
}
