/** A sheet that builds something of a face: its questions, what is still in the way, and the button. */
import type { ReactNode } from 'react'
import { openPanel } from '../../editor/session'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { useEditor } from '../../editor/editor'

interface BuildSheetProps {
  readonly title: string
  readonly text: string
  readonly wide: boolean
  /** Why it cannot be built yet; null where it can. */
  readonly problem: string | null
  readonly button: string
  readonly onBuild: () => void
  readonly children: ReactNode
}

export function BuildSheet({ title, text, wide, problem, button, onBuild, children }: BuildSheetProps) {
  const editor = useEditor()
  return (
    <Sheet open onClose={() => openPanel(editor, null)} title={title} text={text} wide={wide}>
      {children}
      <div className="mt-4 flex items-center justify-end gap-3">
        {problem && <p className="cap flex-1">{problem}</p>}
        <Button kind="keep" disabled={problem !== null} onClick={onBuild}>
          {button}
        </Button>
      </div>
    </Sheet>
  )
}
