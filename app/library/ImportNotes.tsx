/** Progress of an import, and afterwards the list of what was not understood. */
import { Button } from '../ui/Button'
import { Sheet } from '../ui/Sheet'
import { useImport } from './importing'

export function ImportNotes() {
  const { reading, cancel, report } = useImport()
  const close = (): void => useImport.setState({ report: null })
  return (
    <>
      {reading && (
        <div
          role="status"
          className="fixed bottom-6 left-1/2 z-40 flex -translate-x-1/2 items-center gap-4 rounded-full bg-panel py-2 pr-2 pl-5 shadow-3"
        >
          <span>
            Reading <b>{reading}</b>…
          </span>
          <Button small onClick={() => cancel?.()}>
            Cancel
          </Button>
        </div>
      )}
      <Sheet
        wide
        open={report !== null}
        onClose={close}
        title={`${report?.name}: ${report?.warnings.length === 1 ? 'one thing' : `${report?.warnings.length} things`} to know`}
        text="Everything else came in as it was drawn."
      >
        <ul className="divide-y divide-hair">
          {report?.warnings.slice(0, 500).map((w, i) => (
            <li key={i} className="flex gap-3 py-1.5">
              <span className="num w-[210px] flex-none truncate text-quiet" title={w.place}>
                {w.place}
              </span>
              <span className="flex-1">{w.message}</span>
            </li>
          ))}
        </ul>
        {(report?.warnings.length ?? 0) > 500 && <p className="cap mt-2">and {report!.warnings.length - 500} more of the same kinds</p>}
        <Button kind="ink" className="mt-4" onClick={close}>
          Understood
        </Button>
      </Sheet>
    </>
  )
}
