/** Says that a builder has been here, and leads to what it made. */
import type { ReactNode } from 'react'
import { openPanel, selectControl, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { useEditor } from '../../editor/editor'

export function Known({ control, children }: { readonly control: string; readonly children: ReactNode }) {
  const editor = useEditor()
  const show = (): void => {
    openPanel(editor, null)
    selectControl(editor, control)
    useSession.of(editor).setState({ shelfOpen: true })
  }
  return (
    <div className="mb-4 flex items-center gap-3 rounded-lg bg-tint px-3 py-2" role="note">
      <p className="flex-1">{children}</p>
      <Button small onClick={show}>
        Show its sliders
      </Button>
    </div>
  )
}
