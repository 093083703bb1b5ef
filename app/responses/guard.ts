/** While something is recorded nothing is left by accident: pages and other puppets wait until it is kept or discarded. */
import { useEffect } from 'react'
import { toast } from 'sonner'
import { recordingNow, useRecording } from '../state/recording'

const KEPT_BENCHES = ['shape', 'face']

/** Whether a link leads away from where recording goes on. */
function leavesRecording(path: string, puppet: string): boolean {
  const [, kind, id, bench = ''] = path.split('/')
  return kind !== 'puppet' || id !== puppet || !KEPT_BENCHES.includes(bench)
}

export const sayKeepFirst = (): void => void toast('Keep or discard what is being recorded first.', { id: 'recording' })

/** Holds links and the closing of the page while recording. */
export function useRecordingGuard(puppet: string): void {
  const isOn = useRecording((s) => s.recording !== null)
  useEffect(() => {
    if (!isOn) return
    const hold = (e: Event): void => {
      e.preventDefault()
      e.stopPropagation()
      sayKeepFirst()
    }
    const onClick = (e: MouseEvent): void => {
      const link = (e.target as Element).closest?.('a[href]')
      if (link && recordingNow() && leavesRecording(new URL((link as HTMLAnchorElement).href).pathname, puppet)) hold(e)
    }
    const onUnload = (e: BeforeUnloadEvent): void => e.preventDefault()
    document.addEventListener('click', onClick, { capture: true })
    window.addEventListener('beforeunload', onUnload)
    return () => {
      document.removeEventListener('click', onClick, { capture: true })
      window.removeEventListener('beforeunload', onUnload)
    }
  }, [isOn, puppet])
}
