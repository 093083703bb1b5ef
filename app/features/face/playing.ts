/** Playing on the stage: a typed line or a recording, flipbooks on their timers. It lies over the pose and leaves it as it was. */
import type { Flipbook } from '@marionette/core/puppet/schema'
import { pageAt, roundOf } from '@marionette/core/alternates/flipbook'
import type { Viseme } from '@marionette/core/speech/visemes'
import { heldValues, playedValues } from '@marionette/core/playing/playing'
import type { SpeechTrack } from '@marionette/core/speech/track'
import { openPuppet, useDocument } from '../../editor/document'
import { play } from '../../editor/live'
import { orSaid } from '../../editor/work'
import { editorState, editorStore, type Editor } from '../../editor/editor'

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

export const usePlaying = editorStore<PlayingState>(() => ({
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

interface Own {
  request: number
  listening: AbortController | null
}

const stateOf = editorState((): Own => ({ request: 0, listening: null }))

const audio = typeof Audio === 'undefined' ? null : new Audio()
/** Seconds by which picture and sound may differ before the picture follows. */
const APART = 0.04

/** Silence after the last sound before it all ends, seconds. */
const AFTER = 0.25

function show(editor: Editor, time: number): void {
  const { track, mood } = usePlaying.of(editor).getState()
  if (useDocument.of(editor).getState().puppet) play(editor, playedValues(openPuppet(editor), { time, speech: track, mood }), time)
}

/** Plays from a time on until the line is spoken; without a line until it is stopped. */
export function startPlaying(editor: Editor, from = 0): void {
  const own = stateOf(editor)
  cancelAnimationFrame(own.request)
  let begun = performance.now() - 1000 * from
  usePlaying.of(editor).setState({ isPlaying: true, time: from, held: null })
  startSound(editor, from)
  const step = (): void => {
    const ahead = soundAhead((performance.now() - begun) / 1000)
    if (Math.abs(ahead) > APART) begun -= 1000 * ahead
    const time = (performance.now() - begun) / 1000
    const { track } = usePlaying.of(editor).getState()
    if (!useDocument.of(editor).getState().puppet || (track && time > track.duration + AFTER)) return stopPlaying(editor)
    usePlaying.of(editor).setState({ time })
    show(editor, time)
    own.request = requestAnimationFrame(step)
  }
  step()
}

function startSound(editor: Editor, from: number): void {
  const { sound } = usePlaying.of(editor).getState()
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
export function stopPlaying(editor: Editor): void {
  const own = stateOf(editor)
  cancelAnimationFrame(own.request)
  audio?.pause()
  usePlaying.of(editor).setState({ isPlaying: false, time: null, held: null })
  play(editor, null)
}

/** Ends what is looked at as soon as something is posed: it would hide that. Returns how to end this. */
export const yieldToPoses = (editor: Editor): (() => void) =>
  useDocument.of(editor).subscribe((s, before) => {
    const { time, isPlaying, held } = usePlaying.of(editor).getState()
    if (s.puppet?.pose === before.puppet?.pose) return
    // A held sound goes on over another mood.
    if (held !== null && s.puppet) play(editor, heldValues(s.puppet, held, usePlaying.of(editor).getState().mood))
    else if (time !== null && !isPlaying) stopPlaying(editor)
  })

/** Shows one moment of a line, and stays there until the pose changes. */
export function lookAt(editor: Editor, time: number): void {
  const own = stateOf(editor)
  cancelAnimationFrame(own.request)
  audio?.pause()
  usePlaying.of(editor).setState({ isPlaying: false, time, held: null })
  show(editor, time)
}

/** Holds one sound over the pose, whatever mood that is in; the same again lets go of it. */
export function holdSound(editor: Editor, viseme: Viseme): void {
  const isHeld = usePlaying.of(editor).getState().held === viseme
  stopPlaying(editor)
  if (isHeld) return
  usePlaying.of(editor).setState({ held: viseme })
  play(editor, heldValues(openPuppet(editor), viseme, usePlaying.of(editor).getState().mood))
}

/** Speaks with another set of sounds from now on. */
export function setMood(editor: Editor, mood: string): void {
  usePlaying.of(editor).setState({ mood })
  const { time, isPlaying } = usePlaying.of(editor).getState()
  if (time !== null && !isPlaying) show(editor, time)
}

/** Takes another track, with what is heard with it. */
function take(
  editor: Editor,
  track: SpeechTrack | null,
  sound: Blob | null,
  more: Pick<PlayingState, 'recording'> & Partial<PlayingState>,
): void {
  const { sound: before } = usePlaying.of(editor).getState()
  if (before) URL.revokeObjectURL(before)
  usePlaying.of(editor).setState({ track, sound: sound ? URL.createObjectURL(sound) : null, ...more })
}

/** Speaks, or stops: a recording where one is at hand, else a line, which is turned into sounds first where it is another one. */
export function speakOrStop(editor: Editor, line = usePlaying.of(editor).getState().line): void {
  const { isPlaying, recording, track, line: last } = usePlaying.of(editor).getState()
  if (isPlaying) return stopPlaying(editor)
  if (recording !== null || (track && line === last)) return startPlaying(editor)
  if (line.trim() === '') return void editor.notify('Type something to say first.')
  void speakLine(editor, line)
}

/** Turns a line into sounds and speaks it. */
export async function speakLine(editor: Editor, line: string, rate = 1): Promise<void> {
  usePlaying.of(editor).setState({ isBusy: true })
  const said = await orSaid(editor, () => editor.jobs.speak(line, rate, usePlaying.of(editor).getState().isAloud))
  usePlaying.of(editor).setState({ isBusy: false })
  if (!said) return
  take(editor, said.track, said.sound && new Blob([said.sound as Uint8Array<ArrayBuffer>], { type: 'audio/wav' }), {
    recording: null,
    line,
  })
  startPlaying(editor)
}

/** Whether typed lines are heard from now on; what is there is said anew. */
export function setAloud(editor: Editor, isAloud: boolean): void {
  usePlaying.of(editor).setState({ isAloud })
  const { track, recording, line } = usePlaying.of(editor).getState()
  if (track && recording === null) {
    stopPlaying(editor)
    void speakLine(editor, line)
  }
}

/** Listens to a recording, a WAV file, and plays it. What is there stays until it is done. */
export async function hearRecording(editor: Editor, file: File): Promise<void> {
  const own = stateOf(editor)
  own.listening?.abort()
  const abort = (own.listening = new AbortController())
  usePlaying.of(editor).setState({ heard: 0 })
  const track = await orSaid(editor, () =>
    editor.jobs.hear(file, (heard) => own.listening === abort && usePlaying.of(editor).setState({ heard }), abort.signal),
  )
  if (own.listening !== abort) return
  usePlaying.of(editor).setState({ heard: null })
  own.listening = null
  if (!track) return
  take(editor, track, file, { recording: file.name })
  startPlaying(editor)
}

export const cancelHearing = (editor: Editor): void => stateOf(editor).listening?.abort()

/** Puts a recording away. */
export function dropRecording(editor: Editor): void {
  stopPlaying(editor)
  take(editor, null, null, { recording: null })
}

/** Moves where a shape begins, between its neighbours. */
export function moveCue(editor: Editor, index: number, at: number): void {
  const { track, time } = usePlaying.of(editor).getState()
  if (!track) return
  const [before, after] = [track.cues[index - 1]?.at ?? 0, track.cues[index + 1]?.at ?? track.duration]
  const kept = Math.min(after - LEAST, Math.max(before + LEAST, at))
  usePlaying.of(editor).setState({ track: { ...track, cues: track.cues.map((cue, k) => (k === index ? { ...cue, at: kept } : cue)) } })
  if (time !== null) show(editor, time)
}

/** Least length of a shape on the strip, seconds. */
const LEAST = 0.02

/** Turns the pages of a flipbook once, or for a few rounds where it loops. */
export function playFlipbook(editor: Editor, flipbook: Flipbook): void {
  const own = stateOf(editor)
  cancelAnimationFrame(own.request)
  const begun = performance.now()
  const rounds = flipbook.ends === 'loop' ? 3 : 1
  usePlaying.of(editor).setState({ isPlaying: true, time: 0 })
  const step = (): void => {
    const time = (performance.now() - begun) / 1000
    const page = pageAt(flipbook, time)
    if (!useDocument.of(editor).getState().puppet || page === null || time > rounds * roundOf(flipbook) + AFTER) return stopPlaying(editor)
    usePlaying.of(editor).setState({ time })
    play(editor, { [flipbook.channel]: page })
    own.request = requestAnimationFrame(step)
  }
  step()
}
