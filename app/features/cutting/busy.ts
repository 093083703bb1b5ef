/** Work of the cut tool: one at a time, with its progress and the way to end it in the bar. */
import { useCut } from './selection'
import { orSaid } from '../../editor/work'
import { editorState, type Editor } from '../../editor/editor'

interface Own {
  abort: AbortController | null
}

const stateOf = editorState((): Own => ({ abort: null }))

/** Runs work unless some is under way; null then, where it failed and where it was cancelled. */
export async function whileBusy<T>(
  editor: Editor,
  run: (signal: AbortSignal, progress: (done: number) => void) => Promise<T>,
): Promise<T | null> {
  if (useCut.of(editor).getState().busy) return null
  const { signal } = (stateOf(editor).abort = new AbortController())
  useCut.of(editor).setState({ busy: { done: null } })
  try {
    return await orSaid(editor, () => run(signal, (done) => useCut.of(editor).setState({ busy: { done } })))
  } finally {
    useCut.of(editor).setState({ busy: null })
  }
}

export const cancelBusy = (editor: Editor): void => stateOf(editor).abort?.abort()
