/** A swap: its alternates as pictures, how one goes over into the next, and which stand for which sounds. */
import { Layers, Plus, Star } from 'lucide-react'
import { useState } from 'react'
import { newAlternateEdits } from '@marionette/core/artwork/newAlternate'
import { soundsByNames } from '@marionette/core/artwork/sounds'
import { partChannel } from '@marionette/core/document/channels'
import { freshId } from '@marionette/core/document/ids'
import type { Part, Puppet, SoundSet, Swap } from '@marionette/core/document/schema'
import { VISEME_INFO, VISEME_SETS, VISEMES } from '@marionette/core/document/visemes'
import { edit } from '@marionette/core/edit/command'
import { alternatesOf, makeSwap, setSwap, unmakeSwap } from '@marionette/core/edit/swaps'
import { alternateFor } from '@marionette/core/motion/playing'
import type { Bounds } from '@marionette/core/geometry/bounds'
import { Field, Group, Pick } from '../details/Group'
import { makeSwapOfSelection } from '../commands/faceActions'
import { usePicture } from '../roster/posePictures'
import { perform, openPuppet, useDocument, usePuppet } from '../state/document'
import { seenAt, valueSeen } from '../state/own'
import { setMood, stopPlaying, usePlaying } from '../state/playing'
import { openPanel, useSession } from '../state/session'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Segments } from '../ui/Segments'
import { CueKey } from './CueKey'
import { regionAround } from './pictures'

const set = (part: string, swap: Swap, label: string): void => void perform([edit(setSwap, { part, swap })], label)

let last: {
  readonly parts: Puppet['parts']
  readonly drawings: Puppet['drawings']
  readonly id: string
  readonly region: Bounds | null
} | null = null
/** The region of a swap's pictures, found once for its artwork. */
function regionOf(id: string): Bounds | null {
  const puppet = useDocument.getState().history?.puppet ?? openPuppet()
  if (last?.parts !== puppet.parts || last.drawings !== puppet.drawings || last.id !== id)
    last = { parts: puppet.parts, drawings: puppet.drawings, id, region: puppet.parts[id] ? regionAround(puppet, [id]) : null }
  return last.region
}

function AlternatePicture({ swap, number, faded }: { swap: string; number: number; faded?: boolean }) {
  const url = usePicture({ [partChannel(swap, 'alternate')]: number }, regionOf(swap), `${swap} ${number}`)
  return (
    <span className={`block aspect-[7/5] overflow-hidden rounded-lg bg-[var(--stage)] ${faded ? 'opacity-45' : ''}`}>
      {url && <img src={url} alt="" draggable={false} className="size-full object-cover" />}
    </span>
  )
}

/** Shows an alternate on the stage, or records that it shows. */
function showAlternate(swap: string, number: number, name: string): void {
  stopPlaying()
  perform([seenAt({ [partChannel(swap, 'alternate')]: number })], `Show ${name}`)
}

/** A group that is no swap yet can become one. */
export function MakeSwap({ part }: { part: Part }) {
  if (part.content.kind !== 'group' || part.children.length < 1) return null
  return (
    <div className="border-t border-hair py-3">
      <Button small onClick={() => perform([edit(makeSwap, { group: part.id })], `Make ${part.name} a swap`)}>
        Make it a swap
      </Button>
      <p className="cap mt-1">One of its {part.children.length} parts shows, the others are alternates.</p>
    </div>
  )
}

/** Several parts can become the alternates of one. */
export function SwapOfSelection({ count }: { count: number }) {
  return (
    <div className="border-t border-hair py-3">
      <Button small onClick={makeSwapOfSelection}>
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
    <Group id="swap" title={part.name} aside={<span className="cap">{count === 1 ? '1 alternate' : `${count} alternates`}</span>}>
      <Segments
        label="Alternates or sounds"
        value={list}
        options={[
          { value: 'sounds', label: 'Sounds' },
          { value: 'alternates', label: 'Alternates' },
        ]}
        onChange={setList}
      />
      <div className="mt-2.5">
        {list === 'sounds' ? <Sounds part={part} /> : <Alternates part={part} alternates={alternatesOf({ parts: alternates }, part.id)} />}
      </div>
      <MeltRow part={part} />
    </Group>
  )
}

