/** The history as a cord that can be walked. */
import { useDocument, walkTo } from '../state/document'
import { openPanel, useSession } from '../state/session'
import { Sheet } from '../ui/Sheet'

export function HistorySheet() {
  const open = useSession((s) => s.panel === 'history')
  const history = useDocument((s) => s.history)
  if (!history) return null
  const entries = ['As it was opened', ...history.changes.map((c) => c.label)]
  return (
    <Sheet open={open} onClose={() => openPanel(null)} title="History" text="Click a line to go back or forward to it.">
      <ol className="relative pb-1">
        <i className="absolute top-4 bottom-4 left-[9px] border-l-[1.5px] border-twine" />
        {entries
          .map((label, done) => ({ label, done }))
          .reverse()
          .map(({ label, done }) => (
            <li key={done}>
              <button
                type="button"
                onClick={() => walkTo(done)}
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
    </Sheet>
  )
}
