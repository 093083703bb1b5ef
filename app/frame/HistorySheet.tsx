/** The history as a cord that can be walked, and the versions that the library keeps. */
import { useState } from 'react'
import { useDocument, walkTo } from '../editor/document'
import { openPanel, useSession } from '../editor/session'
import { Segments } from '../ui/Segments'
import { Sheet } from '../ui/Sheet'
import { Versions } from './Versions'
import { useEditor } from '../editor/editor'
import { sure } from '@marionette/core/kernel/sure'

export default function HistorySheet() {
  const editor = useEditor()
  const open = useSession((s) => s.panel === 'history')
  const isOpen = useDocument((s) => s.history !== null)
  const [shown, setShown] = useState<'steps' | 'versions'>('steps')
  if (!isOpen) return null
  const close = (): void => {
    openPanel(editor, null)
    setShown('steps')
  }
  return (
    <Sheet open={open} onClose={close} title="History" wide={shown === 'versions'}>
      <Segments
        label="What of the history"
        value={shown}
        options={[
          { value: 'steps', label: 'Steps' },
          { value: 'versions', label: 'Versions' },
        ]}
        onChange={setShown}
      />
      {shown === 'steps' ? <Steps /> : <Versions onTaken={close} />}
    </Sheet>
  )
}

function Steps() {
  const editor = useEditor()
  const history = sure(useDocument((s) => s.history))
  const entries = ['As it was opened', ...history.changes.map((c) => c.label)]
  return (
    <>
      <p className="mt-3 mb-1 text-quiet">Click a line to go back or forward to it.</p>
      <ol className="relative pb-1 before:absolute before:top-4 before:bottom-4 before:left-[9px] before:border-l-[1.5px] before:border-twine">
        {entries
          .map((label, done) => ({ label, done }))
          .reverse()
          .map(({ label, done }) => (
            <li key={done}>
              <button
                type="button"
                onClick={() => walkTo(editor, done)}
                aria-current={done === history.done ? 'step' : undefined}
                className={`relative flex h-8 w-full items-center gap-3 rounded-lg pr-3 pl-1 text-left hover:bg-tint ${done > history.done ? 'text-quiet' : ''} ${done === history.done ? 'font-semibold' : ''}`}
              >
                <i
                  className={`size-[11px] rounded-full border-[1.5px] ${done === history.done ? 'border-cord bg-cord' : 'border-twine bg-panel'}`}
                />
                <span className="flex-1 truncate">{label}</span>
                {done > history.done && <span className="cap">undone</span>}
              </button>
            </li>
          ))}
      </ol>
    </>
  )
}
