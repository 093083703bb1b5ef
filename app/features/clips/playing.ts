/** Playing a clip on the stage. What it shows lies over the puppet as it is seen, and changes nothing. */
import { valuesInClip } from '@marionette/core/playing/clips'
import type { Clip } from '@marionette/core/clips/records'
import { editorState, type Editor } from '../../editor/editor'
import { play } from '../../editor/live'
import { useDocument } from '../../editor/document'
import { clipNow, setActing, showMoment, useActing } from './acting'

const stateOf = editorState(() => ({ request: 0 }))

/** What is played round and round. */
const rangeOf = ({ range, length }: Clip): { from: number; to: number } => range ?? { from: 0, to: length }

/** Shows a moment while it passes: by values over the puppet, so that no panel is drawn again. */
export function passBy(editor: Editor, clip: Clip, time: number): void {
  const { history } = useDocument.of(editor).getState()
  if (!history) return
  play(editor, { ...valuesInClip(history.puppet, clip, time), ...clip.loose }, time)
  setActing(editor, { time })
}

/** Plays the open clip from the moment that is looked at; from its beginning where that is its end. */
export function startClip(editor: Editor): void {
  const own = stateOf(editor)
  const begun = clipNow(editor)
  if (!begun) return
  cancelAnimationFrame(own.request)
  const range = rangeOf(begun)
  const at = useActing.of(editor).getState().time
  const from = at >= range.to - 1 / begun.rate ? range.from : at
  setActing(editor, { isPlaying: true, dropped: 0, time: from })
  let startedAt = performance.now() - 1000 * from
  let lastFrame = Math.floor(from * begun.rate)
  const step = (): void => {
    const clip = clipNow(editor)
    if (!clip || !useActing.of(editor).getState().isPlaying) return
    const { from: first, to } = rangeOf(clip)
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

/** Stops where it is, on a whole frame. */
export function stopClip(editor: Editor, at?: number): void {
  cancelAnimationFrame(stateOf(editor).request)
  setActing(editor, { isPlaying: false, ...(at === undefined ? {} : { time: at }) })
  showMoment(editor)
}

export const playOrStop = (editor: Editor): void => (useActing.of(editor).getState().isPlaying ? stopClip(editor) : startClip(editor))
