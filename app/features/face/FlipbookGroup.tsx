/** Flipbooks of a swap: alternates in turn, by hand or by themselves. */
import { Play, Plus, X } from 'lucide-react'
import { freshId } from '@marionette/core/kernel/ids'
import type { Flipbook, Part, Swap } from '@marionette/core/puppet/schema'
import { alternatesOf, deleteFlipbook, setFlipbook } from '@marionette/core/alternates/commands'
import { Field, Group } from '../../panels/Group'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { playFlipbook } from './playing'
import { Button, IconButton } from '../../ui/Button'
import { NameInput } from '../../ui/NameInput'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { edit } from '@marionette/core/kernel/command'
import { partChannel } from '@marionette/core/parts/channels'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'
import { Pick } from '../../ui/Pick'

/** Frames in a second that lengths are said in. */
const FRAMES = 24

const set = (editor: Editor, flipbook: Flipbook, label = `Change ${flipbook.name}`): boolean =>
  perform(editor, [edit(setFlipbook, { flipbook })], label)

export function FlipbookGroup({ part }: { part: Part & { swap: Swap } }) {
  const editor = useEditor()
  const all = usePuppet((p) => p.flipbooks)
  const channel = partChannel(part.id, 'alternate')
  const own = all.filter((f) => f.channel === channel)
  const add = (): void => {
    const numbers = alternatesOf(openPuppet(editor), part.id).map((a) => a.alternate)
    const others = numbers.filter((n) => n !== part.swap.initial)
    const flipbook: Flipbook = {
      ...{ id: freshId('flipbook'), name: `Flipbook ${own.length + 1}`, channel, pictures: others.length > 0 ? others : numbers },
      ...{ hold: 2 / FRAMES, way: 'both', ends: 'once', timer: null },
    }
    set(editor, flipbook, `New flipbook of ${part.name}`)
  }
  return (
    <Group id="flipbooks" title="Flipbooks" aside={<span className="cap">{own.length || ''}</span>}>
      {own.map((f) => (
        <Book key={f.id} flipbook={f} />
      ))}
      <Button small onClick={add}>
        <Plus size={12} /> New flipbook
      </Button>
    </Group>
  )
}

const WAYS = [
  { value: 'forward', label: 'On' },
  { value: 'back', label: 'Back' },
  { value: 'both', label: 'Both' },
] as const
const ENDS = [
  { value: 'once', label: 'Once' },
  { value: 'hold', label: 'Stays' },
  { value: 'loop', label: 'Again' },
] as const

function Book({ flipbook }: { flipbook: Flipbook }) {
  const editor = useEditor()
  const parts = usePuppet((p) => p.parts)
  const alternates = alternatesOf({ parts }, nth(flipbook.channel.split('/'), 1))
  const nameOf = (n: number): string => alternates.find((a) => a.alternate === n)?.name ?? 'none'
  const { timer } = flipbook
  return (
    <div className="mb-3 rounded-xl bg-tint px-3 py-2">
      <div className="flex items-center gap-1">
        <NameInput label="Name of the flipbook" name={flipbook.name} onRename={(name) => set(editor, { ...flipbook, name })} />
        <IconButton label={`Play ${flipbook.name}`} onClick={() => playFlipbook(editor, flipbook)}>
          <Play size={14} fill="currentColor" />
        </IconButton>
        <IconButton
          label={`Delete ${flipbook.name}`}
          onClick={() => perform(editor, [edit(deleteFlipbook, { flipbook: flipbook.id })], `Delete ${flipbook.name}`)}
        >
          <X size={14} />
        </IconButton>
      </div>
      <ol aria-label={`Pictures of ${flipbook.name}`} className="my-1.5 flex flex-wrap gap-1">
        {flipbook.pictures.map((n, k) => (
          <li key={k}>
            <button
              type="button"
              title="Click to take it out"
              disabled={flipbook.pictures.length === 1}
              className="rounded-md bg-panel px-1.5 text-xs/5 hover:line-through"
              onClick={() => set(editor, { ...flipbook, pictures: flipbook.pictures.filter((_, i) => i !== k) })}
            >
              {nameOf(n)}
            </button>
          </li>
        ))}
        <li>
          <Pick
            label={`Another picture of ${flipbook.name}`}
            value=""
            onChange={(id) => set(editor, { ...flipbook, pictures: [...flipbook.pictures, Number(id)] })}
            options={alternates.map((a) => ({ id: String(a.alternate), label: a.name }))}
            own={{
              className: 'h-5 rounded-md border border-dashed border-twine px-1.5 text-xs/4 text-quiet hover:text-ink',
              content: 'add',
            }}
          />
        </li>
      </ol>
      <NumberField
        label="Each for"
        value={flipbook.hold * FRAMES}
        unit={`frames of ${FRAMES}`}
        min={0.2}
        max={FRAMES * 60}
        onChange={(v) => v !== null && set(editor, { ...flipbook, hold: v / FRAMES })}
      />
      <Field label="Turns">
        <Segments label="Way" value={flipbook.way} options={WAYS} onChange={(way) => set(editor, { ...flipbook, way })} />
      </Field>
      <div className="mt-1">
        <Field label="Then">
          <Segments label="At the end" value={flipbook.ends} options={ENDS} onChange={(ends) => set(editor, { ...flipbook, ends })} />
        </Field>
      </div>
      <label className="mt-1 flex h-7 items-center gap-2">
        <Box
          aria-label={`${flipbook.name} by itself`}
          checked={timer !== null}
          onChange={(on) => set(editor, { ...flipbook, timer: on ? { every: 3.5, vary: 0.6, seed: 1 } : null })}
        />
        By itself, as blinking goes
      </label>
      {timer && (
        <>
          <NumberField
            label="Every"
            value={timer.every}
            unit="s"
            min={0.1}
            max={3600}
            onChange={(every) => every !== null && set(editor, { ...flipbook, timer: { ...timer, every } })}
          />
          <NumberField
            label="Give, take"
            value={timer.vary * 100}
            unit="%"
            digits={0}
            min={0}
            max={95}
            onChange={(v) => v !== null && set(editor, { ...flipbook, timer: { ...timer, vary: v / 100 } })}
          />
          <NumberField
            label="Seed"
            value={timer.seed}
            digits={0}
            min={0}
            max={2147483645}
            onChange={(seed) => seed !== null && set(editor, { ...flipbook, timer: { ...timer, seed } })}
          />
        </>
      )}
    </div>
  )
}
