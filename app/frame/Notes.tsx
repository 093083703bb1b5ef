/** Where notes appear. It comes after the page, beside it: the first picture of the page has nothing to say yet. */
import { useEffect } from 'react'
import { Toaster, toast } from 'sonner'
import { useSession } from '../editor/session'

/** @param onReady is told what shows notes, once it can */
export default function Notes({ onReady }: { onReady: (show: typeof toast) => void }) {
  const theme = useSession((s) => s.theme)
  useEffect(() => onReady(toast), [onReady])
  return (
    <Toaster
      position="bottom-right"
      theme={theme === 'footlights' ? 'dark' : 'light'}
      toastOptions={{ style: { font: '450 13px/18px var(--f-ui)' } }}
    />
  )
}
