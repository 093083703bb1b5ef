/** One run of a range test: where along its way which faults show, how much of its area is left, how fast it goes, and what can be done. */
import { ChevronLeft } from 'lucide-react'
import { lazy, Suspense } from 'react'
import { useNavigate } from 'react-router'
import { FAULT_LABELS } from '@marionette/core/rangeTest/grades'
import { mendsFor } from '@marionette/core/rangeTest/mends'
import type { RangeRun, RangeSample } from '@marionette/core/rangeTest/report'
import { GRADE_NAMES } from '@marionette/core/reports/sweepGrade'
import { useEditor } from '../../editor/editor'
import { openPuppet, useDocument } from '../../editor/document'
import { Button } from '../../ui/Button'
import { GRADE_COLOURS, useRunPicture } from './RunCard'
import { showSample } from './showing'
import { doMend, tryAgain, useTesting } from './testing'

// Charts are heavy, and come when one is looked at.
const FaultChart = lazy(() => import('./FaultChart'))

export function RunDetails({ run, onBack }: { run: RangeRun; onBack: () => void }) {
  const editor = useEditor()
  const navigate = useNavigate()
  const puppet = useDocument((s) => s.history?.puppet ?? null)
  const isBusy = useTesting((s) => s.running !== null)
  const url = useRunPicture(run)
  const mends = puppet ? mendsFor(puppet, run) : []
  const show = (sample: RangeSample): void => {
    const bench = showSample(editor, run, sample)
    void navigate(`/puppet/${openPuppet(editor).id}/${bench}`)
  }
  const faulty = run.samples.filter(({ faults }) => faults.length > 0)
  const worst = run.samples[run.worst]
  return (
    <div className="grid grid-cols-[300px_1fr] gap-6">
      <div>
        <Button small onClick={onBack}>
          <ChevronLeft size={14} /> All of it
        </Button>
        <div className="mt-3 overflow-hidden rounded-lg bg-stage">
          {url ? (
            <img src={url} alt={`${run.name} in its worst pose`} className="block aspect-square w-full" />
          ) : (
            <div className="aspect-square" />
          )}
          <div className={`h-[3px] ${GRADE_COLOURS[run.grade]}`} />
        </div>
        <div className="mt-3 flex flex-wrap gap-2">
          {worst && (
            <Button small onClick={() => show(worst)}>
              Show it on the stage
            </Button>
          )}
          <Button small disabled={isBusy} onClick={() => void tryAgain(editor, run)}>
            Try again
          </Button>
        </div>
      </div>
      <div className="min-w-0">
        <h3 className="font-display text-[17px]/6 font-semibold">{run.name}</h3>
        <p className="cap">
          {GRADE_NAMES[run.grade]}
          {faulty.length > 0 && `, in ${faulty.length} of ${run.samples.length} poses`}
        </p>
        <Suspense>
          <FaultChart run={run} />
        </Suspense>
        {mends.length > 0 && (
          <section aria-label="Mends" className="mt-3 flex flex-wrap gap-2">
            {mends.map((mend) => (
              <Button key={mend.label} small kind="ink" disabled={isBusy} onClick={() => void doMend(editor, run, mend)}>
                {mend.label}
              </Button>
            ))}
          </section>
        )}
        <ul aria-label="Faults" className="mt-3 max-h-[210px] overflow-y-auto">
          {faulty.flatMap((sample) =>
            sample.faults.slice(0, MOST_NAMED).map((fault, k) => (
              <li key={`${sample.said} ${k}`} className="flex items-center gap-2 border-b border-hair py-1">
                <i className={`size-2 flex-none rounded-full ${GRADE_COLOURS[fault.grade]}`} />
                <span className="num w-[110px] flex-none truncate">{sample.said}</span>
                <span className="min-w-0 flex-1 truncate" title={fault.said}>
                  {fault.said}
                </span>
                <span className="cap flex-none">{FAULT_LABELS[fault.kind]}</span>
                <Button small onClick={() => show(sample)} aria-label={`Show ${sample.said}`}>
                  Show
                </Button>
              </li>
            )),
          )}
        </ul>
      </div>
    </div>
  )
}

/** Faults of one pose that are listed: the worst. */
const MOST_NAMED = 3
