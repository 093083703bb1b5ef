/** Saves a moment after each change, on top of the revision that was loaded; retries while the server is away. */
import type { Puppet } from '@marionette/core/document/schema'
import { RequestError, savePuppet } from './api'
import { useDocument } from './document'
import { keep } from './keep'

const MOMENT = 700
const RETRY = 4000

/** Starts saving the open puppet; returns a function that stops after a last attempt. */
export function startAutosave(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  let saving = false
  const opened = useDocument.getState()
  // Edits that were taken up from the browser's own keeping still wait for the server.
  let saved: Puppet | undefined = opened.save.kind === 'saved' ? opened.history?.puppet : undefined
  const later = (delay: number): void => {
    clearTimeout(timer)
    timer = setTimeout(() => void save(), delay)
  }
  const save = async (): Promise<void> => {
    const { history, revision, save: state } = useDocument.getState()
    if (!history || saving || history.puppet === saved || state.kind === 'conflict') return
    saving = true
    const { puppet } = history
    useDocument.setState({ save: { kind: 'saving' } })
    try {
      const summary = await savePuppet(puppet, revision)
      saved = puppet
      const now = useDocument.getState()
      if (now.history?.puppet.id !== puppet.id) return
      const isLatest = now.history.puppet === puppet
      useDocument.setState({
        revision: summary.revision,
        save: isLatest ? { kind: 'saved', revision: summary.revision } : { kind: 'changed' },
      })
      await keep(now.history, summary.revision, isLatest)
      if (!isLatest) later(MOMENT)
    } catch (error) {
      if (!(error instanceof RequestError)) throw error
      if (error.status === 412) useDocument.setState({ save: { kind: 'conflict', revision: error.revision ?? 0 } })
      else {
        useDocument.setState({ save: { kind: 'offline' } })
        later(RETRY)
      }
    } finally {
      saving = false
    }
  }
  const unsubscribe = useDocument.subscribe((state, before) => {
    if (!state.history || state.history === before.history || state.history.puppet.id !== before.history?.puppet.id) return
    if (state.history.puppet === saved) {
      // Walked back to what the server has.
      if (!saving) useDocument.setState({ save: { kind: 'saved', revision: state.revision } })
      return
    }
    void keep(state.history, state.revision, false)
    later(MOMENT)
  })
  if (opened.save.kind === 'changed') later(0)
  return () => {
    unsubscribe()
    clearTimeout(timer)
    void save()
  }
}
