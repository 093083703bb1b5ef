/** The shadow of the puppet: none, on the ground, or behind it. */
import { newShadow } from '@marionette/core/staging/shadow'
import type { Shadow } from '@marionette/core/staging/records'
import { setShadow } from '@marionette/core/staging/commands'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { ColourField } from '../../ui/ColourField'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { figureBox } from './figure'

const KINDS = [
  { value: 'none', label: 'None' },
  { value: 'ground', label: 'On the ground' },
  { value: 'behind', label: 'Behind' },
] as const

type Kind = (typeof KINDS)[number]['value']

export function ShadowGroup() {
  const editor = useEditor()
  const shadow = usePuppet((p) => p.shadow)
  const choose = (kind: Kind): void => {
    const { feet, height } = figureBox(openPuppet(editor))
    const next = kind === 'none' ? null : newShadow(kind, feet, height)
    perform(editor, [edit(setShadow, { shadow: next })], next ? 'Put on shadow' : 'Take off shadow')
  }
  return (
    <Group id="shadow" title="Shadow">
      <Segments label="Shadow" value={shadow?.on ?? 'none'} options={KINDS} onChange={choose} />
      {shadow && <ShadowNumbers shadow={shadow} />}
    </Group>
  )
}

interface Row {
  readonly field: 'ground' | 'length' | 'skew' | 'x' | 'y' | 'softness' | 'opacity'
  readonly label: string
  readonly unit: string
  /** What a shown unit is of the value. */
  readonly by: number
  readonly min?: number
  readonly max?: number
  /** Of shadows on the ground alone. */
  readonly isLaid?: boolean
}

const ROWS: readonly Row[] = [
  { field: 'ground', label: 'Ground line', unit: 'px', by: 1, isLaid: true },
  { field: 'length', label: 'Length', unit: '%', by: 100, min: -400, max: 400, isLaid: true },
  { field: 'skew', label: 'Lean', unit: '°', by: 1, min: -80, max: 80, isLaid: true },
  { field: 'x', label: 'Shift across', unit: 'px', by: 1 },
  { field: 'y', label: 'Shift down', unit: 'px', by: 1 },
  { field: 'softness', label: 'Softness', unit: 'px', by: 1, min: 0, max: 200 },
  { field: 'opacity', label: 'Opacity', unit: '%', by: 100, min: 0, max: 100 },
]

function ShadowNumbers({ shadow }: { shadow: Shadow }) {
  const editor = useEditor()
  const set = (change: Partial<Shadow>): void => void perform(editor, [edit(setShadow, { shadow: { ...shadow, ...change } })])
  return (
    <div className="mt-2">
      {ROWS.filter(({ isLaid = false }) => !isLaid || shadow.on === 'ground').map(({ field, label, unit, by, min, max }) => (
        <NumberField
          key={field}
          label={label}
          value={Math.round(shadow[field] * by * 100) / 100}
          unit={unit}
          digits={0}
          {...(min === undefined ? {} : { min })}
          {...(max === undefined ? {} : { max })}
          onChange={(v) => v !== null && set({ [field]: v / by })}
        />
      ))}
      <Field label="Colour">
        <ColourField hideValue label="Colour of the shadow" value={shadow.colour} onChange={(colour) => colour && set({ colour })} />
      </Field>
    </div>
  )
}
