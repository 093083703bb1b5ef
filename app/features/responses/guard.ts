/** While something is recorded nothing is left by accident: pages and other puppets wait until it is kept or discarded. */
import { useEffect } from 'react'
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

/** Holds links and the closing of the page while recording. */
export function useRecordingGuard(puppet: string): void {
  const editor = useEditor()
  const isOn = useRecording((s) => s.recording !== null)
  useEffect(() => {
    if (!isOn) return
    const hold = (e: Event): void => {
      e.preventDefault()
      e.stopPropagation()
      sayKeepFirst(editor)
    }
    const onClick = (e: MouseEvent): void => {
      const link = (e.target as Element).closest?.('a[href]')
      if (link && recordingNow(editor) && leavesRecording(new URL((link as HTMLAnchorElement).href).pathname, puppet)) hold(e)
    }
    const onUnload = (e: BeforeUnloadEvent): void => e.preventDefault()
    document.addEventListener('click', onClick, { capture: true })
    window.addEventListener('beforeunload', onUnload)
    return () => {
      document.removeEventListener('click', onClick, { capture: true })
      window.removeEventListener('beforeunload', onUnload)
    }
  }, [editor, isOn, puppet])
}
