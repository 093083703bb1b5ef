/** Work of the cut tool: one at a time, with its progress and the way to end it in the bar. */
import { useCut } from '../state/cut'
import { orSaid } from '../state/work'

let abort: AbortController | null = null

/** Runs work unless some is under way; null then, where it failed and where it was cancelled. */
export async function whileBusy<T>(run: (signal: AbortSignal, progress: (done: number) => void) => Promise<T>): Promise<T | null> {
  if (useCut.getState().busy) return null
  const own = (abort = new AbortController())
  useCut.setState({ busy: { done: null } })
  try {
    return await orSaid(() => run(own.signal, (done) => useCut.setState({ busy: { done } })))
  } finally {
    useCut.setState({ busy: null })
  }
}

export const cancelBusy = (): void => abort?.abort()
