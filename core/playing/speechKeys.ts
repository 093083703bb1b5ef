/**
 * A spoken line as keys. A mouth goes from shape to shape by 3s² - 2s³ (moods.ts), which is just what a curve does between two level
 * keys: the keys play what the line plays, and can be edited afterwards.
 */
import { addLayer } from '../clips/commands'
import { baseOf } from '../clips/lookup'
import { setKeys } from '../clips/keyCommands'
import { weightChannel } from '../clips/layers'
import { newLayer } from '../clips/new'
import type { Clip, KeyWay } from '../clips/records'
import { edit, type Edit } from '../kernel/command'
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import { MOUTH_MORPH, wayOn, type SpeechTrack } from '../speech/track'
import { poseInClip } from './clips'
import { playedValues } from './playing'

export interface SpokenKey {
  readonly channel: string
  readonly time: number
  readonly value: number
  readonly way: Exclude<KeyWay, 'custom'>
}

/** Seconds in which a line takes the mouth over, and gives it back. */
const FADE = 0.08

/** Moments at which a change of shape begins and ends, seconds from the beginning of the line. */
function changesOf({ cues, duration }: SpeechTrack, morph: number): { from: number; to: number }[] {
  const between = cues.slice(0, -1).flatMap((cue, k) => {
    const next = cues[k + 1]
    return next ? [{ from: next.at - Math.max(0, wayOn(cue, next, morph)), to: next.at }] : []
  })
  return [{ from: 0, to: 0 }, ...between, { from: duration, to: duration }]
}

/** Just after a change has begun or ended: at the very moment it is one or the other, seconds. */
const AFTER = 1e-7

/**
 * Keys of all channels that a line moves.
 *
 * @param puppet posed as it is while the line is spoken: its mood shows through the sounds
 * @param start seconds from the beginning of the clip
 * @param mood name of the set of mouth shapes
 */
export function speechKeys(puppet: Puppet, speech: SpeechTrack, start: number, mood = ''): SpokenKey[] {
  // The last shape stays to the end; the weight of the layer gives the mouth back from there.
  const latest = speech.duration - AFTER
  const at = (time: number): Record<string, number> => playedValues(puppet, { time: Math.min(latest, time + AFTER), speech, mood })
  return Object.keys(at(0)).flatMap((channel) => {
    const [family, id = '', field] = channel.split('/')
    const swap = family === 'part' ? puppet.parts[id]?.swap : null
    const changes = changesOf(speech, swap ? (swap.morph.how === 'cut' ? 0 : swap.morph.seconds) : MOUTH_MORPH)
    const key = (time: number, way: SpokenKey['way']): SpokenKey => ({ channel, time: start + time, value: at(time)[channel] ?? 0, way })
    if (channelOf(puppet, channel)?.kind === 'choice') return changes.map(({ from }) => key(from, 'stepped'))
    // How far alternates have morphed begins anew with each change.
    const isWay = field === 'way'
    return changes.flatMap(({ from, to }) => [
      key(from, isWay ? (to > from ? 'linear' : 'stepped') : 'flat'),
      ...(to > from ? [key(to, isWay ? 'stepped' : 'flat')] : []),
    ])
  })
}

/** The edits that put a line into a clip: a layer of its own that takes the mouth over while it is spoken, and the keys of its weight. */
export function speechEdits(
  puppet: Puppet,
  clip: Clip,
  speech: SpeechTrack,
  { id, name, start, mood = '', sound = null }: SpokenLine,
): Edit[] {
  const posed = { ...puppet, pose: poseInClip(puppet, clip, start) }
  const keys = speechKeys(posed, speech, start, mood)
  if (keys.length === 0) return []
  const end = start + speech.duration
  const weight = (time: number, value: number) => ({ channel: weightChannel(id), time, value, way: 'flat' as const })
  const weights = [...(start > FADE ? [weight(start - FADE, 0)] : []), weight(start, 1), weight(end, 1), weight(end + FADE, 0)]
  const spoken = { start, duration: speech.duration, cues: [...speech.cues], mood, sound }
  return [
    edit(addLayer, { clip: clip.id, layer: { ...newLayer(id, name), spoken } }),
    edit(setKeys, { clip: clip.id, layer: id, keys }),
    edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys: weights }),
  ]
}

interface SpokenLine {
  /** Id of the layer. */
  readonly id: string
  readonly name: string
  readonly start: number
  readonly mood?: string
  /** The sound that is heard with it; it is in the clip by then. */
  readonly sound?: string | null
}
