/** A swap: its alternates as pictures, how one goes over into the next, and which stand for which sounds. */
import { counted, listed } from '@marionette/core/kernel/counted'
import { Layers, Plus, Star } from 'lucide-react'
import { useState } from 'react'
import { newAlternateEdits } from '@marionette/core/face/newAlternate'
import { soundsByNames } from '@marionette/core/face/sounds'
import { freshId } from '@marionette/core/kernel/ids'
import type { Part, Puppet, SoundSet, Swap } from '@marionette/core/puppet/schema'
import { VISEME_INFO, VISEME_SETS, VISEMES } from '@marionette/core/speech/visemes'
import { alternatesOf, makeSwap, setSwap, unmakeSwap } from '@marionette/core/alternates/commands'
import { alternateFor } from '@marionette/core/playing/playing'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { makeSwapOfSelection } from './actions'
import { usePicture } from '../../pictures/posePictures'
import { perform, openPuppet, useDocument, usePuppet } from '../../editor/document'
import { seenAt, valueSeen } from '../../editor/poseInverse'
import { setMood, stopPlaying, usePlaying } from './playing'
import { openPanel, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { CueKey } from './CueKey'
import { edit } from '@marionette/core/kernel/command'
import { partChannel } from '@marionette/core/parts/channels'
import { regionAround } from '../../pictures/variants'
import { useEditor, editorState, type Editor } from '../../editor/editor'

const set = (editor: Editor, part: string, swap: Swap, label: string): void => void perform(editor, [edit(setSwap, { part, swap })], label)

interface Own {
  last: {
    readonly parts: Puppet['parts']
    readonly drawings: Puppet['drawings']
    readonly id: string
    readonly region: Bounds | null
  } | null
}

const stateOf = editorState((): Own => ({ last: null }))

/** The region of a swap's pictures, found once for its artwork. */
function regionOf(editor: Editor, id: string): Bounds | null {
  const own = stateOf(editor)
  const puppet = useDocument.of(editor).getState().history?.puppet ?? openPuppet(editor)
  if (own.last?.parts !== puppet.parts || own.last.drawings !== puppet.drawings || own.last.id !== id)
    own.last = { parts: puppet.parts, drawings: puppet.drawings, id, region: puppet.parts[id] ? regionAround(editor, puppet, [id]) : null }
  return own.last.region
}

function AlternatePicture({ swap, number, faded }: { swap: string; number: number; faded?: boolean }) {
  const editor = useEditor()
  const url = usePicture({ [partChannel(swap, 'alternate')]: number }, regionOf(editor, swap), `${swap} ${number}`)
  return (
    <span className={`block aspect-[7/5] overflow-hidden rounded-lg bg-[var(--stage)] ${faded ? 'opacity-45' : ''}`}>
      {url && <img src={url} alt="" draggable={false} className="size-full object-cover" />}
    </span>
  )
}

/** Shows an alternate on the stage, or records that it shows. */
function showAlternate(editor: Editor, swap: string, number: number, name: string): void {
  stopPlaying(editor)
  perform(editor, [seenAt(editor, { [partChannel(swap, 'alternate')]: number })], `Show ${name}`)
}

/** A group that is no swap yet can become one. */
export function MakeSwap({ part }: { part: Part }) {
  const editor = useEditor()
  if (part.content.kind !== 'group' || part.children.length < 1) return null
  return (
    <div className="border-t border-hair py-3">
      <Button small onClick={() => perform(editor, [edit(makeSwap, { group: part.id })], `Make alternates of ${part.name}`)}>
        Make alternates
      </Button>
      <p className="cap mt-1">One of its {part.children.length} parts shows, the others are alternates.</p>
    </div>
  )
}

/** Several parts can become the alternates of one. */
export function SwapOfSelection({ count }: { count: number }) {
  const editor = useEditor()
  return (
    <div className="border-t border-hair py-3">
      <Button small onClick={() => makeSwapOfSelection(editor)}>
        Make a swap of the {count}
      </Button>
      <p className="cap mt-1">One of them shows at a time.</p>
    </div>
  )
}

export function SwapGroup({ part }: { part: Part & { swap: Swap } }) {
  const [list, setList] = useState<'alternates' | 'sounds'>(part.swap.sets.length > 0 ? 'sounds' : 'alternates')
  const alternates = usePuppet((p) => p.parts)
  const count = part.children.length
  return (
    <Group id="swap" title={part.name} aside={<span className="cap">{counted(count, 'alternate')}</span>}>
      <Segments
        label="Alternates or mouth shapes"
        value={list}
        options={[
          { value: 'sounds', label: 'Mouth shapes' },
          { value: 'alternates', label: 'Alternates' },
        ]}
        onChange={setList}
      />
      <div className="mt-2.5">
        {list === 'sounds' ? <Sounds part={part} /> : <Alternates part={part} alternates={alternatesOf({ parts: alternates }, part.id)} />}
      </div>
      <MorphRow part={part} />
    </Group>
  )
}

function Alternates({ part, alternates }: { part: Part & { swap: Swap }; alternates: readonly Part[] }) {
  const editor = useEditor()
  const shown = usePuppet(() => valueSeen(editor, partChannel(part.id, 'alternate')))
  const onion = useSession((s) => s.onion)
  const { swap } = part
  const add = (): void => {
    const from = alternates.find((a) => a.alternate === shown)
    if (from) perform(editor, newAlternateEdits(openPuppet(editor), part.id, from.id, freshId('copy')), `New alternate of ${part.name}`)
  }
  return (
    <>
      <ul aria-label={`Alternates of ${part.name}`} className="grid grid-cols-3 gap-x-2 gap-y-2.5">
        {[...alternates].reverse().map((a) => (
          <li key={a.id} className="group relative min-w-0">
            <button
              type="button"
              aria-label={`Show ${a.name}`}
              aria-pressed={shown === a.alternate}
              className={`block w-full rounded-lg ${shown === a.alternate ? 'shadow-[0_0_0_2px_var(--panel),0_0_0_4px_var(--cord)]' : 'hover:shadow-[0_0_0_2px_var(--twine)]'}`}
              onClick={() => showAlternate(editor, part.id, a.alternate, a.name)}
            >
              <AlternatePicture swap={part.id} number={a.alternate} />
            </button>
            <p className={`mt-1 flex items-center gap-1 text-xs ${shown === a.alternate ? 'font-semibold text-cord' : ''}`}>
              <span className="truncate">{a.name}</span>
              {swap.initial === a.alternate && <Star size={10} className="flex-none text-quiet" aria-label="Shows at rest" />}
              <CueKey channel={partChannel(part.id, 'alternate')} value={a.alternate} name={a.name} />
            </p>
          </li>
        ))}
      </ul>
      <div className="mt-2.5 flex flex-wrap gap-1.5">
        <Button small onClick={add}>
          <Plus size={12} /> New from this
        </Button>
        {shown !== swap.initial && shown > 0 && (
          <Button small onClick={() => set(editor, part.id, { ...swap, initial: shown }, `${part.name} at rest`)}>
            Show this at rest
          </Button>
        )}
        {alternates.length > 1 && (
          <Button
            small
            aria-pressed={onion}
            title="Outlines of the others, to reshape one by"
            onClick={() => useSession.of(editor).setState({ onion: !onion })}
          >
            <Layers size={12} className={onion ? 'text-verdigris' : ''} /> Onion skin
          </Button>
        )}
        {alternates.length > 1 && (
          <Button small onClick={() => openPanel(editor, 'morphing')}>
            Morphing…
          </Button>
        )}
        <Button small onClick={() => perform(editor, [edit(unmakeSwap, { swap: part.id })], `${part.name} a plain group`)}>
          Plain group
        </Button>
      </div>
    </>
  )
}

function Sounds({ part }: { part: Part & { swap: Swap } }) {
  const editor = useEditor()
  const mood = usePlaying((s) => s.mood)
  const parts = usePuppet((p) => p.parts)
  const shown = usePuppet(() => valueSeen(editor, partChannel(part.id, 'alternate')))
  const { swap } = part
  const alternates = alternatesOf({ parts }, part.id)
  const index = Math.max(
    0,
    swap.sets.findIndex((s) => s.name === mood),
  )
  const current = swap.sets[index]
  const addSet = (): void => {
    const name = swap.sets.length === 0 ? 'Everyday' : `Set ${swap.sets.length + 1}`
    const made = current ? { ...current, name } : soundsByNames(alternates, swap.initial, name)
    set(editor, part.id, { ...swap, sets: [...swap.sets, made] }, `Mouth shapes ${name}`)
    setMood(editor, name)
  }
  if (!current)
    return (
      <>
        <p className="cap mb-2">
          It does not speak yet. Each mouth shape gets the alternate whose name tells of it; the others you choose.
        </p>
        <Button small onClick={addSet}>
          Give it mouth shapes
        </Button>
      </>
    )
  const assign = (viseme: (typeof VISEMES)[number], number: number | null): void => {
    const { [viseme]: _, ...others } = current.sounds
    const sounds = number === null ? others : { ...others, [viseme]: number }
    set(
      editor,
      part.id,
      { ...swap, sets: swap.sets.map((s, k) => (k === index ? { ...s, sounds } : s)) },
      `Mouth shape ${VISEME_INFO[viseme].label}`,
    )
  }
  return (
    <>
      <div className="mb-2 flex items-center gap-2">
        <span className="cap">Set</span>
        <Pick
          label="Set of mouth shapes"
          value={current.name}
          options={swap.sets.map((s) => ({ id: s.name, label: s.name }))}
          onChange={(mood) => setMood(editor, mood)}
        />
        <Button small aria-label="Another set" onClick={addSet}>
          <Plus size={12} />
        </Button>
      </div>
      <ul aria-label={`Mouth shapes of ${part.name}`} className="grid grid-cols-3 gap-x-2 gap-y-2">
        {VISEMES.map((viseme) => {
          const own = current.sounds[viseme]
          const number = own ?? alternateFor({ sets: [current] }, viseme) ?? 0
          const isShown = own !== undefined && shown === own
          const { label, example } = VISEME_INFO[viseme]
          return (
            <li key={viseme} className="min-w-0">
              <button
                type="button"
                aria-label={`Show ${label}`}
                title={own === undefined ? 'Not drawn in this set: shown by the nearest that is' : undefined}
                className={`block w-full rounded-lg ${isShown ? 'shadow-[0_0_0_2px_var(--panel),0_0_0_4px_var(--cord)]' : 'hover:shadow-[0_0_0_2px_var(--twine)]'}`}
                onClick={() => showAlternate(editor, part.id, number, label)}
              >
                <AlternatePicture swap={part.id} number={number} faded={own === undefined} />
              </button>
              <Pick
                label={`Alternate for ${label}`}
                value={own === undefined ? '' : String(own)}
                onChange={(id) => assign(viseme, id === '' ? null : Number(id))}
                options={[{ id: '', label: 'Nearest' }, ...alternates.map((a) => ({ id: String(a.alternate), label: a.name }))]}
                own={{
                  className: `mt-0.5 block w-full truncate rounded text-left text-[11px] hover:bg-tint ${isShown ? 'text-cord' : ''}`,
                  content: (
                    <>
                      <b className="font-semibold">{label}</b> <span className="text-quiet">{example}</span>
                    </>
                  ),
                }}
              />
            </li>
          )
        })}
      </ul>
      <p className="cap mt-1.5">
        {VISEMES.filter((v) => current.sounds[v] !== undefined).length} of {VISEMES.length} drawn. {missingWords(current)} Faded ones are
        shown by the nearest. Click a label to choose.
      </p>
    </>
  )
}

/** What the smallest ready set that is not whole still lacks. */
function missingWords({ sounds }: SoundSet): string {
  const size = ([6, 9, 12] as const).find((n) => VISEME_SETS[n].some((v) => sounds[v] === undefined))
  if (size === undefined) return ''
  const missing = VISEME_SETS[size].filter((v) => sounds[v] === undefined).map((v) => VISEME_INFO[v].label)
  return `A set of ${size} lacks ${listed(missing)}.`
}

const HOW = [
  { value: 'morph', label: 'Morph' },
  { value: 'fade', label: 'Fade' },
  { value: 'cut', label: 'Cut' },
] as const

function MorphRow({ part: { id, swap } }: { part: Part & { swap: Swap } }) {
  const editor = useEditor()
  const { morph } = swap
  const change = (by: Partial<typeof morph>): void => set(editor, id, { ...swap, morph: { ...morph, ...by } }, 'Change morphing')
  return (
    <div className="mt-3 border-t border-hair pt-2">
      <Field label="To the next">
        <Segments label="From one to the next" value={morph.how} options={HOW} onChange={(how) => change({ how })} />
      </Field>
      {morph.how !== 'cut' && (
        <NumberField
          label="In"
          value={morph.seconds}
          unit="s"
          step={0.01}
          digits={2}
          min={0}
          max={10}
          onChange={(seconds) => seconds !== null && change({ seconds })}
        />
      )}
    </div>
  )
}
