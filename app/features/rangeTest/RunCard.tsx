/** One run of a range test in its worst pose. */
import { useEffect, useState } from 'react'
import { decidingFault, runKey, runName, sampleSaid, type RangeRun } from '@marionette/core/rangeTest/report'
import { GRADE_NAMES, type Grade } from '@marionette/core/reports/sweepGrade'
import { useTesting } from './testing'

/** Colours of grades, always beside words. */
export const GRADE_COLOURS: Readonly<Record<Grade, string>> = { good: 'bg-verdigris', look: 'bg-brass', broken: 'bg-cord' }

/** The picture of a run; null until it can be shown. */
export function useRunPicture(run: RangeRun): string | null {
  const png = useTesting((s) => s.tested?.pictures.get(runKey(run)) ?? null)
  const [url, setUrl] = useState<string | null>(null)
  useEffect(() => {
    if (!png) return
    const made = URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' }))
    setUrl(made)
    return () => URL.revokeObjectURL(made)
  }, [png])
  return url
}

export function RunCard({ run, onOpen }: { run: RangeRun; onOpen: () => void }) {
  const url = useRunPicture(run)
  const fault = decidingFault(run)
  const name = runName(run)
  const sample = run.samples[run.worst]
  return (
    <li>
      <button
        type="button"
        aria-label={`${name}: ${GRADE_NAMES[run.grade]}`}
        data-grade={run.grade}
        onClick={onOpen}
        className="block w-full overflow-hidden rounded-lg bg-stage text-left outline-offset-1 hover:shadow-[0_0_0_2px_var(--twine)]"
      >
        {url ? <img src={url} alt="" className="block aspect-square w-full" /> : <span className="block aspect-square" />}
        <span className={`block h-[3px] ${GRADE_COLOURS[run.grade]}`} />
        <span className="block bg-panel px-0.5 pt-1">
          <span className="block truncate text-[12px] font-[550]">{name}</span>
          <span className="cap block truncate" title={fault?.said}>
            {fault && sample ? sampleSaid(sample) : GRADE_NAMES.good}
          </span>
        </span>
      </button>
    </li>
  )
}
