/**
 * The mouth shapes of a spoken layer, edited one by one: moved, replaced, taken away, put in between. Keys are made anew only between the
 * shapes beside what changed, so that keys which were shaped by hand elsewhere stay.
 */
import { deleteKeys, moveKeys, setKeys } from '../clips/keyCommands'
import { weightChannel } from '../clips/layers'
import { baseOf } from '../clips/lookup'
import { setSound, setSpoken } from '../clips/soundCommands'
import type { Clip, ClipLayer, Spoken } from '../clips/records'
import { edit, type Edit } from '../kernel/command'
import { nth } from '../kernel/sure'
import type { Puppet } from '../puppet/schema'
import type { Viseme } from '../speech/visemes'
import { poseInClip } from './clips'
import { speechKeys } from './speechKeys'

type Cues = Spoken['cues']

/** The shortest that a shape lasts, seconds. */
export const LEAST_SHAPE = 0.02

const withCues = (spoken: Spoken, cues: Cues): Spoken => ({ ...spoken, cues: merged(cues) })

/** Neighbours of one shape are one. */
const merged = (cues: Cues): Cues => cues.filter((cue, k) => k === 0 || cue.viseme !== nth(cues, k - 1).viseme)

/** A line with a shape reached earlier or later, between its neighbours. The first one stays where the line begins. */
export function movedShape(spoken: Spoken, index: number, at: number): Spoken {
  if (index === 0) return spoken
  const least = nth(spoken.cues, index - 1).at + LEAST_SHAPE
  const most = (spoken.cues[index + 1]?.at ?? spoken.duration) - LEAST_SHAPE
  const kept = Math.max(least, Math.min(most, at))
  return { ...spoken, cues: spoken.cues.map((cue, k) => (k === index ? { ...cue, at: kept } : cue)) }
}

/** A line with another shape in the place of one. */
export const replacedShape = (spoken: Spoken, index: number, viseme: Viseme): Spoken =>
  withCues(
    spoken,
    spoken.cues.map((cue, k) => (k === index ? { ...cue, viseme } : cue)),
  )

/** A line without a shape: the one before it lasts longer, of the first the one after it. The last that there is stays. */
export function mergedShape(spoken: Spoken, index: number): Spoken {
  const rest = spoken.cues.filter((_, k) => k !== index)
  const [first] = rest
  if (!first) return spoken
  return withCues(spoken, [{ ...first, at: 0 }, ...rest.slice(1)])
}

/** A line with another shape from a moment on, to where the one that shows there ended. */
export function splitShape(spoken: Spoken, at: number, viseme: Viseme): Spoken {
  const after = spoken.cues.findIndex((cue) => cue.at > at)
  const index = after < 0 ? spoken.cues.length : after
  const from = nth(spoken.cues, index - 1).at + LEAST_SHAPE
  const to = (spoken.cues[index]?.at ?? spoken.duration) - LEAST_SHAPE
  if (from > to) return spoken
  const cue = { viseme, at: Math.max(from, Math.min(to, at)), word: nth(spoken.cues, index - 1).word }
  return withCues(spoken, [...spoken.cues.slice(0, index), cue, ...spoken.cues.slice(index)])
}

/** From where to where two lines differ, seconds from their beginning: between the shapes that both have beside it. Null where they are one. */
function differing(a: Spoken, b: Spoken): { from: number; to: number } | null {
  const same = (x: Cues[number] | undefined, y: Cues[number] | undefined): boolean => x?.at === y?.at && x?.viseme === y?.viseme
  const least = Math.min(a.cues.length, b.cues.length)
  let [first, last] = [0, 0]
  while (first < least && same(a.cues[first], b.cues[first])) first++
  while (last < least - first && same(a.cues.at(-1 - last), b.cues.at(-1 - last))) last++
  if (first === a.cues.length && first === b.cues.length) return null
  const ends = last > 0 ? a.cues.at(-last)?.at : undefined
  return { from: a.cues[first - 1]?.at ?? 0, to: ends ?? Math.max(a.duration, b.duration) }
}

/** Keys of a line over a clip whose layer keeps silent meanwhile. */
function keysOf(puppet: Puppet, clip: Clip, layer: ClipLayer, spoken: Spoken): ReturnType<typeof speechKeys> {
  const silent = { ...clip, layers: clip.layers.map((other) => (other.id === layer.id ? { ...other, muted: true } : other)) }
  return speechKeys({ ...puppet, pose: poseInClip(puppet, silent, spoken.start) }, spoken, spoken.start, spoken.mood)
}

/** Times that are this near to the ends of a stretch are in it, seconds. */
const NEAR = 1e-6

/** The edits that make a layer say a line with other shapes than before. */
export function respeakEdits(puppet: Puppet, clip: Clip, layer: ClipLayer, next: Spoken): Edit[] {
  const { spoken } = layer
  const stretch = spoken && differing(spoken, next)
  if (!stretch) return []
  const isIn = ({ time }: { time: number }): boolean => time >= next.start + stretch.from - NEAR && time <= next.start + stretch.to + NEAR
  const keys = keysOf(puppet, clip, layer, next)
  const channels = new Set([...keys, ...keysOf(puppet, clip, layer, spoken)].map((key) => key.channel))
  const old = [...channels].flatMap((channel) => (layer.tracks[channel]?.keys ?? []).filter(isIn).map(({ time }) => ({ channel, time })))
  const fresh = keys.filter(isIn)
  const place = { clip: clip.id, layer: layer.id }
  return [
    edit(setSpoken, { ...place, spoken: next }),
    ...(old.length > 0 ? [edit(deleteKeys, { ...place, keys: old })] : []),
    ...(fresh.length > 0 ? [edit(setKeys, { ...place, keys: fresh })] : []),
  ]
}

/** The edits that make a layer say its line earlier or later, with the sound that is heard with it; seconds. */
export function moveSpokenEdits(clip: Clip, layer: ClipLayer, by: number): Edit[] {
  const { spoken } = layer
  if (!spoken) return []
  const base = baseOf(clip)
  const weight = weightChannel(layer.id)
  const all = (from: ClipLayer, isMoved: (channel: string) => boolean): { channel: string; time: number }[] =>
    Object.entries(from.tracks).flatMap(([channel, { keys }]) => (isMoved(channel) ? keys.map(({ time }) => ({ channel, time })) : []))
  const own = all(layer, () => true)
  const weights = all(base, (channel) => channel === weight)
  const first = Math.min(spoken.start, ...own.map((k) => k.time), ...weights.map((k) => k.time))
  const shift = Math.max(-first, by)
  const move = { seconds: { about: 0, by: 1, shift }, value: { about: 0, by: 1, shift: 0 } }
  const sound = clip.sounds.find(({ id }) => id === spoken.sound)
  return [
    edit(setSpoken, { clip: clip.id, layer: layer.id, spoken: { ...spoken, start: spoken.start + shift } }),
    ...(own.length > 0 ? [edit(moveKeys, { clip: clip.id, layer: layer.id, keys: own, ...move })] : []),
    ...(weights.length > 0 ? [edit(moveKeys, { clip: clip.id, layer: base.id, keys: weights, ...move })] : []),
    ...(sound ? [edit(setSound, { clip: clip.id, sound: sound.id, at: Math.max(0, sound.at + shift) })] : []),
  ]
}
