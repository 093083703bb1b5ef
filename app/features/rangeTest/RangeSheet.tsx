/** The range test: everything in its worst pose, the worst first; from each to its place, and to a mend where there is one. */
import { useEffect, useState } from 'react'
import { RUN_KINDS } from '@marionette/core/rangeTest/runs'
import { countGraded, runKey, type RangeReport, type RangeRun } from '@marionette/core/rangeTest/report'
import type { Grade } from '@marionette/core/reports/sweepGrade'
import { useEditor } from '../../editor/editor'
import { useDocument } from '../../editor/document'
import { openPanel } from '../../editor/session'
import { Button } from '../../ui/Button'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { RunCard } from './RunCard'
import { RunDetails } from './RunDetails'
import { cancelTest, holds, saveReport, testPuppet, useTesting } from './testing'

type Shown = Grade | 'all'

export default function RangeSheet() {
  const editor = useEditor()
  const tested = useTesting((s) => s.tested)
  const isBusy = useTesting((s) => s.running !== null)
  const isStale = useDocument((s) => s.puppet !== null && tested !== null && !holds(tested, s.history?.puppet ?? s.puppet))
  const [opened, setOpened] = useState<string | null>(null)
  // Closing the sheet ends what it is waiting for.
  useEffect(() => () => cancelTest(editor), [editor])
  const report = tested?.report ?? null
  const run = report?.runs.find((one) => runKey(one) === opened) ?? null
  return (
    <Sheet open full onClose={() => openPanel(editor, null)} title="Range test" text={said(report, isStale)}>
      <Running />
      {report === null && !isBusy && (
        <Button kind="ink" onClick={() => void testPuppet(editor)}>
          Test everything
        </Button>
      )}
      {report &&
        (run ? <RunDetails run={run} onBack={() => setOpened(null)} /> : <Overview report={report} isBusy={isBusy} onOpen={setOpened} />)}
    </Sheet>
  )
}

/** How far a test is. It is told often, and nothing but this is drawn again. */
function Running() {
  const editor = useEditor()
  const running = useTesting((s) => s.running)
  if (!running) return null
  return (
    <div className="mb-3 flex items-center gap-3">
      <progress aria-label="Testing" className="h-1.5 flex-1" value={running.done} />
      <span className="num w-[230px] truncate text-quiet">{running.said}</span>
      <Button small onClick={() => cancelTest(editor)}>
        Cancel
      </Button>
    </div>
  )
}

function said(report: RangeReport | null, isStale: boolean): string {
  if (!report)
    return 'Joints through their limits, controls through their ranges, neighbours, faces, alternates, clips and 200 random poses. It takes a minute or two.'
  const [broken, look] = [countGraded(report, 'broken'), countGraded(report, 'look')]
  const found = [broken > 0 && `${broken} broken`, look > 0 && `${look} to look at`].filter(Boolean)
  const sum = `${report.poses} poses: ${found.length > 0 ? found.join(', ') : 'nothing that anybody would see'}.`
  return isStale ? `${sum} The puppet has changed since.` : sum
}

interface OverviewProps {
  readonly report: RangeReport
  readonly isBusy: boolean
  readonly onOpen: (key: string) => void
}

function Overview({ report, isBusy, onOpen }: OverviewProps) {
  const editor = useEditor()
  const [grade, setGrade] = useState<Shown>('all')
  const [kind, setKind] = useState<RangeRun['kind'] | 'all'>('all')
  const runs = report.runs.filter((run) => (grade === 'all' || run.grade === grade) && (kind === 'all' || run.kind === kind))
  const kinds = RUN_KINDS.filter((one) => report.runs.some((run) => run.kind === one.kind))
  return (
    <>
      <div className="mb-3 flex items-center gap-3">
        <Segments
          label="Grade"
          value={grade}
          options={[
            { value: 'all', label: 'All' },
            { value: 'broken', label: 'Broken' },
            { value: 'look', label: 'Look at it' },
            { value: 'good', label: 'Good' },
          ]}
          onChange={setGrade}
        />
        <div className="w-[220px]">
          <Pick
            label="What"
            value={kind}
            options={[{ id: 'all', label: 'Everything' }, ...kinds.map((one) => ({ id: one.kind, label: one.label }))]}
            onChange={(id) => setKind(id as typeof kind)}
          />
        </div>
        <span className="flex-1" />
        <Button small disabled={isBusy} onClick={() => void saveReport(editor, 'sheet')}>
          Save sheet
        </Button>
        <Button small disabled={isBusy} onClick={() => void saveReport(editor, 'film')}>
          Save film
        </Button>
        <Button small disabled={isBusy} onClick={() => void testPuppet(editor)}>
          Test again
        </Button>
      </div>
      {runs.length === 0 && <p className="cap py-6 text-center">Nothing of that kind.</p>}
      <ul aria-label="What was tried, the worst first" className="grid grid-cols-6 gap-3">
        {runs.map((run) => (
          <RunCard key={runKey(run)} run={run} onOpen={() => onOpen(runKey(run))} />
        ))}
      </ul>
    </>
  )
}
