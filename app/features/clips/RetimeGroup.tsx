/** The clip as a whole over time: faster, slower, along a curve; and the beats that it is acted to. */
import { useState } from 'react'
import { retime, type Pace } from '@marionette/core/clips/retime'
import { setClip } from '@marionette/core/clips/commands'
import type { Clip } from '@marionette/core/clips/records'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { perform } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Tick } from '../../ui/Tick'
import { setActing } from './acting'

const PACES: readonly { readonly id: Pace; readonly label: string }[] = [
  { id: 'even', label: 'Even' },
  { id: 'slow-start', label: 'Slow start' },
  { id: 'slow-end', label: 'Slow end' },
  { id: 'slow-both', label: 'Slow start and end' },
]

const USUAL_TEMPO = 120

export default function RetimeGroup({ clip }: { clip: Clip }) {
  const editor = useEditor()
  const [percent, setPercent] = useState(100)
  const [pace, setPace] = useState<Pace>('even')
  const { tempo } = clip
  const set = (next: Clip['tempo'], label: string): void => void perform(editor, [edit(setClip, { clip: clip.id, tempo: next })], label)
  const apply = (): void => {
    if (!perform(editor, [edit(retime, { clip: clip.id, by: percent / 100, pace })])) return
    setActing(editor, { keys: [], pose: null })
    setPercent(100)
    setPace('even')
  }
  return (
    <Group id="clip-time" title="Timing">
      <NumberField
        label="New length"
        value={percent}
        rest={100}
        unit="%"
        min={5}
        max={2000}
        digits={0}
        onChange={(v) => setPercent(v ?? 100)}
      />
      <Field label="Pace">
        <Pick label="Pace" value={pace} options={PACES} onChange={(id) => setPace(id as Pace)} />
      </Field>
      <div className="mt-1 mb-2">
        <Button small disabled={percent === 100 && pace === 'even'} onClick={apply}>
          Retime the clip
        </Button>
      </div>
      <Tick
        checked={tempo !== null}
        onChange={(on) => set(on ? { perMinute: USUAL_TEMPO, first: 0 } : null, on ? 'Show beats' : 'No beats')}
      >
        Beats on the ruler
      </Tick>
      {tempo && (
        <>
          <NumberField
            label="Beats/min"
            value={tempo.perMinute}
            min={10}
            max={600}
            digits={1}
            onChange={(v) => v !== null && set({ ...tempo, perMinute: v }, 'Tempo')}
          />
          <NumberField
            label="First beat"
            value={tempo.first}
            unit="s"
            min={0}
            max={clip.length}
            digits={2}
            step={0.05}
            onChange={(v) => v !== null && set({ ...tempo, first: v }, 'First beat')}
          />
        </>
      )}
    </Group>
  )
}
