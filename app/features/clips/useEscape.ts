/** Escape during a drag ends it, wherever the focus is, and means nothing else. */
import { useEffect, useRef } from 'react'

export function useEscape(isOn: boolean, cancel: () => void): void {
  const latest = useRef(cancel)
  latest.current = cancel
  useEffect(() => {
    if (!isOn) return
    const listen = (e: KeyboardEvent): void => {
      if (e.key !== 'Escape') return
      e.preventDefault()
      e.stopImmediatePropagation()
      latest.current()
    }
    window.addEventListener('keydown', listen, true)
    return () => window.removeEventListener('keydown', listen, true)
  }, [isOn])
}
