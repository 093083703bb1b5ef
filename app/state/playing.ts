/** Playing on the stage: a typed line or a recording, flipbooks on their timers. It lies over the pose and leaves it as it was. */
import { toast } from 'sonner'
import { create } from 'zustand'
import type { Flipbook } from '@marionette/core/document/schema'
import { pageAt, roundOf } from '@marionette/core/motion/flipbook'
import type { Viseme } from '@marionette/core/document/visemes'
import { heldValues, playedValues } from '@marionette/core/motion/playing'
import type { SpeechTrack } from '@marionette/core/motion/speech/track'
import { openPuppet, useDocument } from './document'
import { play } from './live'
import { orSaid } from './work'

interface PlayingState {
  line: string
  track: SpeechTrack | null
  /** Name of the recording that the track was heard in; null for a typed line. */
  recording: string | null
  /** Address of what is heard with it; null where it is silent. */
  sound: string | null
  /** Whether typed lines are said by the stand-in voice. */
  isAloud: boolean
  /** Whether a line is being turned into sounds. */
  isBusy: boolean
  /** How much of a recording has been listened to, from 0 to 1; null while none is. */
  heard: number | null
  isPlaying: boolean
  /** Seconds; null while nothing is played or looked at. */
  time: number | null
  /** The sound that is held; null while none is. */
  held: Viseme | null
  /** Name of the set of sounds in use. */
  mood: string
}

export const usePlaying = create<PlayingState>(() => ({
  line: 'Good morning, post!',
  track: null,
  recording: null,
  sound: null,
  isAloud: false,
  isBusy: false,
  heard: null,
  isPlaying: false,
  time: null,
  held: null,
  mood: '',
}))

const { getState, setState } = usePlaying
let request = 0
const audio = typeof Audio === 'undefined' ? null : new Audio()
/** Seconds by which picture and sound may differ before the picture follows. */
const APART = 0.04

/** Silence after the last sound before it all ends, seconds. */
const AFTER = 0.25

function show(time: number): void {
  const { track, mood } = getState()
  if (useDocument.getState().puppet) play(playedValues(openPuppet(), { time, speech: track, mood }))
}

/** Plays from a time on until the line is spoken; without a line until it is stopped. */
export function startPlaying(from = 0): void {
  cancelAnimationFrame(request)
  let begun = performance.now() - 1000 * from
  setState({ isPlaying: true, time: from, held: null })
  startSound(from)
  const step = (): void => {
    const ahead = soundAhead((performance.now() - begun) / 1000)
    if (Math.abs(ahead) > APART) begun -= 1000 * ahead
    const time = (performance.now() - begun) / 1000
    const { track } = getState()
    if (!useDocument.getState().puppet || (track && time > track.duration + AFTER)) return stopPlaying()
    setState({ time })
    show(time)
    request = requestAnimationFrame(step)
  }
  step()
}

function startSound(from: number): void {
  const { sound } = getState()
  audio?.pause()
  if (!audio || !sound) return
  if (audio.src !== sound) audio.src = sound
  audio.currentTime = from
  // Where nothing can be heard the picture plays alone.
  void audio.play().catch(() => {})
}

/** Seconds by which the sound is ahead of a time; 0 where none is heard. */
const soundAhead = (time: number): number =>
  audio && !audio.paused && !audio.seeking && audio.currentTime > 0 ? audio.currentTime - time : 0

/** Ends what plays; the puppet is as its pose has it. */
export function stopPlaying(): void {
  cancelAnimationFrame(request)
  audio?.pause()
  setState({ isPlaying: false, time: null, held: null })
  play(null)
}

// A moment that is looked at would hide what is posed by hand.
useDocument.subscribe((s, before) => {
  const { time, isPlaying, held } = getState()
  if (s.puppet?.pose === before.puppet?.pose) return
  // A held sound goes on over another mood.
  if (held !== null && s.puppet) play(heldValues(s.puppet, held, getState().mood))
  else if (time !== null && !isPlaying) stopPlaying()
})

/** Shows one moment of a line, and stays there until the pose changes. */
export function lookAt(time: number): void {
  cancelAnimationFrame(request)
  audio?.pause()
  setState({ isPlaying: false, time, held: null })
  show(time)
}

