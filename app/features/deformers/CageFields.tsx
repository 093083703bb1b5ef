/** A cage in numbers: its form from presets or kept by hand, its box, its cells. */
import { useState } from 'react'
import { CAGE_PRESETS, inBox, presetOf, withPreset } from '@marionette/core/deformers/cagePresets'
import { handlesOf, type Cage } from '@marionette/core/puppet/schema'
import { toRadians } from '@marionette/core/maths/geometry/affine'
import { deletePreset, savePreset } from '@marionette/core/deformers/commands'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { Field } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { edit } from '@marionette/core/kernel/command'
import { channelAddress } from '@marionette/core/kernel/channel'
import { useEditor, type Editor } from '../../editor/editor'

const ways = [
  { value: 'smooth', label: 'Smooth' },
  { value: 'straight', label: 'Straight' },
] as const

/** Moves that handles are posed by, along the axes of the lattice. */
function posedMoves(editor: Editor, cage: Cage): number[] {
  const { pose } = openPuppet(editor)
  const c = Math.cos(toRadians(cage.angle))
  const s = Math.sin(toRadians(cage.angle))
  return handlesOf(cage).flatMap((id) => {
    const x = pose[channelAddress('handle', id, 'x')] ?? 0
    const y = pose[channelAddress('handle', id, 'y')] ?? 0
    return [c * x - s * y, s * x + c * y]
  })
}

export function CageFields({ cage, onChange }: { cage: Cage; onChange: (cage: Cage, label?: string) => void }) {
  const editor = useEditor()
  const saved = usePuppet((p) => p.presets)
  const [name, setName] = useState('')
  const options = [
    { id: '', label: 'Choose a form…' },
    { id: 'flat', label: 'Flat' },
    ...CAGE_PRESETS.map((p) => ({ id: `built/${p.name}`, label: p.name })),
    ...(saved ?? []).map((p) => ({ id: `own/${p.name}`, label: `${p.name} (kept)` })),
  ]
  const choose = (id: string): void => {
    if (id === 'flat') return onChange({ ...cage, form: cage.form.map(() => 0) }, 'Flat cage')
    const [kind, called] = [id.slice(0, id.indexOf('/')), id.slice(id.indexOf('/') + 1)]
    const preset = (kind === 'own' ? (saved ?? []) : CAGE_PRESETS).find((p) => p.name === called)
    if (preset) onChange(withPreset(cage, preset), `Form ${called}`)
  }
  const cells = (columns: number, rows: number): void =>
    onChange({ ...cage, columns, rows, form: new Array<number>(2 * (columns + 1) * (rows + 1)).fill(0) }, 'Change cells of the cage')
  const keep = (): void => {
    const wanted = name.trim()
    if (
      wanted &&
      perform(editor, [edit(savePreset, { preset: presetOf(cage, wanted, posedMoves(editor, cage)) })], `Keep the form ${wanted}`)
    )
      setName('')
  }
  const box = (key: keyof Cage['box'], v: number | null): void => {
    if (v !== null) onChange(inBox(cage, { ...cage.box, [key]: v }), 'Move cage')
  }
  return (
    <>
      <Field label="Form">
        <Pick label="Form of the cage" value="" options={options} onChange={choose} />
      </Field>
      <NumberField
        label="Turned"
        value={cage.angle}
        unit="°"
        rest={0}
        onChange={(v) => v !== null && onChange({ ...cage, angle: v }, 'Turn cage')}
      />
      <Pair>
        <NumberField label="Cells" value={cage.columns} min={1} max={24} digits={0} onChange={(v) => v !== null && cells(v, cage.rows)} />
        <NumberField
          label="Rows of cells"
          hideLabel
          value={cage.rows}
          min={1}
          max={24}
          digits={0}
          onChange={(v) => v !== null && cells(cage.columns, v)}
        />
      </Pair>
      <Field label="Between">
        <Segments
          label="Between points"
          value={cage.smooth ? 'smooth' : 'straight'}
          options={ways}
          onChange={(v) => onChange({ ...cage, smooth: v === 'smooth' })}
        />
      </Field>
      <Pair>
        <NumberField label="Corner" value={cage.box.x} unit="x" onChange={(v) => box('x', v)} />
        <NumberField label="Corner y" hideLabel value={cage.box.y} unit="y" onChange={(v) => box('y', v)} />
      </Pair>
      <Pair>
        <NumberField label="Size" value={cage.box.width} unit="w" min={1} onChange={(v) => box('width', v)} />
        <NumberField label="Height" hideLabel value={cage.box.height} unit="h" min={1} onChange={(v) => box('height', v)} />
      </Pair>
      <div className="mt-1 flex items-center gap-1.5">
        <input
          aria-label="Name of the form to keep"
          placeholder="Keep this form as…"
          className="h-7 min-w-0 flex-1 rounded-lg bg-tint px-2 outline-none focus:shadow-[0_0_0_2px_var(--cord)]"
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') keep()
          }}
        />
        <Button small onClick={keep}>
          Keep
        </Button>
      </div>
      {(saved ?? []).length > 0 && (
        <div className="mt-1">
          <Pick
            label="Forget a kept form"
            value=""
            options={[{ id: '', label: 'Forget a kept form…' }, ...(saved ?? []).map((p) => ({ id: p.name, label: p.name }))]}
            onChange={(called) => called && perform(editor, [edit(deletePreset, { name: called })], `Forget the form ${called}`)}
          />
        </div>
      )}
    </>
  )
}

const Pair = ({ children }: { children: React.ReactNode }) => <div className="flex items-center gap-2">{children}</div>
