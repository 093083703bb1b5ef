/** The upper edge of the stage while a response is recorded or looked at: what is recorded, its stops, Discard and Keep. */
import { counted } from '@marionette/core/kernel/counted'
import { Check, Circle, X } from 'lucide-react'
import { discardRecording, keepRecording, recorded, useRecording } from './recording'
import { usePuppet } from '../../editor/document'
import { stopWords } from './words'
import { StopRuler } from './StopRuler'
import { useEditor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

export function RecordingBar() {
  const editor = useEditor()
  const open = useRecording((s) => s.open)
  const recording = useRecording((s) => s.recording)
  const response = usePuppet((p) => p.responses.find((r) => r.id === open))
  if (!response && !recording) return null
  return (
    <>
      {recording && <Sentence />}
      {response && (
        <div className={`relative flex-none bg-panel ${recording ? '' : 'mb-2 rounded-2xl shadow-1'}`}>
          <StopRuler response={response} />
          {!recording && (
            <button
              type="button"
              aria-label="Close the ruler"
              className="absolute top-1.5 right-1.5 grid size-6 place-items-center rounded-md text-quiet hover:bg-tint hover:text-ink"
              onClick={() => useRecording.of(editor).setState({ open: null })}
            >
              <X size={14} />
            </button>
          )}
        </div>
      )}
    </>
  )
}

function Sentence() {
  const editor = useEditor()
  const recording = sure(useRecording((s) => s.recording))
  const puppet = usePuppet((p) => p)
  const now = recorded(editor, puppet, recording)
  if (!now) return <Gone />
  const { response, stop } = now
  const place = [...response.stops].sort((a, b) => nth(a.at, 0) - nth(b.at, 0)).findIndex((s) => s.id === stop.id) + 1
  const count = stop.changes.length
  return (
    <div role="status" className="flex h-12 flex-none items-center gap-3 rounded-t-2xl bg-[var(--record)] px-4 text-[var(--on-record)]">
      <Circle size={14} fill="currentColor" className="flex-none" aria-hidden />
      <p className="min-w-0 flex-1 truncate">
        Recording <b className="font-semibold">{response.name}</b> at{' '}
        <b className="num font-semibold">{stopWords(puppet, response, stop.at)}</b>
        {response.kind === 'ruler' && `, stop ${place} of ${response.stops.length}`}
        {count === 0 && <span className="opacity-80">. Change anything with the tools.</span>}
      </p>
      <button
        type="button"
        onClick={() => discardRecording(editor)}
        className="h-8 rounded-full px-3.5 font-semibold shadow-[inset_0_0_0_1px_currentColor] hover:bg-white/15"
      >
        Discard
      </button>
      <button
        type="button"
        onClick={() => keepRecording(editor)}
        className="flex h-8 items-center gap-1.5 rounded-full bg-panel px-3.5 font-semibold text-verdigris"
      >
        <Check size={15} /> Keep {counted(count, 'change')}
      </button>
    </div>
  )
}

/** What was recorded was undone away: there is nothing left to keep. */
function Gone() {
  const editor = useEditor()
  return (
    <div role="status" className="flex h-12 flex-none items-center gap-3 rounded-t-2xl bg-[var(--record)] px-4 text-[var(--on-record)]">
      <p className="flex-1">The stop that was recorded was undone.</p>
      <button
        type="button"
        onClick={() => discardRecording(editor)}
        className="h-8 rounded-full px-3.5 font-semibold shadow-[inset_0_0_0_1px_currentColor]"
      >
        End recording
      </button>
    </div>
  )
}
