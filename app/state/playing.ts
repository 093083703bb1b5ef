/** Playing on the stage: a typed line, flipbooks on their timers. It lies over the pose and leaves it as it was. */
import { toast } from 'sonner'
import { create } from 'zustand'
import type { Flipbook } from '@marionette/core/document/schema'
import { pageAt, roundOf } from '@marionette/core/motion/flipbook'
import { playedValues } from '@marionette/core/motion/playing'
import type { SpeechTrack } from '@marionette/core/motion/speech/track'
import { openPuppet, useDocument } from './document'
import { play } from './live'

interface PlayingState {
  line: string
  track: SpeechTrack | null
  /** Whether the line is being turned into sounds. */
  isBusy: boolean
  isPlaying: boolean
  /** Seconds; null while nothing is played or looked at. */
  time: number | null
  /** Name of the set of sounds in use. */
  mood: string
}

export const usePlaying = create<PlayingState>(() => ({
  line: 'Good morning, post!',
  track: null,
  isBusy: false,
  isPlaying: false,
  time: null,
  mood: '',
}))

const { getState, setState } = usePlaying
let request = 0

/** Silence after the last sound before it all ends, seconds. */
const AFTER = 0.25

function show(time: number): void {
  const { track, mood } = getState()
  if (useDocument.getState().puppet) play(playedValues(openPuppet(), { time, speech: track, mood }))
}

/** Plays from a time on until the line is spoken; without a line until it is stopped. */
export function startPlaying(from = 0): void {
  cancelAnimationFrame(request)
  const begun = performance.now() - 1000 * from
  setState({ isPlaying: true, time: from })
  const step = (): void => {
    const time = (performance.now() - begun) / 1000
    const { track } = getState()
    if (!useDocument.getState().puppet || (track && time > track.duration + AFTER)) return stopPlaying()
    setState({ time })
    show(time)
    request = requestAnimationFrame(step)
  }
  step()
}

/** Ends what plays; the puppet is as its pose has it. */
export function stopPlaying(): void {
  cancelAnimationFrame(request)
  setState({ isPlaying: false, time: null })
  play(null)
}

// A moment that is looked at would hide what is posed by hand.
useDocument.subscribe((s, before) => {
  const { time, isPlaying } = getState()
  if (time !== null && !isPlaying && s.puppet?.pose !== before.puppet?.pose) stopPlaying()
})

/** Shows one moment of a line, and stays there until the pose changes. */
export function lookAt(time: number): void {
  cancelAnimationFrame(request)
  setState({ isPlaying: false, time })
  show(time)
}

/** Speaks with another set of sounds from now on. */
export function setMood(mood: string): void {
  setState({ mood })
  const { time, isPlaying } = getState()
  if (time !== null && !isPlaying) show(time)
}

/** Turns a line into sounds and speaks it. */
export async function speakLine(line: string, rate = 1): Promise<void> {
  const { speakInWorker } = await import('../workers/client')
  setState({ isBusy: true })
  try {
    const track = await speakInWorker(line, rate)
    setState({ line, track })
    startPlaying()
  } catch {
    toast.error('The pronouncing dictionary could not be loaded. Reload the page to try again.')
  } finally {
    setState({ isBusy: false })
  }
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
