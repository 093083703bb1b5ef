/**
 * What plays at a time: speech on mouths; flipbooks with timers follow from the time alone (alternates/flipbookStage.ts). It is laid over the pose and never written into it, so that
 * whatever was shown is there again by itself, in whichever order things began and ended.
 */
import type { Puppet } from '../puppet/schema'
import type { Swap } from '../alternates/records'
import { visemeIn, type Viseme } from '../speech/visemes'
import { heldSound, soundValues } from './moods'
import { MOUTH_MORPH, shownAt, type SpeechTrack } from '../speech/track'
import { partChannel } from '../parts/channels'
import { recordOf } from '../kernel/sure'

/** How far playing has come, and what is said meanwhile. */
export interface Playing {
  /** Seconds since it began. */
  readonly time: number
  readonly speech: SpeechTrack | null
  /** Name of the set of sounds in use; the first of a swap where it has none of the name. */
  readonly mood: string
}

/** The alternate that stands for a sound in a set, or for the nearest that it has; null where it has none. */
export function alternateFor({ sets }: Pick<Swap, 'sets'>, viseme: Viseme, mood = ''): number | null {
  const set = sets.find((s) => s.name === mood) ?? sets[0]
  if (!set) return null
  const found = visemeIn((v) => set.sounds[v] !== undefined, viseme)
  return found === null ? null : recordOf(set.sounds, found)
}

/** Whether anything of a puppet answers to speech: alternates with mouth shapes, or controls of a mouth. */
export const canSpeak = ({ parts, controls }: Pick<Puppet, 'parts' | 'controls'>): boolean =>
  Object.values(parts).some(({ swap }) => (swap?.sets.length ?? 0) > 0) || controls.some((control) => control.voice)

/** Values of channels that play over the pose of a puppet. */
export function playedValues(puppet: Puppet, { time, speech, mood }: Playing): Record<string, number> {
  const out: Record<string, number> = {}
  if (speech) {
    for (const { id, swap } of Object.values(puppet.parts)) if (swap && swap.sets.length > 0) speak(id, swap, speech, time, mood, out)
    Object.assign(out, soundValues(puppet, shownAt(speech, time, MOUTH_MORPH)))
  }
  return out
}

/** Values of channels while one sound is held. */
export function heldValues(puppet: Puppet, viseme: Viseme, mood: string): Record<string, number> {
  const out: Record<string, number> = heldSound(puppet, viseme)
  for (const { id, swap } of Object.values(puppet.parts)) {
    const shown = swap && alternateFor(swap, viseme, mood)
    if (typeof shown === 'number') out[partChannel(id, 'alternate')] = shown
  }
  return out
}

function speak(part: string, swap: Swap, speech: SpeechTrack, time: number, mood: string, out: Record<string, number>): void {
  const { viseme, before, way } = shownAt(speech, time, swap.morph.how === 'cut' ? 0 : swap.morph.seconds)
  const [to, from] = [alternateFor(swap, viseme, mood), before === null ? null : alternateFor(swap, before, mood)]
  if (to === null) return
  out[partChannel(part, 'alternate')] = to
  out[partChannel(part, 'before')] = from ?? 0
  out[partChannel(part, 'way')] = from === null || from === to ? 1 : way
}
