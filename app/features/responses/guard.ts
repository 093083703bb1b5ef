/** While something is recorded nothing is left by accident: pages and other puppets wait until it is kept or discarded. */
import { useEffect } from 'react'
import { useBlocker } from 'react-router'
import { recordingNow, useRecording } from './recording'
import { useEditor, type Editor } from '../../editor/editor'

const KEPT_BENCHES = ['shape', 'face']

/** Whether a link leads away from where recording goes on. */
function leavesRecording(path: string, puppet: string): boolean {
  const [, kind, id, bench = ''] = path.split('/')
  return kind !== 'puppet' || id !== puppet || !KEPT_BENCHES.includes(bench)
}

export const sayKeepFirst = (editor: Editor): void =>
  void editor.notify('Keep or discard what is being recorded first.', { id: 'recording' })

/** Holds every way out while something is recorded: links, keys, the command search, Back, and the closing of the page. */
export function useRecordingGuard(puppet: string): void {
  const editor = useEditor()
  const isOn = useRecording((s) => s.recording !== null)
  const blocker = useBlocker(({ nextLocation }) => recordingNow(editor) !== null && leavesRecording(nextLocation.pathname, puppet))
  useEffect(() => {
    if (blocker.state !== 'blocked') return
    blocker.reset()
    sayKeepFirst(editor)
  }, [blocker, editor])
  useEffect(() => {
    if (!isOn) return
    const onUnload = (e: BeforeUnloadEvent): void => e.preventDefault()
    window.addEventListener('beforeunload', onUnload)
    return () => window.removeEventListener('beforeunload', onUnload)
  }, [isOn])
}
