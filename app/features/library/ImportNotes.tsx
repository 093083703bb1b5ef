/** Progress of an import, and afterwards what there is to know: sides, weight, and what was not understood. */
import { figure } from '@marionette/core/kernel/counted'
import { useState } from 'react'
import type { HeavyGroup } from '@marionette/core/reports/heavy'
import { NAMINGS } from '../../panels/namings'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { settleSides, useImport } from './importing'
import type { Naming } from '@marionette/core/roles/records'
import { useEditor } from '../../editor/editor'

export default function ImportNotes() {
  const editor = useEditor()
  const report = useImport((s) => s.report)
  const close = (): void => useImport.of(editor).setState({ report: null })
  const count = report ? report.warnings.length : 0
  const things = count === 0 ? 'what to know' : count === 1 ? 'one thing to know' : `${figure(count)} things to know`
  return (
    <>
      <Progress />
      <Sheet
        wide
        open={report !== null}
        onClose={close}
        title={`${report?.name}: ${things}`}
        text="Everything else came in as it was drawn."
      >
        {report?.sides && <Sides puppet={report.sides.puppet} naming={report.sides.naming} isCertain={report.sides.isCertain} />}
        {report && report.heavy.length > 0 && <Heavy groups={report.heavy} />}
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
        {count > 500 && <p className="cap mt-2">and {count - 500} more of the same kinds</p>}
        <Button kind="ink" className="mt-4" onClick={close}>
          Understood
        </Button>
      </Sheet>
    </>
  )
}

function Progress() {
  const { reading, done, what, cancel } = useImport()
  if (reading === null) return null
  return (
    <div
      role="status"
      className="fixed bottom-6 left-1/2 z-40 flex -translate-x-1/2 items-center gap-4 rounded-full bg-panel py-2 pr-2 pl-5 shadow-3"
    >
      <span className="max-w-[260px] truncate">
        Reading <b>{reading}</b>…
      </span>
      {done > 0 && (
        <span className="flex w-44 items-center gap-2 text-xs text-quiet">
          <progress className="h-1.5 w-20 flex-none" value={done} aria-label="Reading" />
          <span className="truncate">{what}</span>
        </span>
      )}
      <Button small onClick={() => cancel?.()}>
        Cancel
      </Button>
    </div>
  )
}

/** Whose left and right the names mean: told by where the parts lie, or asked for. */
function Sides({ puppet, naming, isCertain }: { puppet: string; naming: Naming; isCertain: boolean }) {
  const editor = useEditor()
  const [chosen, setChosen] = useState<Naming | null>(isCertain ? naming : null)
  const choose = async (next: Naming): Promise<void> => {
    setChosen(next)
    try {
      await settleSides(editor, puppet, next)
    } catch (error) {
      editor.notify.error((error as Error).message)
    }
  }
  return (
    <section className="mb-4">
      <h3 className="mb-1.5 font-semibold">{isCertain ? 'Its names say sides' : 'Its names say left and right: whose?'}</h3>
      <Segments label="Whose sides" value={chosen} options={NAMINGS} onChange={(n) => void choose(n)} />
    </section>
  )
}

const megabytes = (bytes: number): string => `${(bytes / 2 ** 20).toFixed(bytes < 10 * 2 ** 20 ? 1 : 0)} MB`

/** Groups that would be lighter as one picture each. */
function Heavy({ groups }: { groups: readonly HeavyGroup[] }) {
  return (
    <section className="mb-4">
      <h3 className="font-semibold">Heavy groups</h3>
      <p className="mb-1 text-quiet">
        If nothing in them has to move apart, each can be merged to one picture: select it, then Merge in its details.
      </p>
      <ul className="divide-y divide-hair">
        {groups.slice(0, 12).map((g) => (
          <li key={g.part} className="flex gap-3 py-1.5">
            <span className="w-[210px] flex-none truncate">{g.name}</span>
            <span className="num flex-1 text-quiet">
              {g.layers} layers{g.points > 0 && `, ${g.points} points`}
              {g.bytes > 0 && `, ${megabytes(g.bytes)}`} → one picture of {megabytes(g.mergedBytes)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
