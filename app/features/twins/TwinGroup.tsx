/** A part twice: its mirror image or a row of copies that share its artwork, and made independent again. */
import { listed } from '@marionette/core/kernel/counted'
import { useState } from 'react'
import { freshId } from '@marionette/core/kernel/ids'
import type { Part } from '@marionette/core/puppet/schema'
import { freeTwin, limbBones, makeTwin } from '@marionette/core/twins/commands'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { selectParts, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Segments } from '../../ui/Segments'
import { Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import { twinsOf } from '@marionette/core/parts/tree'
import { useEditor, type Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

const WAYS = [
  { value: 'mirror', label: 'Mirrored' },
  { value: 'row', label: 'In a row' },
] as const

export function TwinGroup({ part }: { part: Part }) {
  const editor = useEditor()
  const canvas = usePuppet((p) => p.canvas)
  const family = usePuppet((p) => p.parts)
  const [way, setWay] = useState<'mirror' | 'row'>('mirror')
  const [x, setX] = useState(canvas.width / 2)
  const [count, setCount] = useState(1)
  const [step, setStep] = useState({ x: 60, y: 0 })
  const chosen = useSession((s) => s.selection.ids)
  const parts = chosen.includes(part.id) ? chosen.filter((id) => id in family) : [part.id]
  const others = twinsOf(openPuppet(editor), part.id).filter((p) => p.id !== part.id)
  return (
    <Group
      id="twin"
      title="Twin"
      aside={others.length > 0 && <span className="num text-xs text-quiet">shared by {others.length + 1}</span>}
    >
      {others.length > 0 && (
        <div className="mb-2 flex items-center gap-2">
          <p className="min-w-0 flex-1 truncate text-xs text-quiet">
            {part.twin ? `Twin of ${family[part.twin.of]?.name ?? ''}` : `Original of ${listed(others.map((p) => p.name))}`}
          </p>
          <Button
            small
            onClick={() => perform(editor, [edit(freeTwin, { parts: [part.id], prefix: freshId('own') })], `Make ${part.name} independent`)}
          >
            Make independent
          </Button>
        </div>
      )}
      <Segments label="How the twin is made" value={way} options={WAYS} onChange={setWay} />
      <div className="mt-2">
        {way === 'mirror' ? (
          <NumberField label="Mirror at" value={x} unit="x" rest={canvas.width / 2} onChange={(v) => v !== null && setX(v)} />
        ) : (
          <>
            <NumberField label="Copies" value={count} min={1} max={20} digits={0} onChange={(v) => v !== null && setCount(v)} />
            <NumberField label="Each by x" value={step.x} unit="px" onChange={(v) => v !== null && setStep({ ...step, x: v })} />
            <NumberField label="Each by y" value={step.y} unit="px" onChange={(v) => v !== null && setStep({ ...step, y: v })} />
          </>
        )}
      </div>
      <Button small className="mt-2" onClick={() => makeTwins(editor, parts, way === 'mirror' ? { x } : { count, step })}>
        {way === 'mirror' ? 'Make twin' : count > 1 ? `Make ${count} twins` : 'Make twin'}
      </Button>
    </Group>
  )
}

type Plan = { readonly x: number } | { readonly count: number; readonly step: { readonly x: number; readonly y: number } }

function makeTwins(editor: Editor, parts: readonly string[], plan: Plan): void {
  const puppet = openPuppet(editor)
  const bones = limbBones(puppet, parts)
  const prefixes = Array.from({ length: 'x' in plan ? 1 : plan.count }, () => freshId('twin'))
  const edits = prefixes.map((prefix, i) =>
    edit(makeTwin, {
      ...{ parts: [...parts], bones, prefix },
      across:
        'x' in plan
          ? { kind: 'mirror' as const, x: plan.x }
          : { kind: 'move' as const, dx: plan.step.x * (i + 1), dy: plan.step.y * (i + 1) },
    }),
  )
  const name = partOf(puppet, nth(parts, 0)).name
  if (!perform(editor, edits, `Make twin of ${name}`)) return
  const made = Object.values(openPuppet(editor).parts).filter((p) => p.twin && parts.includes(p.twin.of) && !puppet.parts[p.id])
  selectParts(editor, ...made.map((p) => p.id))
}
