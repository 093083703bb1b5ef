/** Masks of a part: each with a picture of both answers, so that nobody has to guess which is inside. */
import { X } from 'lucide-react'
import { useMemo } from 'react'
import { hasLineBeside, lineOnTop } from '@marionette/core/face/lineOnTop'
import { freshId } from '@marionette/core/kernel/ids'
import type { Mask, Part, Puppet } from '@marionette/core/puppet/schema'
import { isWithinPart, partsBelow } from '@marionette/core/parts/tree'
import { run } from '@marionette/core/puppet/edit'
import { setMasks } from '@marionette/core/layering/commands'
import { Field, Group } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { IconButton } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { maskBy } from './masking'
import { edit } from '@marionette/core/kernel/command'
import { regionAround, useVariants } from '../../pictures/variants'
import { useEditor, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

const set = (editor: Editor, part: Part, masks: Mask[], label: string): void =>
  void perform(editor, [edit(setMasks, { part: part.id, masks })], label)

/** Parts that show something and could mask another one, by name. */
function masking(editor: Editor, parts: Puppet['parts'], part: Part): Part[] {
  const puppet = { ...openPuppet(editor), parts }
  return Object.values(parts)
    .filter((p) => p.id !== puppet.root && !isWithinPart(puppet, part.id, p.id) && !isWithinPart(puppet, p.id, part.id))
    .filter((p) => partsBelow(puppet, p.id).some((below) => Object.keys(below.art).length > 0))
    .sort((a, b) => a.name.localeCompare(b.name))
}

export function MaskGroup({ part }: { part: Part }) {
  const editor = useEditor()
  // A pose changes on every frame of a drag; what can mask follows structure alone.
  const parts = usePuppet((p) => p.parts)
  const others = useMemo(() => masking(editor, parts, part), [editor, parts, part])
  return (
    <Group id="masks" title="Masks" aside={<span className="cap">{part.masks.length || ''}</span>}>
      {part.masks.map((mask, k) => (
        <MaskRow key={`${mask.shape} ${k}`} part={part} mask={mask} at={k} />
      ))}
      <Pick
        label="Mask by"
        value=""
        options={[{ id: '', label: 'Show only where another part is…' }, ...others.map((p) => ({ id: p.id, label: p.name }))]}
        onChange={(shape) => shape && maskBy(editor, part.id, shape)}
      />
      <p className="cap mt-1">Or drag its row onto another one, or pick with the mask tool.</p>
    </Group>
  )
}

/** Where the mask has a line beside its colour, it can be drawn over what shows inside. */
function LineOnTop({ shape }: { shape: string }) {
  const editor = useEditor()
  const name = usePuppet((p) => (hasLineBeside(p, shape) ? partOf(p, shape).name : null))
  if (name === null) return null
  const masked = Object.values(openPuppet(editor).parts).flatMap((p) => (p.masks.some((m) => m.shape === shape) ? [p.id] : []))
  const draw = (): void =>
    void perform(editor, [...sure(lineOnTop(openPuppet(editor), shape, masked, freshId('part'))).edits], `Line of ${name} on top`)
  return (
    <Field label="Its line">
      <button type="button" className="text-xs underline decoration-hair underline-offset-4" onClick={draw}>
        draw it on top, once
      </button>
    </Field>
  )
}

function MaskRow({ part, mask, at }: { part: Part; mask: Mask; at: number }) {
  const editor = useEditor()
  const parts = usePuppet((p) => p.parts)
  const drawings = usePuppet((p) => p.drawings)
  const with_ = (change: Partial<Mask>): Mask[] => part.masks.map((m, k) => (k === at ? { ...m, ...change } : m))
  const variants = () => {
    const puppet = openPuppet(editor)
    const region = regionAround(editor, puppet, [part.id, mask.shape])
    return (['inside', 'outside'] as const).map((keep) => ({
      puppet: run(puppet, setMasks, { part: part.id, masks: with_({ keep }) }),
      region,
    }))
  }
  const key = `${at} ${JSON.stringify(part.masks)} ${Object.keys(drawings).length} ${parts[mask.shape]?.name}`
  const urls = useVariants(key, variants)
  const shape = parts[mask.shape]?.name ?? ''
  return (
    <div className="mb-3">
      <div className="flex items-center">
        <p className="min-w-0 flex-1 truncate font-semibold">{part.name}, where does it show?</p>
        <IconButton
          label={`Remove the mask by ${shape}`}
          onClick={() =>
            set(
              editor,
              part,
              part.masks.filter((_, k) => k !== at),
              'Remove mask',
            )
          }
        >
          <X size={14} />
        </IconButton>
      </div>
      <div role="radiogroup" aria-label={`Where ${part.name} shows`} className="mt-1 grid grid-cols-2 gap-3">
        {(['inside', 'outside'] as const).map((keep, k) => (
          <button
            key={keep}
            type="button"
            role="radio"
            aria-checked={mask.keep === keep}
            className="text-left"
            onClick={() => set(editor, part, with_({ keep }), `${part.name} ${keep} ${shape}`)}
          >
            <span
              className={`block aspect-square overflow-hidden rounded-xl bg-[var(--stage)] ${mask.keep === keep ? 'shadow-[0_0_0_2px_var(--verdigris)]' : 'opacity-75 hover:opacity-100'}`}
            >
              {urls[k] && <img src={urls[k]} alt="" draggable={false} className="size-full object-contain" />}
            </span>
            <span className="mt-1 flex items-center gap-1.5 text-xs">
              <i
                className={`size-3 flex-none rounded-full border-[1.5px] ${mask.keep === keep ? 'border-verdigris bg-verdigris shadow-[inset_0_0_0_2px_var(--panel)]' : 'border-quiet'}`}
              />
              <span className={`truncate ${mask.keep === keep ? 'font-semibold' : ''}`}>
                {keep === 'inside' ? `Inside ${shape}` : 'Outside it'}
              </span>
            </span>
          </button>
        ))}
      </div>
      <div className="mt-1.5">
        <Field label="Counts">
          <Pick
            label={`What of ${shape} counts`}
            value={mask.by}
            options={[
              { id: 'area', label: 'its colour area' },
              { id: 'paint', label: 'area and outline' },
              { id: 'brightness', label: 'how bright it is' },
            ]}
            onChange={(by) => set(editor, part, with_({ by: by as Mask['by'] }), 'Change mask')}
          />
        </Field>
        <LineOnTop shape={mask.shape} />
        <NumberField
          label="Soft edge"
          value={mask.soft ?? 0}
          unit="px"
          rest={0}
          min={0}
          max={200}
          onChange={(soft) => soft !== null && set(editor, part, with_({ soft }), 'Change mask')}
        />
      </div>
    </div>
  )
}
