/** What swings in time with the legs, one at a time. */
import { useState } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { setStride } from '@marionette/core/strides/commands'
import type { Stride, StrideSwing } from '@marionette/core/strides/records'
import { useEditor } from '../../editor/editor'
import { perform } from '../../editor/document'
import { Field } from '../../panels/Group'
import { NumberRows, type NumberRow } from '../../panels/NumberRows'
import { Button } from '../../ui/Button'
import { Pick } from '../../ui/Pick'

type Row = NumberRow<'turn' | 'follow' | 'bend' | 'at' | 'lag' | 'times'>

const ROWS: readonly Row[] = [
  { field: 'turn', label: 'Turns', unit: '°', by: 1, min: -180, max: 180, digits: 0, step: 1 },
  { field: 'follow', label: 'Follows', unit: '%', by: 100, min: -200, max: 200, digits: 0, step: 1 },
  { field: 'bend', label: 'Bends', unit: '°', by: 1, min: -180, max: 180, digits: 0, step: 1 },
  { field: 'at', label: 'In front at', unit: '%', by: 100, min: 0, max: 100, digits: 0, step: 1 },
  { field: 'lag', label: 'Tip is late', unit: '%', by: 100, min: -800, max: 800, digits: 0, step: 1 },
  { field: 'times', label: 'Times', unit: '×', by: 1, min: 1, max: 8, digits: 0, step: 1 },
]

export function SwingDetails({ stride }: { stride: Stride }) {
  const editor = useEditor()
  const [chosen, setChosen] = useState('')
  const names = stride.swings.map(({ name, bones }) => ({ id: bones[0] ?? '', label: name }))
  const swing = stride.swings.find(({ bones }) => bones[0] === chosen) ?? stride.swings[0]
  if (!swing) return null
  const changed = (given: Partial<StrideSwing>) =>
    edit(setStride, { id: stride.id, swings: stride.swings.map((one) => (one === swing ? { ...one, ...given } : one)) })
  const out = (): boolean =>
    perform(editor, [edit(setStride, { id: stride.id, swings: stride.swings.filter((one) => one !== swing) })], `Leave out ${swing.name}`)
  return (
    <section className="mt-2 border-t border-hair pt-2" aria-label="What swings in time">
      <Field label="In time">
        <Pick label="In time" value={swing.bones[0] ?? ''} options={names} onChange={setChosen} />
      </Field>
      <NumberRows
        rows={ROWS}
        of={swing}
        name={swing.name}
        editOf={(field, value) => changed({ [field]: field === 'times' ? Math.max(1, Math.round(value)) : value })}
      />
      <div className="mt-1">
        <Button small aria-label={`Leave out ${swing.name}`} onClick={out}>
          Leave it out
        </Button>
      </div>
    </section>
  )
}
