/** Playing a clip on the stage. What it shows lies over the puppet as it is seen, and changes nothing. */
import { valuesInClip } from '@marionette/core/playing/clips'
import type { Clip } from '@marionette/core/clips/records'
import type { Puppet } from '@marionette/core/puppet/schema'
import { shownView } from '@marionette/core/views/views'
import { editorState, type Editor } from '../../editor/editor'
import { closeSounds, scrubSounds, soundTime, startSounds, stopSounds } from '../../sound/player'
import { play } from '../../editor/live'
import { lookAnew, useDocument } from '../../editor/document'
import { clipNow, setActing, showMoment, simulatedAt, useActing } from './acting'

const stateOf = editorState(() => ({ request: 0 }))

/** A stretch of a clip, seconds. */
interface Span {
  readonly from: number
  readonly to: number
}

/** What is played round and round. */
const rangeOf = ({ range, length }: Clip): Span => range ?? { from: 0, to: length }

/** Shows a moment while it passes: by values over the puppet, so that no panel is drawn again. */
export function passBy(editor: Editor, clip: Clip, time: number): void {
  const { history, puppet } = useDocument.of(editor).getState()
  if (!history) return
  const values = { ...valuesInClip(history.puppet, clip, time), ...clip.loose }
  setActing(editor, { time })
  // Another view is another rig: what is seen is looked at anew.
  const isOther = (seen: Puppet): boolean => shownView(seen, { ...seen.pose, ...values }) !== puppet?.view
  if (history.puppet.views.length > 1 && isOther(history.puppet)) lookAnew(editor)
  play(editor, values, time, simulatedAt(editor, time))
}

/** Seconds by which picture and sound may differ before the picture follows. */
const APART = 0.03

/** Lets the sounds of a clip be heard from a moment on; where every picture is waited for nothing is. */
function hear(editor: Editor, clip: Clip, from: number, to: number): void {
  if (useActing.of(editor).getState().playsEveryFrame) return
  void startSounds(editor, clip.sounds, from, to)
}

/** Shows a moment while one is looked for, and lets it be heard. */
export function scrub(editor: Editor, clip: Clip, time: number): void {
  if (useActing.of(editor).getState().time !== time) void scrubSounds(editor, clip.sounds, time)
  passBy(editor, clip, time)
}

/**
 * Plays the open clip from the moment that is looked at; from its beginning where that is its end.
 *
 * @param span what is played of it instead of its range, from its beginning
 */
export function startClip(editor: Editor, span: Span | null = null): void {
  const own = stateOf(editor)
  const begun = clipNow(editor)
  if (!begun) return
  cancelAnimationFrame(own.request)
  const range = span ?? rangeOf(begun)
  const at = useActing.of(editor).getState().time
  const from = span || at >= range.to - 1 / begun.rate ? range.from : at
  setActing(editor, { isPlaying: true, dropped: 0, time: from })
  hear(editor, begun, from, range.to)
  let startedAt = performance.now() - 1000 * from
  let lastFrame = Math.floor(from * begun.rate)
  const step = (): void => {
    const clip = clipNow(editor)
    if (!clip || !useActing.of(editor).getState().isPlaying) return
    const { from: first, to } = span ?? rangeOf(clip)
    const heard = soundTime(editor)
    // The picture follows what is heard, where anything is.
    if (heard !== null && Math.abs(heard - (performance.now() - startedAt) / 1000) > APART) startedAt = performance.now() - 1000 * heard
    let time = (performance.now() - startedAt) / 1000
    if (useActing.of(editor).getState().playsEveryFrame && time > (lastFrame + 1) / clip.rate) {
      // Time waits for pictures instead of leaving some out.
      startedAt += 1000 * (time - (lastFrame + 1) / clip.rate)
      time = (lastFrame + 1) / clip.rate
    }
    if (time >= to) {
      if (!useActing.of(editor).getState().loops) return stopClip(editor, to)
      const over = (time - first) % (to - first)
      startedAt += 1000 * (time - first - over)
      time = first + over
      lastFrame = Math.floor(time * clip.rate) - 1
      hear(editor, clip, time, to)
    }
    const frame = Math.floor(time * clip.rate + 1e-9)
    if (frame !== lastFrame) {
      // Frames that passed between two pictures of the screen were not seen.
      const missed = Math.max(0, frame - lastFrame - 1)
      lastFrame = frame
      if (missed > 0) setActing(editor, { dropped: useActing.of(editor).getState().dropped + missed })
      passBy(editor, clip, frame / clip.rate)
    }
    own.request = requestAnimationFrame(step)
  }
  own.request = requestAnimationFrame(step)
}

/** Whatever ends playing ends what is heard, too; returns how to end this. */
export function quietWhenStopped(editor: Editor): () => void {
  const end = useActing.of(editor).subscribe((s, before) => before.isPlaying && !s.isPlaying && stopSounds(editor))
  return () => {
    end()
    closeSounds(editor)
  }
}

/** Stops where it is, on a whole frame. */
export function stopClip(editor: Editor, at?: number): void {
  cancelAnimationFrame(stateOf(editor).request)
  setActing(editor, { isPlaying: false, ...(at === undefined ? {} : { time: at }) })
  showMoment(editor)
}

export const playOrStop = (editor: Editor): void => (useActing.of(editor).getState().isPlaying ? stopClip(editor) : startClip(editor))

/** From the first to the last of the chosen keys; null where they lie at one time. */
export function chosenSpan(editor: Editor): Span | null {
  const times = useActing
    .of(editor)
    .getState()
    .keys.map((key) => key.time)
  const [from, to] = [Math.min(...times), Math.max(...times)]
  return clipNow(editor) && to - from > 1e-6 ? { from, to } : null
}

/** Plays what lies between the chosen keys round and round. */
export function playChosen(editor: Editor): void {
  const span = chosenSpan(editor)
  if (span) startClip(editor, span)
}
