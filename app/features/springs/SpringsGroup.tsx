/** The springs of the selected bone: a character to begin with, three numbers in people's words, the curve, and a shaker to see it all. */
import { lazy, Suspense, useState } from 'react'
import { edit } from '@marionette/core/kernel/command'
import { counted } from '@marionette/core/kernel/counted'
import { deleteSprings, setSprings } from '@marionette/core/springs/commands'
import { SPRING_CHARACTERS } from '@marionette/core/springs/characters'
import type { SpringGroup, SpringNature } from '@marionette/core/springs/records'
import type { SwingNature } from '@marionette/core/springs/swing'
import { useEditor } from '../../editor/editor'
import { beginGesture, endGesture, perform, updateGesture, useDocument, usePuppet, useRestOf } from '../../editor/document'
import { Field, Group } from '../../panels/Group'
import { NumberRows, type NumberRow } from '../../panels/NumberRows'
import { Button, Hint } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Tick } from '../../ui/Tick'
import { useClip } from '../clips/acting'
import { BakeToKeys } from '../clips/BakeToKeys'
import { bakeGroup, freezeGroup } from './baking'
import { bonesToSwing, makeSprings, springsOfBone, swingAlone } from './making'
import { SHAKES, shake, useShaker } from './shaker'

const SwingPlot = lazy(() => import('./SwingPlot'))

const CHARACTERS = SPRING_CHARACTERS.map(({ id, name, like }) => ({ id, label: name, like }))

export function SpringsGroup({ ids }: { ids: readonly string[] }) {
  const springs = usePuppet((p) => p.springs)
  const spring = springsOfBone({ springs }, ids[0] ?? '')
  return spring ? <Tuning key={spring.id} spring={spring} /> : <Making ids={ids} />
}

/** A bone that does not swing yet. */
function Making({ ids }: { ids: readonly string[] }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const [character, setCharacter] = useState('hair')
  const like = CHARACTERS.find(({ id }) => id === character)?.like
  const count = bonesToSwing(puppet, ids).length
  return (
    <Group id="springs" title="Springs">
      <p className="cap mb-1">What swings answers by itself to what carries it: hair, scarves, ears, tails, bags.</p>
      <Field label="Character">
        <Pick label="Character" value={character} options={CHARACTERS} onChange={setCharacter} />
      </Field>
      <p className="cap mb-1.5">{like}</p>
      <Button small onClick={() => makeSprings(editor, ids, character)}>
        Let {counted(count, 'bone')} swing
      </Button>
    </Group>
  )
}

type Row = NumberRow<keyof SpringNature>

const MAIN: readonly Row[] = [
  { field: 'throw', label: 'Throw', unit: '%', by: 100, min: 0, max: 300, digits: 0, step: 1 },
  { field: 'tempo', label: 'Tempo', unit: '/s', by: 1, min: 0, max: 20, digits: 2, step: 0.05 },
  { field: 'settle', label: 'Settle', unit: 's', by: 1, min: 0.05, max: 30, digits: 2, step: 0.02 },
]
const MORE: readonly Row[] = [
  { field: 'root', label: 'At the root', unit: '%', by: 100, min: 0, max: 100, digits: 0, step: 1 },
  { field: 'bend', label: 'Grows', unit: '×', by: 1, min: 0.2, max: 5, digits: 1, step: 0.1 },
  { field: 'gravity', label: 'Gravity', unit: '%', by: 100, min: -200, max: 200, digits: 0, step: 1 },
  { field: 'wind', label: 'Wind', unit: '%', by: 100, min: 0, max: 300, digits: 0, step: 1 },
  { field: 'drag', label: 'Air', unit: '%', by: 100, min: 0, max: 100, digits: 0, step: 1 },
  { field: 'stretch', label: 'Stretch', unit: '%', by: 100, min: 0, max: 100, digits: 0, step: 1 },
]

/** The character whose numbers a group has; none where they were tuned. */
const characterNow = (spring: SpringGroup): string =>
  SPRING_CHARACTERS.find(({ nature }) => Object.entries(nature).every(([field, v]) => spring[field as keyof SpringNature] === v))?.id ?? ''