/** Holds one sound over the pose, whatever mood that is in; the same again lets go of it. */
export function holdSound(viseme: Viseme): void {
  const isHeld = getState().held === viseme
  stopPlaying()
  if (isHeld) return
  setState({ held: viseme })
  play(heldValues(openPuppet(), viseme, getState().mood))
}

/** Speaks with another set of sounds from now on. */
export function setMood(mood: string): void {
  setState({ mood })
  const { time, isPlaying } = getState()
  if (time !== null && !isPlaying) show(time)
}

/** Takes another track, with what is heard with it. */
function take(track: SpeechTrack | null, sound: Blob | null, more: Pick<PlayingState, 'recording'> & Partial<PlayingState>): void {
  const { sound: before } = getState()
  if (before) URL.revokeObjectURL(before)
  setState({ track, sound: sound ? URL.createObjectURL(sound) : null, ...more })
}

/** Speaks, or stops: a recording where one is at hand, else a line, which is turned into sounds first where it is another one. */
export function speakOrStop(line = getState().line): void {
  const { isPlaying, recording, track, line: last } = getState()
  if (isPlaying) return stopPlaying()
  if (recording !== null || (track && line === last)) return startPlaying()
  if (line.trim() === '') return void toast('Type something to say first.')
  void speakLine(line)
}

/** Turns a line into sounds and speaks it. */
export async function speakLine(line: string, rate = 1): Promise<void> {
  const { speakInWorker } = await import('../workers/client')
  setState({ isBusy: true })
  const said = await orSaid(() => speakInWorker(line, rate, getState().isAloud))
  setState({ isBusy: false })
  if (!said) return
  take(said.track, said.sound && new Blob([said.sound as Uint8Array<ArrayBuffer>], { type: 'audio/wav' }), { recording: null, line })
  startPlaying()
}

/** Whether typed lines are heard from now on; what is there is said anew. */
export function setAloud(isAloud: boolean): void {
  setState({ isAloud })
  const { track, recording, line } = getState()
  if (track && recording === null) {
    stopPlaying()
    void speakLine(line)
  }
}

let listening: AbortController | null = null

/** Listens to a recording, a WAV file, and plays it. What is there stays until it is done. */
export async function hearRecording(file: File): Promise<void> {
  const { hearInWorker } = await import('../workers/client')
  listening?.abort()
  const own = (listening = new AbortController())
  setState({ heard: 0 })
  const track = await orSaid(() => hearInWorker(file, (heard) => listening === own && setState({ heard }), own.signal))
  if (listening !== own) return
  setState({ heard: null })
  listening = null
  if (!track) return
  take(track, file, { recording: file.name })
  startPlaying()
}

export const cancelHearing = (): void => listening?.abort()

/** Puts a recording away. */
export function dropRecording(): void {
  stopPlaying()
  take(null, null, { recording: null })
}

/** Moves where a shape begins, between its neighbours. */
export function moveCue(index: number, at: number): void {
  const { track, time } = getState()
  if (!track) return
  const [before, after] = [track.cues[index - 1]?.at ?? 0, track.cues[index + 1]?.at ?? track.duration]
  const kept = Math.min(after - LEAST, Math.max(before + LEAST, at))
  setState({ track: { ...track, cues: track.cues.map((cue, k) => (k === index ? { ...cue, at: kept } : cue)) } })
  if (time !== null) show(time)
}

/** Least length of a shape on the strip, seconds. */
const LEAST = 0.02

/** Turns the pages of a flipbook once, or for a few rounds where it loops. */
export function playFlipbook(flipbook: Flipbook): void {
  cancelAnimationFrame(request)
  const begun = performance.now()
  const rounds = flipbook.ends === 'loop' ? 3 : 1
  setState({ isPlaying: true, time: 0 })
  const step = (): void => {
    const time = (performance.now() - begun) / 1000
    const page = pageAt(flipbook, time)
    if (!useDocument.getState().puppet || page === null || time > rounds * roundOf(flipbook) + AFTER) return stopPlaying()
    setState({ time })
    play({ [flipbook.channel]: page })
    request = requestAnimationFrame(step)
  }
  step()
}
