/** Where values stand in the graph of curves, and what is drawn of a track. */
import { readyTrack, trackValue } from './curve'
import type { Track } from './records'

/** Turns times into px across and back. */
export interface TimeScale {
  readonly width: number
  readonly perSecond: number
  x(time: number): number
  time(x: number): number
}

/** Turns values into px down and back. */
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
  const take = (value: number): void => {
    if (value < min) min = value
    if (value > max) max = value
  }
  for (const track of tracks) {
    const { values, pieces } = readyTrack(track)
    for (let k = 0; k < values.length; k++) take(values[k]!)
    // Of each piece four times, then four values, of which the inner ones are handles.
    for (let at = 0; at < pieces.length; at += 8) {
      take(pieces[at + 5]!)
      take(pieces[at + 6]!)
    }
  }
  return min > max ? { min: 0, max: 1 } : { min, max }
}

/** How far apart points of a curve are, px: as fine as the eye sees. */
const STEP = 2

/** Points of a curve across a width, px: [2n] x, y in a row. One for every key, and one every two px between. */
export function curvePoints(track: Track, scale: TimeScale, values: ValueScale, length: number): Float64Array {
  const compiled = readyTrack(track)
  const [from, to] = [Math.max(0, scale.x(0)), Math.min(scale.width, scale.x(length))]
  const count = Math.max(0, Math.ceil((to - from) / STEP))
  const out = new Float64Array(2 * (count + compiled.times.length + 1))
  let n = 0
  const put = (x: number): void => {
    out[n++] = x
    out[n++] = values.y(trackValue(compiled, scale.time(x)))
  }
  let key = 0
  for (let k = 0; k <= count; k++) {
    const x = k === count ? to : from + k * STEP
    for (; key < compiled.times.length; key++) {
      const at = scale.x(compiled.times[key]!)
      if (at >= x) break
      if (at > from) put(at)
    }
    put(x)
  }
  return out.subarray(0, n)
}

/** The places of the handles of a key, px; null on a side without a neighbour. */
export function handlePlaces(track: Track, at: number, scale: TimeScale, values: ValueScale) {
  const { pieces } = readyTrack(track)
  const place = (piece: number, point: number) =>
    piece < 0 || 8 * piece >= pieces.length ? null : { x: scale.x(pieces[8 * piece + point]!), y: values.y(pieces[8 * piece + 4 + point]!) }
  return { arrive: place(at - 1, 2), leave: place(at, 1) }
}