function Alternates({ part, alternates }: { part: Part & { swap: Swap }; alternates: readonly Part[] }) {
  const shown = usePuppet(() => valueSeen(partChannel(part.id, 'alternate')))
  const onion = useSession((s) => s.onion)
  const { swap } = part
  const add = (): void => {
    const from = alternates.find((a) => a.alternate === shown)
    if (from) perform(newAlternateEdits(openPuppet(), part.id, from.id, freshId('copy')), `New alternate of ${part.name}`)
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
              onClick={() => showAlternate(part.id, a.alternate, a.name)}
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
          <Button small onClick={() => set(part.id, { ...swap, initial: shown }, `${part.name} at rest`)}>
            Show this at rest
          </Button>
        )}
        {alternates.length > 1 && (
          <Button
            small
            aria-pressed={onion}
            title="Outlines of the others, to reshape one by"
            onClick={() => useSession.setState({ onion: !onion })}
          >
            <Layers size={12} className={onion ? 'text-verdigris' : ''} /> Onion skin
          </Button>
        )}
        {alternates.length > 1 && (
          <Button small onClick={() => openPanel('melting')}>
            Melting…
          </Button>
        )}
        <Button small onClick={() => perform([edit(unmakeSwap, { swap: part.id })], `${part.name} a plain group`)}>
          Plain group
        </Button>
      </div>
    </>
  )
}

function Sounds({ part }: { part: Part & { swap: Swap } }) {
  const mood = usePlaying((s) => s.mood)
  const parts = usePuppet((p) => p.parts)
  const shown = usePuppet(() => valueSeen(partChannel(part.id, 'alternate')))
  const { swap } = part
  const alternates = alternatesOf({ parts }, part.id)
  const index = Math.max(
    0,
    swap.sets.findIndex((s) => s.name === mood),
  )
  const current = swap.sets[index]
  const addSet = (): void => {
    const name = swap.sets.length === 0 ? 'Everyday' : `Mood ${swap.sets.length + 1}`
    const made = current ? { ...current, name } : soundsByNames(alternates, swap.initial, name)
    set(part.id, { ...swap, sets: [...swap.sets, made] }, `Sounds ${name}`)
    setMood(name)
  }
  if (!current)
    return (
      <>
        <p className="cap mb-2">It does not speak yet. Each sound gets the alternate whose name tells of it; the others you choose.</p>
        <Button small onClick={addSet}>
          Give it sounds
        </Button>
      </>
    )
  const assign = (viseme: (typeof VISEMES)[number], number: number | null): void => {
    const { [viseme]: _, ...others } = current.sounds
    const sounds = number === null ? others : { ...others, [viseme]: number }
    set(part.id, { ...swap, sets: swap.sets.map((s, k) => (k === index ? { ...s, sounds } : s)) }, `Sound ${VISEME_INFO[viseme].label}`)
  }
  return (
    <>
      <div className="mb-2 flex items-center gap-2">
        <span className="cap">Set</span>
        <Pick
          label="Set of sounds"
          value={current.name}
          options={swap.sets.map((s) => ({ id: s.name, label: s.name }))}
          onChange={setMood}
        />
        <Button small aria-label="Another mood" onClick={addSet}>
          <Plus size={12} />
        </Button>
      </div>
      <ul aria-label={`Sounds of ${part.name}`} className="grid grid-cols-3 gap-x-2 gap-y-2">
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
                onClick={() => showAlternate(part.id, number, label)}
              >
                <AlternatePicture swap={part.id} number={number} faded={own === undefined} />
              </button>
              <label className={`relative mt-0.5 block truncate text-[11px] ${isShown ? 'text-cord' : ''}`}>
                <b className="font-semibold">{label}</b> <span className="text-quiet">{example}</span>
                <select
                  aria-label={`Alternate for ${label}`}
                  value={own ?? ''}
                  onChange={(e) => assign(viseme, e.target.value === '' ? null : Number(e.target.value))}
                  className="absolute inset-0 cursor-pointer opacity-0"
                >
                  <option value="">nearest</option>
                  {alternates.map((a) => (
                    <option key={a.id} value={a.alternate}>
                      {a.name}
                    </option>
                  ))}
                </select>
              </label>
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
  return `A set of ${size} lacks ${missing.join(', ')}.`
}

const HOW = [
  { value: 'melt', label: 'Melt' },
  { value: 'fade', label: 'Fade' },
  { value: 'cut', label: 'Cut' },
] as const

function MeltRow({ part: { id, swap } }: { part: Part & { swap: Swap } }) {
  const { melt } = swap
  const change = (by: Partial<typeof melt>): void => set(id, { ...swap, melt: { ...melt, ...by } }, 'Change melting')
  return (
    <div className="mt-3 border-t border-hair pt-2">
      <Field label="To the next">
        <Segments label="From one to the next" value={melt.how} options={HOW} onChange={(how) => change({ how })} />
      </Field>
      {melt.how !== 'cut' && (
        <NumberField
          label="In"
          value={melt.seconds}
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
