/** How one alternate morphs into another: which of its drawings into which, from where on, and what lies between. */
import { counted } from '@marionette/core/kernel/counted'
import { RotateCcw } from 'lucide-react'
import { useState } from 'react'
import type { Match, Part, Puppet, Swap } from '@marionette/core/puppet/schema'
import { paintedAssetsOf, partPath } from '@marionette/core/parts/tree'
import { alternatesOf, setSwap } from '@marionette/core/alternates/commands'
import type { Pair } from '@marionette/core/alternates/swaps'
import { MOST_BETWEEN } from '@marionette/core/alternates/inBetween'
import { Field } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { usePicture } from '../../pictures/posePictures'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { openPanel, useSession } from '../../editor/session'
import { work } from '../../editor/work'
import { Button, IconButton } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Sheet } from '../../ui/Sheet'
import { matchingOf, withMatch, type Matching } from './matching'
import { edit } from '@marionette/core/kernel/command'
import { partChannel } from '@marionette/core/parts/channels'
import { regionAround } from '../../pictures/variants'
import { useEditor, type Editor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'
import { Box } from '../../ui/Box'
import { Slider } from 'radix-ui'
import { GRIP } from '../../ui/grip'

const isSwap = (part: Part | undefined): part is Part & { swap: Swap } => part !== undefined && part.swap !== null

/** The swap that is meant: the one around the selected part, else the first that there is. */
function swapMeant(editor: Editor, puppet: Puppet): (Part & { swap: Swap }) | undefined {
  const { selection } = useSession.of(editor).getState()
  const first = selection.kind === 'part' ? selection.ids[0] : undefined
  const around = first !== undefined && puppet.parts[first] ? partPath(puppet, first).findLast(isSwap) : undefined
  return around ?? Object.values(puppet.parts).find(isSwap)
}

export default function MorphSheet() {
  const editor = useEditor()
  const [id] = useState(() => swapMeant(editor, openPuppet(editor))?.id ?? '')
  const puppet = usePuppet((p) => p)
  const part = puppet.parts[id]
  const alternates = isSwap(part) ? alternatesOf(puppet, id) : []
  const [from, setFrom] = useState(() => alternates.at(-1)?.alternate ?? 0)
  const [to, setTo] = useState(() => alternates.at(-2)?.alternate ?? 0)
  const [way, setWay] = useState(50)
  const [count, setCount] = useState(3)
  const [region] = useState(() => (id ? regionAround(editor, openPuppet(editor), [id]) : null))
  const values = { [partChannel(id, 'alternate')]: to, [partChannel(id, 'before')]: from, [partChannel(id, 'way')]: way / 100 }
  const url = usePicture(values, region, JSON.stringify([values, part?.swap?.matches]))
  const options = alternates.map((a) => ({ id: String(a.alternate), label: a.name }))
  if (!isSwap(part) || alternates.length < 2)
    return (
      <Sheet open onClose={() => openPanel(editor, null)} title="Morphing">
        <p className="text-quiet">Select a part with two alternates or more: here you see how one morphs into another.</p>
      </Sheet>
    )
  const matching = matchingOf(editor, puppet, id, from, to)
  const make = (): void => {
    openPanel(editor, null)
    void work(
      editor,
      `In-betweens of ${part.name}`,
      (p) => paintedAssetsOf(p),
      (p, assets) => editor.jobs.between(p, { swap: id, from, to, count }, assets),
    )
  }
  return (
    <Sheet
      open
      wide
      onClose={() => openPanel(editor, null)}
      title={`Morphing in ${part.name}`}
      text="Drawings of one name morph into each other, others into the likest. What looks wrong half way is matched by hand here."
    >
      <div className="grid grid-cols-[260px_1fr] gap-6">
        <div>
          <Field label="From">
            <Pick label="From" value={String(from)} options={options} onChange={(v) => setFrom(Number(v))} />
          </Field>
          <Field label="To">
            <Pick label="To" value={String(to)} options={options} onChange={(v) => setTo(Number(v))} />
          </Field>
          <span className="mt-2 block aspect-[4/3] overflow-hidden rounded-lg bg-[var(--stage)]">
            {url && <img src={url} alt={`${way}% of the way`} className="size-full object-contain" />}
          </span>
          <Slider.Root
            min={0}
            max={99}
            value={[way]}
            onValueChange={([next = 0]) => setWay(next)}
            className={`relative mt-2 flex h-5 w-full items-center ${GRIP}`}
          >
            <Slider.Track className="relative h-1 flex-1 rounded-full bg-hair">
              <Slider.Range className="absolute h-full rounded-full bg-cord" />
            </Slider.Track>
            <Slider.Thumb aria-label="How far on the way" className="block size-3.5 rounded-full bg-cord" />
          </Slider.Root>
        </div>
        <ul aria-label="Matches" className="min-w-0">
          {matching.pairs.map((pair) => (
            <Row key={pair.a.part} puppet={puppet} swap={part} matching={matching} pair={pair} />
          ))}
          {matching.pairs.length === 0 && <li className="cap">The first of both shows nothing that could morph.</li>}
        </ul>
      </div>
      <div className="mt-4 flex items-center justify-end gap-3 border-t border-hair pt-3">
        <NumberField
          label="How many in-betweens"
          hideLabel
          value={count}
          min={1}
          max={MOST_BETWEEN}
          digits={0}
          onChange={(v) => setCount(v ?? 3)}
        />
        <Button kind="keep" disabled={from === to} onClick={make}>
          Make {counted(count, 'in-between')}
        </Button>
      </div>
    </Sheet>
  )
}

interface RowProps {
  readonly puppet: Puppet
  readonly swap: Part & { swap: Swap }
  readonly matching: Matching
  readonly pair: Pair
}

const NOTHING = 'nothing'

function Row({ puppet, swap, matching, pair: { a, b, correction } }: RowProps) {
  const editor = useEditor()
  const name = partOf(puppet, a.part).name
  const isOwn = swap.swap.matches.some((m) => m.a === a.part || m.b === a.part)
  const set = (match: Match | null): void =>
    void perform(editor, [edit(setSwap, { part: swap.id, swap: withMatch(swap.swap, matching, a.part, match) })], `Match ${name}`)
  const { turn, runsBack } = correction ?? { turn: 0, runsBack: false }
  const change = (by: Partial<Match>): void => set({ a: a.part, b: b?.part ?? null, turn, runsBack, ...by })
  const options = [
    { id: NOTHING, label: 'Nothing, it fades' },
    ...matching.to.map((p) => ({ id: p.part, label: partOf(puppet, p.part).name })),
  ]
  return (
    <li className="border-t border-hair py-2 first:border-t-0 first:pt-0">
      <div className="flex items-center gap-1">
        <span className="w-[110px] flex-none truncate font-semibold">{name}</span>
        <span className="text-quiet">into</span>
        <div className="ml-1 min-w-0 flex-1">
          <Pick
            label={`${name} morphs into`}
            value={b?.part ?? NOTHING}
            options={options}
            onChange={(value) => change({ b: value === NOTHING ? null : value, turn: 0, runsBack: false })}
          />
        </div>
        {isOwn && (
          <IconButton label={`Let ${name} be proposed again`} onClick={() => set(null)}>
            <RotateCcw size={14} />
          </IconButton>
        )}
      </div>
      {b && (
        <Field label="Begins at">
          <div className="flex items-center gap-3">
            {correction ? (
              <NumberField
                label={`Where ${name} begins`}
                hideLabel
                value={Math.round(1000 * turn) / 10}
                unit="%"
                min={0}
                max={99}
                onChange={(v) => change({ turn: Math.min(0.999, (v ?? 0) / 100) })}
              />
            ) : (
              <button type="button" className="text-xs underline decoration-hair underline-offset-4" onClick={() => change({})}>
                as proposed
              </button>
            )}
            <label className="flex items-center gap-1.5 text-xs">
              <Box small checked={runsBack} onChange={(on) => change({ runsBack: on })} />
              Other way round
            </label>
          </div>
        </Field>
      )}
    </li>
  )
}
