/** What a part follows: nothing of its own, one bone whole, or several blended. */
import { useEffect, useRef, useState } from 'react'
import { proposeBones } from '@marionette/core/binds/autoWeights'
import { partsBelow } from '@marionette/core/parts/tree'
import { bindAttached, bindWhole, isOutOfDate, setBindMode, unbind } from '@marionette/core/binds/commands'
import { boneOptions } from '../../panels/tree'
import { openPuppet, perform, useRestOf } from '../../editor/document'
import { useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { chainThrough } from '../bones/boneMaking'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { WeightTools } from './WeightTools'
import { useWeighing, type Weighing } from './weighing'
import { edit } from '@marionette/core/kernel/command'
import type { Bind } from '@marionette/core/binds/records'
import { bonesInOrder } from '@marionette/core/bones/tree'
import { bindHolder } from '@marionette/core/binds/tree'
import { useEditor, type Editor } from '../../editor/editor'
import { nth, recordOf } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'
import { Box } from '../../ui/Box'

type Kind = 'none' | 'whole' | 'blended' | 'attached'

const KINDS = [
  { value: 'none', label: 'None' },
  { value: 'whole', label: 'Rigid' },
  { value: 'blended', label: 'Smooth' },
  { value: 'attached', label: 'On part' },
] as const

const MODES = [
  { value: 'volume', label: 'Keeps its breadth' },
  { value: 'linear', label: 'Plain blend' },
] as const

export function BindGroup({ id }: { id: string }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const bind = puppet.parts[id]?.bind ?? null
  const [asked, setAsked] = useState<{ part: string; kind: Kind } | null>(null)
  const weighing = useWeighing(id)
  const hasBones = puppet.skeleton.length > 0
  const kind: Kind = asked?.part === id ? asked.kind : (bind?.kind ?? 'none')
  const holder = bind ? null : bindHolder(puppet, id)
  const choose = (next: Kind): void => {
    setAsked({ part: id, kind: next })
    if (next === 'none' && bind) perform(editor, [edit(unbind, { parts: [id] })])
    if (next === 'whole' && bind?.kind !== 'whole') bindTo(editor, id, nth(puppet.skeleton, 0))
    // Whoever chooses Smooth has said enough: the proposed bones bend the part from then on.
    const proposed = next === 'blended' && bind?.kind !== 'blended' ? proposeBones(openPuppet(editor), id) : []
    if (proposed.length > 0) void weighing.weigh(proposed)
  }
  return (
    <Group id="bind" title="Bind">
      {hasBones ? (
        <>
          <Segments label="Bind" value={kind} options={KINDS} onChange={choose} />
          <div className="mt-2">
            {kind === 'none' && (
              <p className="text-xs text-quiet">{holder ? `Moves with ${holder.name}, which it is part of.` : 'No bone moves it.'}</p>
            )}
            {kind === 'whole' && bind?.kind === 'whole' && (
              <Field label="Follows">
                <Pick
                  label="Bone that it follows"
                  value={bind.bone}
                  options={boneOptions(puppet)}
                  onChange={(bone) => bindTo(editor, id, bone)}
                />
              </Field>
            )}
            {kind === 'none' && <ChainMaking id={id} />}
            {kind === 'attached' && <AttachedBind key={`on-${id}`} id={id} bind={bind} />}
            {kind === 'blended' && <BlendedBind key={id} id={id} bind={bind} weighing={weighing} />}
          </div>
        </>
      ) : (
        <>
          <p className="text-xs text-quiet">There are no bones yet. Draw some in Bones, or lay a chain through this part.</p>
          <ChainMaking id={id} />
        </>
      )}
    </Group>
  )
}

const bindTo = (editor: Editor, part: string, bone: string): void => {
  const { parts, bones } = openPuppet(editor)
  perform(editor, [edit(bindWhole, { parts: [part], bone })], `Bind ${recordOf(parts, part).name} to ${recordOf(bones, bone).name}`)
}

/** Bones through the middle of a part that nothing moves yet. */
function ChainMaking({ id }: { id: string }) {
  const editor = useEditor()
  const [bones, setBones] = useState(4)
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <NumberField label="Bones" value={bones} min={1} max={32} digits={0} onChange={(v) => v !== null && setBones(v)} />
      <Button small onClick={() => void chainThrough(editor, id, bones)}>
        Chain through it
      </Button>
    </div>
  )
}

const HOWS = [
  { value: 'carried', label: 'Carried' },
  { value: 'pivoting', label: 'Pivoting' },
  { value: 'fused', label: 'Fused' },
] as const

const HOW_HELP: Record<(typeof HOWS)[number]['value'], string> = {
  carried: 'Goes along rigidly with the spot under its pivot.',
  pivoting: 'Its pivot goes with the spot; it keeps its own turn.',
  fused: 'Bends as if both were one piece.',
}

