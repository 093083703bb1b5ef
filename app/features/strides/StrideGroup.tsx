/** How the puppet walks: a gait to begin with, the ring of its legs, numbers to tune while it walks, and what goes into clips. */
import { useState } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { counted } from '@marionette/core/kernel/counted'
import { creatureOf } from '@marionette/core/motions/creature'
import { deleteStride, setStride } from '@marionette/core/strides/commands'
import { gaitsFor, phasesOf } from '@marionette/core/strides/gaits'
import type { Stride, StrideLeg, StrideNature } from '@marionette/core/strides/records'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, perform, updateGesture, useDocument, usePuppet, useRestOf } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { NumberRows, type NumberRow } from '../../panels/NumberRows'
import { Button } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Tick } from '../../ui/Tick'
import { InClip } from './InClip'
import { Ring } from './Ring'
import { SwingDetails } from './SwingDetails'
import { makeStride, stopTrial, takeGait, tryStride, useTrial } from './walking'

export default function StrideGroup() {
  const strides = usePuppet((p) => p.strides)
  return strides.length === 0 ? <Making /> : strides.map((stride) => <Tuning key={stride.id} stride={stride} />)
}

/** A puppet that does not walk yet. */
function Making() {
  const editor = useEditor()
  const puppet = useRestOf()
  const legs = creatureOf(puppet).legs.get('legs')?.length ?? 0
  const gaits = gaitsFor(legs)
  const [gait, setGait] = useState('')
  const chosen = gaits.find(({ id }) => id === gait) ?? gaits[0]
  if (!chosen) return null
  return (
    <Group id="stride" title="Stride">
      <p className="cap mb-1">
        {legs > 0
          ? `${counted(legs, 'leg')} found: they walk by themselves, and feet that stand do not slide.`
          : 'No legs found: it slithers along.'}
      </p>
      <Field label="Gait">
        <Pick label="Gait" value={chosen.id} options={gaits.map(({ id, name }) => ({ id, label: name }))} onChange={setGait} />
      </Field>
      <Button small onClick={() => makeStride(editor, chosen.id)}>
        Let it walk
      </Button>
    </Group>
  )
}

type Row = NumberRow<keyof StrideNature>

const inUnit =
  (unit: string, by: number, digits: number, step: number) =>
  (field: keyof StrideNature, label: string, min: number, max: number): Row => ({ field, label, unit, by, min, max, digits, step })
const px = inUnit('px', 1, 0, 1)
const degrees = inUnit('°', 1, 1, 0.2)
const percent = inUnit('%', 100, 0, 1)

const STEPS: readonly Row[] = [
  px('length', 'Length', 0, 5000),
  px('lift', 'Lift', 0, 2000),
  inUnit('/s', 1, 2, 0.02)('tempo', 'Tempo', 0.02, 10),
  percent('duty', 'Stands', 5, 95),
]
const BODY: readonly Row[] = [
  px('bob', 'Bob', -1000, 1000),
  px('sway', 'Sway', -1000, 1000),
  degrees('lean', 'Lean', -60, 60),
  degrees('hipTurn', 'Hips turn', -60, 60),
  degrees('chestTurn', 'Chest turns', -60, 60),
  percent('swing', 'Swing', 0, 300),
  degrees('roll', 'Foot rolls', 0, 60),
  percent('level', 'Level head', 0, 100),
]

/** The gait whose steps and numbers a stride has; none where it was tuned. */
function gaitNow(stride: Stride): string {
  const isAs = (at: readonly number[]): boolean => stride.legs.every((leg, k) => Math.abs(leg.at - (at[k] ?? 0)) < 1e-3)
  const found = gaitsFor(stride.legs.length).find(
    (gait) => gait.nature.duty === stride.duty && gait.nature.tempo === stride.tempo && isAs(phasesOf(gait, stride.legs.length)),
  )
  return found?.id ?? ''
}

