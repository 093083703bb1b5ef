/** Where values stand in the graph of curves, and what is drawn of a track. */
import { compileTrack, handleTo, trackValue } from '@marionette/core/clips/curve'
import type { Key, Track } from '@marionette/core/clips/records'
import type { TimeScale } from './timeScale'
import { nth } from '@marionette/core/kernel/sure'

export interface ValueScale {
  readonly min: number
  readonly max: number
  y(value: number): number
  value(y: number): number
}

const PAD = 14

/** The scale on which values from one to another fill a height; a single value lies in its middle. */
export function valueScale(min: number, max: number, height: number): ValueScale {
  const span = max - min < 1e-9 ? 1 : max - min
  const low = max - min < 1e-9 ? min - 0.5 : min
  const room = Math.max(1, height - 2 * PAD)
  return {
    min: low,
    max: low + span,
    y: (value) => height - PAD - ((value - low) / span) * room,
    value: (y) => low + ((height - PAD - y) / room) * span,
  }
}

/** The least and the largest value of tracks, with their handles. */
export function extent(tracks: readonly Track[]): { min: number; max: number } {
  let [min, max] = [Infinity, -Infinity]
  for (const { keys } of tracks)
    keys.forEach((key, k) => {
      const out = k + 1 < keys.length ? handleTo(keys, k, 'leave')[1] : 0
      const back = k > 0 ? handleTo(keys, k, 'arrive')[1] : 0
      for (const value of [key.value, key.value + out, key.value + back]) {
        min = Math.min(min, value)
        max = Math.max(max, value)
      }
    })
  return min > max ? { min: 0, max: 1 } : { min, max }
}

/** Points of a curve across a width, px: [2n] x, y in a row. One every two px is as fine as the eye sees. */
export function curvePoints(track: Track, scale: TimeScale, values: ValueScale, length: number): number[] {
  const compiled = compileTrack(track)
  const out: number[] = []
  const [from, to] = [Math.max(0, scale.x(0)), Math.min(scale.width, scale.x(length))]
  const times = track.keys.map((key) => scale.x(key.time)).filter((x) => x > from && x < to)
  const xs = [...times]
  for (let x = from; x <= to; x += 2) xs.push(x)
  xs.push(to)
  xs.sort((a, b) => a - b)
  for (const x of xs) out.push(x, values.y(trackValue(compiled, scale.time(x))))
  return out
}

/** The places of the handles of a key, px; null on a side without a neighbour. */
export function handlePlaces(keys: readonly Key[], at: number, scale: TimeScale, values: ValueScale) {
  const key = nth(keys, at)
  const place = (side: 'arrive' | 'leave') => {
    if (side === 'arrive' ? at === 0 : at === keys.length - 1) return null
    const [seconds, change] = handleTo(keys, at, side)
    return { x: scale.x(key.time + (side === 'arrive' ? -seconds : seconds)), y: values.y(key.value + change) }
  }
  return { arrive: place('arrive'), leave: place('leave') }
}
