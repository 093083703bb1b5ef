/** Saves a moment after each change, on top of the revision that was loaded; retries while the server is away. */
import type { Change } from '@marionette/core/edit/command'
import { HISTORY_LENGTH, type History } from '@marionette/core/edit/history'
import { RequestError, savePuppet } from './api'
import { useDocument } from './document'
import { keep } from './keep'

const MOMENT = 700
const RETRY = 4000

/**
 * What stands for the state of a history: the last change in force, or null at its beginning. Walking back gives an
 * equal puppet, but not the same object. Once old changes were forgotten the beginning is no fixed state any more.
 */
const stateMark = ({ changes, done }: History): Change | null | undefined =>
  done > 0 ? changes[done - 1] : changes.length < HISTORY_LENGTH ? null : undefined

/** Starts saving the open puppet; returns a function that stops after a last attempt. */
export function startAutosave(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  let saving = false
  const opened = useDocument.getState()
  // Edits that were taken up from the browser's own keeping still wait for the server.
  let saved: Change | null | undefined = opened.save.kind === 'saved' && opened.history ? stateMark(opened.history) : undefined
  const isSaved = (history: History): boolean => saved !== undefined && stateMark(history) === saved
  const later = (delay: number): void => {
    clearTimeout(timer)
    timer = setTimeout(() => void save(), delay)
  }
  const save = async (): Promise<void> => {
    const { history, revision, save: state } = useDocument.getState()
    if (!history || saving || isSaved(history) || state.kind === 'conflict') return
    saving = true
    const { puppet } = history
    const isOpen = (): boolean => useDocument.getState().history?.puppet.id === puppet.id
    useDocument.setState({ save: { kind: 'saving' } })
    try {
      const summary = await savePuppet(puppet, revision)
      saved = stateMark(history)
      const now = useDocument.getState().history
      if (!now || !isOpen()) return
      const isLatest = isSaved(now)
      useDocument.setState({
        revision: summary.revision,
        save: isLatest ? { kind: 'saved', revision: summary.revision } : { kind: 'changed' },
      })
      await keep(now, summary.revision, isLatest)
      if (!isLatest) later(MOMENT)
    } catch (error) {
      if (!(error instanceof RequestError)) throw error
      if (!isOpen()) return
      if (error.status === 412) useDocument.setState({ save: { kind: 'conflict', revision: error.revision ?? 0 } })
      else {
        useDocument.setState({ save: error.status === 0 ? { kind: 'offline' } : { kind: 'refused', message: error.message } })
        later(RETRY)
      }
    } finally {
      saving = false
    }
  }
  const unsubscribe = useDocument.subscribe((state, before) => {
    if (!state.history || state.history === before.history || state.history.puppet.id !== before.history?.puppet.id) return
    if (state.save.kind === 'saved') {
      // Opened anew, as the server has it.
      saved = stateMark(state.history)
      return
    }
    if (isSaved(state.history)) {
      // Walked back to what the server has.
      if (!saving && state.save.kind !== 'conflict') useDocument.setState({ save: { kind: 'saved', revision: state.revision } })
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