function Tuning({ stride }: { stride: Stride }) {
  const editor = useEditor()
  const view = usePuppet((p) => p.view)
  const isTried = useTrial((s) => s.stride === stride.id)
  const [leg, setLeg] = useState(0)
  const set = (given: Partial<Omit<Stride, 'id'>>, label: string): boolean =>
    perform(editor, [edit(setStride, { id: stride.id, ...given })], label)
  const drag = (given: Partial<Omit<Stride, 'id'>>, label: string): void => {
    if (useDocument.of(editor).getState().gesture === null) beginGesture(editor, label)
    updateGesture(editor, [edit(setStride, { id: stride.id, ...given })])
  }
  const numbers = (rows: readonly Row[]) => (
    <NumberRows rows={rows} of={stride} name={stride.name} editOf={(field, value) => edit(setStride, { id: stride.id, [field]: value })} />
  )
  const way = stride.ways[view] ?? 0
  return (
    <Group id="stride" title="Stride" aside={<span className="cap">{counted(stride.legs.length, 'leg')}</span>}>
      <div className="mb-1">
        <NameInput label="Name of the stride" name={stride.name} onRename={(name) => set({ name }, 'Rename stride')} />
      </div>
      <Field label="Gait">
        <Pick
          label="Gait"
          value={gaitNow(stride)}
          options={gaitsFor(stride.legs.length).map(({ id, name }) => ({ id, label: name }))}
          onChange={(id) => id && takeGait(editor, stride.id, id)}
        />
      </Field>
      {stride.legs.length > 0 && (
        <Ring
          stride={stride}
          leg={leg}
          onChoose={setLeg}
          onDrag={(given) => drag(given, `Steps of ${stride.name}`)}
          onDragEnd={(kept) => endGesture(editor, kept)}
        />
      )}
      <div className="my-1.5 flex flex-wrap gap-1.5">
        <Button
          small
          kind={isTried ? 'ink' : 'line'}
          aria-pressed={isTried}
          onClick={() => (isTried ? stopTrial(editor) : tryStride(editor, stride.id))}
        >
          {isTried ? 'Stop' : 'Try it'}
        </Button>
      </div>
      {numbers(STEPS)}
      <div className="mt-2 border-t border-hair pt-2">{numbers(BODY)}</div>
      <div className="mt-2 border-t border-hair pt-2">
        <NumberField
          label="Goes to"
          value={Math.round(100 * way)}
          unit="%"
          min={-100}
          max={100}
          digits={0}
          onChange={(v) => v !== null && set({ ways: { ...stride.ways, [view]: v / 100 } }, `Way of ${stride.name}`)}
        />
        <p className="cap mb-1">{wayIn(way)}; told for each view.</p>
        <Tick checked={stride.travels} onChange={(travels) => set({ travels }, travels ? 'Along the ground' : 'On the spot')}>
          Along the ground in clips
        </Tick>
      </div>
      <LegDetails stride={stride} at={Math.min(leg, stride.legs.length - 1)} set={set} />
      <SwingDetails stride={stride} />
      <InClip stride={stride} />
      <div className="mt-2">
        <Button small onClick={() => perform(editor, [edit(deleteStride, { id: stride.id })], `Remove ${stride.name}`)}>
          Remove
        </Button>
      </div>
    </Group>
  )
}

/** A way in words. */
function wayIn(way: number): string {
  if (Math.abs(way) < 0.05) return 'Towards whoever looks'
  const side = way > 0 ? 'right' : 'left'
  return Math.abs(way) > 0.95 ? `To the ${side} of the picture` : `Aslant, to the ${side}`
}

const KNEES = [
  { id: '0', label: 'As drawn' },
  { id: '1', label: 'Counter-clockwise' },
  { id: '-1', label: 'Clockwise' },
]

type LegRow = NumberRow<'strength' | 'toeBend'>

const STRENGTH: LegRow = { field: 'strength', label: 'Strength', unit: '%', by: 100, min: 0, max: 300, digits: 0, step: 1 }
const TOES: LegRow = { field: 'toeBend', label: 'Toes bend', unit: '%', by: 100, min: 0, max: 200, digits: 0, step: 1 }

interface LegProps {
  readonly stride: Stride
  readonly at: number
  readonly set: (given: Partial<Omit<Stride, 'id'>>, label: string) => boolean
}

/** The leg that was chosen on the ring. */
function LegDetails({ stride, at, set }: LegProps) {
  const leg = stride.legs[at]
  if (!leg) return null
  const changed = (given: Partial<StrideLeg>): StrideLeg[] => stride.legs.map((one, k) => (k === at ? { ...one, ...given } : one))
  const change = (given: Partial<StrideLeg>, label: string): boolean => set({ legs: changed(given) }, `${label} of ${leg.name}`)
  return (
    <section className="mt-2 border-t border-hair pt-2" aria-label={leg.name}>
      <p className="mb-1 truncate text-xs font-semibold">{leg.name}</p>
      <Field label="Knee">
        <Pick
          label="Knee"
          value={String(leg.knee)}
          options={KNEES}
          onChange={(id) => change({ knee: Number(id) as StrideLeg['knee'] }, 'Knee')}
        />
      </Field>
      <NumberRows
        rows={leg.toe === null ? [STRENGTH] : [STRENGTH, TOES]}
        of={leg}
        name={leg.name}
        editOf={(field, value) => edit(setStride, { id: stride.id, legs: changed({ [field]: value }) })}
      />
      <Tick checked={leg.touches} onChange={(touches) => change({ touches }, touches ? 'Ground' : 'Air')}>
        Stands on the ground
      </Tick>
      <div className="mt-1">
        <Button
          small
          aria-label={`Leave out ${leg.name}`}
          onClick={() => set({ legs: stride.legs.filter((_, k) => k !== at) }, `Leave out ${leg.name}`)}
        >
          Leave it out
        </Button>
      </div>
    </section>
  )
}