function Tuning({ spring }: { spring: SpringGroup }) {
  const editor = useEditor()
  // As it was before the last change, to compare with.
  const [before, setBefore] = useState<SwingNature | null>(null)
  const natureOf = ({ throw: thrown, tempo, settle }: SwingNature): SwingNature => ({ throw: thrown, tempo, settle })
  const set = (given: Partial<Omit<SpringGroup, 'id'>>, label?: string): boolean => {
    setBefore(natureOf(spring))
    return perform(editor, [edit(setSprings, { id: spring.id, ...given })], label)
  }
  const drag = (given: Partial<SpringNature>, label: string): void => {
    if (useDocument.of(editor).getState().gesture === null) {
      setBefore(natureOf(spring))
      beginGesture(editor, label)
    }
    updateGesture(editor, [edit(setSprings, { id: spring.id, ...given })])
  }
  const numbers = (rows: readonly Row[]) => (
    <NumberRows
      rows={rows}
      of={spring}
      name={spring.name}
      editOf={(field, value) => edit(setSprings, { id: spring.id, [field]: value })}
      onBegin={() => setBefore(natureOf(spring))}
    />
  )
  const take = (id: string): void => {
    const nature = SPRING_CHARACTERS.find((c) => c.id === id)?.nature
    if (nature) set(nature, `Character of ${spring.name}`)
  }
  return (
    <Group id="springs" title="Springs" aside={<span className="cap">{counted(spring.bones.length, 'bone')}</span>}>
      <div className="mb-1 flex items-center gap-2">
        <i className="size-2.5 flex-none rounded-full" style={{ background: spring.colour }} />
        <div className="min-w-0 flex-1">
          <NameInput label="Name of the springs" name={spring.name} onRename={(name) => set({ name }, 'Rename springs')} />
        </div>
      </div>
      <Field label="Character">
        <Pick label="Character" value={characterNow(spring)} options={CHARACTERS} onChange={take} />
      </Field>
      {numbers(MAIN)}
      <Suspense fallback={<div style={{ height: 128 }} />}>
        <SwingPlot
          nature={spring}
          before={before}
          onDrag={(nature) => drag(natureOf(nature), `Swing of ${spring.name}`)}
          onDragEnd={(kept) => endGesture(editor, kept)}
        />
      </Suspense>
      <Shaker spring={spring.id} />
      <div className="mt-2 border-t border-hair pt-2">{numbers(MORE)}</div>
      <Tick checked={spring.collides} onChange={(collides) => set({ collides }, 'Collisions of springs')}>
        Keeps out of bodies
      </Tick>
      {spring.collides && (
        <NumberField
          label="Girth"
          value={spring.girth}
          unit="px"
          min={0}
          max={500}
          digits={0}
          onChange={(v) => v !== null && set({ girth: v }, 'Girth of springs')}
        />
      )}
      <Tick checked={spring.muted} onChange={(muted) => set({ muted }, muted ? 'Mute springs' : 'Let springs swing')}>
        Muted
      </Tick>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button small onClick={() => swingAlone(editor, spring.id)}>
          Alone
        </Button>
        <Button small onClick={() => perform(editor, [edit(deleteSprings, { id: spring.id })], `Remove ${spring.name}`)}>
          Remove
        </Button>
      </div>
      <Baking spring={spring} />
    </Group>
  )
}

function Shaker({ spring }: { spring: string }) {
  const editor = useEditor()
  const now = useShaker((s) => s.id)
  return (
    <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label="Shaker">
      {SHAKES.map(({ id, label, hint }) => (
        <Hint key={id} label={hint} side="top">
          <button
            type="button"
            aria-pressed={now === id}
            className={`rounded-md px-1.5 text-xs leading-5 ${now === id ? 'bg-ink text-panel' : 'bg-tint hover:text-ink'}`}
            onClick={() => shake(editor, id, spring)}
          >
            {label}
          </button>
        </Hint>
      ))}
    </div>
  )
}

/** In a clip: the motion as keys. */
function Baking({ spring }: { spring: SpringGroup }) {
  const editor = useEditor()
  if (!useClip()) return null
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <BakeToKeys onBake={(tolerance) => bakeGroup(editor, spring.id, tolerance)}>
        <Button small onClick={() => freezeGroup(editor, spring.id)}>
          Freeze as posed
        </Button>
      </BakeToKeys>
    </div>
  )
}
