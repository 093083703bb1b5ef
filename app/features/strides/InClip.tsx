/** What of a stride goes into the open clip: from where on it walks, where it stops and turns, and all of it as keys. */
import { useState } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { setStride } from '@marionette/core/strides/commands'
import type { Stride } from '@marionette/core/strides/records'
import { useEditor } from '../../editor/editor'
import { perform, usePuppet } from '../../editor/document'
import { Field } from '../../panels/Group'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { useClip } from '../clips/acting'
import { BakeToKeys } from '../clips/BakeToKeys'
import { bakeStride, keyPace, tempoForLoop, turnTo } from './walking'

export function InClip({ stride }: { stride: Stride }) {
  const editor = useEditor()
  const clip = useClip()
  const views = usePuppet((p) => p.views)
  const [pace, setPace] = useState(1)
  if (!clip) return <p className="cap mt-2">In Rehearse it is told to walk, stop and turn in clips.</p>
  const seconds = clip.range ? clip.range.to - clip.range.from : clip.length
  const tempo = tempoForLoop(stride.tempo, seconds)
  return (
    <section className="mt-2 border-t border-hair pt-2" aria-label="In the clip">
      <NumberField
        label="Pace"
        value={Math.round(100 * pace)}
        unit="%"
        min={-300}
        max={300}
        digits={0}
        onChange={(v) => v !== null && setPace(v / 100)}
      />
      <div className="my-1 flex flex-wrap gap-1.5">
        <Button small onClick={() => keyPace(editor, stride.id, pace)}>
          Walk from here
        </Button>
        <Button small onClick={() => keyPace(editor, stride.id, 0)}>
          Stop here
        </Button>
      </div>
      {views.length > 1 && (
        <Field label="Turn to">
          <Pick
            label="Turn to"
            value=""
            options={views.map(({ id, name }) => ({ id, label: name }))}
            onChange={(id) => id && turnTo(editor, id)}
          />
        </Field>
      )}
      <BakeToKeys onBake={(tolerance) => bakeStride(editor, stride.id, tolerance)}>
        <Button
          small
          disabled={Math.abs(tempo - stride.tempo) < 1e-9}
          onClick={() => perform(editor, [edit(setStride, { id: stride.id, tempo })], 'Fit strides to the loop')}
        >
          Fit to the loop
        </Button>
      </BakeToKeys>
    </section>
  )
}
