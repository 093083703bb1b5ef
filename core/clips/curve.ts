/**
 * The curve of a track: cubic pieces in time and value between keys.
 *
 * Smooth keys take the slopes of Steffen (1990; maths/solve/ruler.ts): between two keys the curve never goes beyond their values, and a
 * slope depends on the two neighbours of its key alone.
 */
import { nth } from '../kernel/sure'
import { slopeBetween } from '../maths/solve/ruler'
import type { Beyond, Key, KeyHandle, Track } from './records'

type Keyed = Pick<Track, 'keys' | 'before' | 'after'>

/** A piece from one key to the next as a cubic Bézier curve: times and values of its four points. */
export interface Piece {
  readonly t: readonly [number, number, number, number]
  readonly v: readonly [number, number, number, number]
}

/** Share of a piece at which the handles of a key without its own stand. */
const THIRD = 1 / 3

/**
 * Slope of a smooth key, value a second. Level at the first and the last key, and where the curve turns round.
 *
 * @param at which key
 */
export function smoothSlope(keys: readonly Key[], at: number): number {
  const [a, b, c] = [keys[at - 1], keys[at], keys[at + 1]]
  if (!a || !b || !c) return 0
  const [before, after] = [b.time - a.time, c.time - b.time]
  return slopeBetween(before, after, (b.value - a.value) / before, (c.value - b.value) / after, false)
}

/** The handle of a key towards a neighbour: seconds away from the key, and the change of the value there. */
export function handleTo(keys: readonly Key[], at: number, side: 'arrive' | 'leave'): KeyHandle {
  const key = nth(keys, at)
  const other = nth(keys, side === 'arrive' ? at - 1 : at + 1)
  const span = Math.abs(other.time - key.time)
  const way = side === 'arrive' ? -1 : 1
  switch (key.way) {
    case 'custom':
      return key.handles ? within(key.handles[side], span) : [THIRD * span, 0]
    // What stays from a key on says nothing of how the curve comes to it.
    case 'linear':
    case 'stepped':
      return [THIRD * span, THIRD * (other.value - key.value)]
    case 'smooth':
      return [THIRD * span, way * THIRD * span * smoothSlope(keys, at)]
    default:
      return [THIRD * span, 0]
  }
}

/** A handle no longer than its piece, so that time never goes back; it is shortened along its own line. */
const within = ([seconds, change]: KeyHandle, span: number): KeyHandle =>
  seconds <= span ? [seconds, change] : [span, (change * span) / seconds]

/** The piece from a key to the next. */
export function pieceFrom(keys: readonly Key[], at: number): Piece {
  const [a, b] = [nth(keys, at), nth(keys, at + 1)]
  const [out, back] = [handleTo(keys, at, 'leave'), handleTo(keys, at + 1, 'arrive')]
  return { t: [a.time, a.time + out[0], b.time - back[0], b.time], v: [a.value, a.value + out[1], b.value + back[1], b.value] }
}

/** A track whose pieces are worked out: what is asked of it allocates nothing. */
export interface CompiledTrack {
  /** [n] times of keys, seconds, rising */
  readonly times: Float64Array
  /** [n] values of keys */
  readonly values: Float64Array
  /** [8(n-1)] four times and four values of each piece */
  readonly pieces: Float64Array
  /** [n] whether the value stays as it is until the next key */
  readonly held: Uint8Array
  readonly before: Beyond
  readonly after: Beyond
}

/**
 * Works out the pieces of a track.
 *
 * @param isStepped whether values are choices, of which none lies between two others
 */
export function compileTrack({ keys, before, after }: Keyed, isStepped = false): CompiledTrack {
  const pieces = new Float64Array(8 * Math.max(0, keys.length - 1))
  for (let k = 0; k + 1 < keys.length; k++) {
    const { t, v } = pieceFrom(keys, k)
    pieces.set(t, 8 * k)
    pieces.set(v, 8 * k + 4)
  }
  return {
    times: Float64Array.from(keys, (key) => key.time),
    values: Float64Array.from(keys, (key) => key.value),
    pieces,
    held: Uint8Array.from(keys, (key) => Number(isStepped || key.way === 'stepped')),
    before,
    after,
  }
}

/** Tracks made ready, by their keys: as values, and as choices. */
const ready = [new WeakMap<Track['keys'], CompiledTrack>(), new WeakMap<Track['keys'], CompiledTrack>()] as const

/** A track made ready, once for the same keys: an edit makes those anew that it touches, and no others. */
export function readyTrack(track: Keyed, isStepped = false): CompiledTrack {
  const known = ready[isStepped ? 1 : 0]
  const last = known.get(track.keys)
  if (last?.before === track.before && last.after === track.after) return last
  const made = compileTrack(track, isStepped)
  known.set(track.keys, made)
  return made
}

/** A cubic Bézier curve at a share; its four numbers stand in a row. */
function bezier(p: Float64Array, at: number, s: number): number {
  const r = 1 - s
  return r * r * r * p[at]! + 3 * r * r * s * p[at + 1]! + 3 * r * s * s * p[at + 2]! + s * s * s * p[at + 3]!
}

function bezierSlope(p: Float64Array, at: number, s: number): number {
  const r = 1 - s
  return 3 * (r * r * (p[at + 1]! - p[at]!) + 2 * r * s * (p[at + 2]! - p[at + 1]!) + s * s * (p[at + 3]! - p[at + 2]!))
}

/** Steps after which a share is as exact as numbers are: halving alone gives 52 bits in as many. */
const MOST_STEPS = 60

/** The share along a piece at which it is at a time: Newton's method, kept between bounds that halve where it would leave them. */
function shareAt(p: Float64Array, at: number, time: number): number {
  let low = 0
  let high = 1
  let s = (time - p[at]!) / (p[at + 3]! - p[at]!)
  for (let step = 0; step < MOST_STEPS; step++) {
    const off = bezier(p, at, s) - time
    if (Math.abs(off) < 1e-13 * (1 + Math.abs(time))) break
    if (off > 0) high = s
    else low = s
    const slope = bezierSlope(p, at, s)
    const next = s - off / slope
    s = slope > 0 && next > low && next < high ? next : (low + high) / 2
  }
  return s
}

/** Which key a time comes after, by halving; -1 before the first. */
function keyBefore(times: Float64Array, time: number): number {
  let low = 0
  let high = times.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (times[middle]! <= time) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** The value among the keys; the nearest key's own beyond them. */
function amongKeys({ times, values, pieces, held }: CompiledTrack, time: number): number {
  const at = keyBefore(times, time)
  if (at < 0) return values[0]!
  if (at === times.length - 1 || held[at] === 1 || times[at] === time) return values[at]!
  return bezier(pieces, 8 * at + 4, shareAt(pieces, 8 * at, time))
}

/** The value of a track at a time, seconds. */
export function trackValue(track: CompiledTrack, time: number): number {
  const { times, values, before, after } = track
  const first = times[0]!
  const last = times[times.length - 1]!
  const span = last - first
  const beyond = time < first ? before : time > last ? after : 'hold'
  if (beyond === 'hold' || span <= 0) return amongKeys(track, time)
  const rounds = Math.floor((time - first) / span)
  const more = beyond === 'offset' ? rounds * (values[values.length - 1]! - values[0]!) : 0
  return amongKeys(track, time - rounds * span) + more
}

/** The value of a track at a time, of one that is asked once. */
export const valueAtTime = (track: Keyed, time: number, isStepped = false): number => trackValue(compileTrack(track, isStepped), time)