/** Hangs a part on another one, and says how it goes along. */
function AttachedBind({ id, bind }: { id: string; bind: Bind | null }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const attached = bind?.kind === 'attached' ? bind : null
  const inside = new Set(partsBelow(puppet, id).map((p) => p.id))
  const options = partsBelow(puppet, puppet.root)
    .filter((p) => !inside.has(p.id) && p.id !== puppet.root)
    .map((p) => ({ id: p.id, label: p.name }))
  const hang = (to: string, how = attached?.how ?? 'fused'): void => {
    const { name } = partOf(puppet, id)
    perform(editor, [edit(bindAttached, { parts: [id], to, how })], `Hang ${name} on ${partOf(puppet, to).name}`)
  }
  return (
    <>
      <Field label="Hangs on">
        <Pick
          label="Part that it hangs on"
          value={attached?.to ?? ''}
          options={[{ id: '', label: 'Choose a part' }, ...options]}
          onChange={(to) => to && hang(to)}
        />
      </Field>
      {attached && (
        <>
          <Segments label="How it goes along" value={attached.how} options={HOWS} onChange={(how) => hang(attached.to, how)} />
          <p className="mt-1 text-xs text-quiet">{HOW_HELP[attached.how]}</p>
        </>
      )}
    </>
  )
}

function BlendedBind({ id, bind, weighing }: { id: string; bind: Bind | null; weighing: Weighing }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const { progress } = weighing
  const blended = bind?.kind === 'blended' ? bind : null
  const [proposed] = useState(() => (blended ? [] : proposeBones(openPuppet(editor), id)))
  // What was ticked and is not weighed yet.
  const [ticked, setTicked] = useState<readonly string[] | null>(null)
  const chosen = ticked ?? blended?.bones ?? proposed
  const isStale = blended !== null && isOutOfDate(puppet, blended)
  const isSame = blended !== null && blended.bones.length === chosen.length && blended.bones.every((b) => chosen.includes(b))
  // Those that bend it come first; the order holds still while boxes are ticked.
  const [first] = useState(chosen)
  const listed = bonesInOrder(puppet).sort((a, b) => Number(first.includes(b.id)) - Number(first.includes(a.id)))
  const toggle = (bone: string): void => setTicked(chosen.includes(bone) ? chosen.filter((b) => b !== bone) : [...chosen, bone])
  const weigh = async (): Promise<void> => {
    if (await weighing.weigh(chosen)) setTicked(null)
  }
  useNothingLost(editor, ticked !== null && !isSame && chosen.length > 0, partOf(puppet, id).name, weigh)
  return (
    <>
      <ul className="scroll-thin max-h-44 overflow-y-auto" aria-label="Bones that bend it">
        {listed.map((bone) => (
          <li key={bone.id}>
            <label
              className="flex h-7 items-center gap-2 rounded-md px-1 hover:bg-tint"
              onMouseEnter={() => useSession.of(editor).setState({ hover: { kind: 'bone', ids: [bone.id] } })}
            >
              <Box small checked={chosen.includes(bone.id)} onChange={() => toggle(bone.id)} />
              <i className="size-2.5 rounded-full border-2" style={{ borderColor: `var(--chain-${bone.colour})` }} />
              <span className="truncate">{bone.name}</span>
            </label>
          </li>
        ))}
      </ul>
      {blended && (
        <div className="mt-2">
          <Segments
            label="How it bends"
            value={blended.mode}
            options={MODES}
            onChange={(mode) => perform(editor, [edit(setBindMode, { part: id, mode })])}
          />
        </div>
      )}
      {isStale && <p className="mt-2 text-xs text-brass-ink">Its bones were moved since the weights were made.</p>}
      <div className="mt-2 flex items-center gap-2">
        {progress === null ? (
          <Button kind={isStale || !isSame ? 'ink' : 'line'} small disabled={chosen.length === 0} onClick={() => void weigh()}>
            {blended ? 'Weigh again' : 'Bind and weigh'}
          </Button>
        ) : (
          <>
            <progress className="h-1.5 flex-1" value={progress} aria-label="Weighing" />
            <Button small onClick={weighing.cancel}>
              Cancel
            </Button>
          </>
        )}
        {blended && progress === null && <span className="cap">{blended.field.vertices.length / 2} points</span>}
      </div>
      {blended && <WeightTools id={id} />}
    </>
  )
}

/** Ticks that were not weighed when the part is left are said, with the way to have them after all. */
function useNothingLost(editor: Editor, isPending: boolean, name: string, weigh: () => Promise<void>): void {
  const latest = useRef({ isPending, weigh })
  useEffect(() => {
    latest.current = { isPending, weigh }
  })
  useEffect(
    () => () => {
      if (!latest.current.isPending) return
      const { weigh: take } = latest.current
      editor.notify(`The bones ticked for ${name} were not weighed.`, { action: { label: 'Weigh', onClick: () => void take() } })
    },
    [editor, name],
  )
}
