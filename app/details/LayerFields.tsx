/** How a part is laid over what lies below: blend mode, masks and effect. */
import { X } from 'lucide-react'
import { BlendMode, type Part } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { setBlend, setEffect, setMasks } from '@marionette/core/edit/layering'
import { perform, usePuppet } from '../state/document'
import { selectParts } from '../state/session'
import { IconButton } from '../ui/Button'
import { Field, Pick } from './Group'

const BLENDS = BlendMode.options.map((id) => ({
  id,
  label: id === 'normal' ? 'Normal' : id.charAt(0).toUpperCase() + id.slice(1).replace('-', ' '),
}))

const MASK_WORDS = { area: 'the area of', paint: 'the paint of', brightness: 'the bright of' } as const

export function LayerFields({ part }: { part: Part }) {
  const names = usePuppet((p) => p.parts)
  return (
    <>
      <Field label="Blend">
        <Pick
          label="Blend mode"
          value={part.blend}
          options={BLENDS}
          onChange={(blend) => perform([edit(setBlend, { part: part.id, blend: blend as BlendMode })])}
        />
      </Field>
      {part.masks.map((mask, i) => (
        <Row
          key={i}
          label={mask.keep === 'inside' ? 'Inside' : 'Outside'}
          remove="Take this mask away"
          onRemove={() => perform([edit(setMasks, { part: part.id, masks: part.masks.filter((_, k) => k !== i) })], 'Take mask away')}
        >
          <button type="button" className="w-full truncate text-left hover:underline" onClick={() => selectParts(mask.shape)}>
            <span className="text-quiet">{MASK_WORDS[mask.by]}</span> {names[mask.shape]?.name}
          </button>
        </Row>
      ))}
      {part.effect && (
        <Row
          label="Effect"
          remove="Take the effect away"
          onRemove={() => perform([edit(setEffect, { part: part.id, effect: null })], 'Take effect away')}
        >
          <span className="truncate">{[...new Set(part.effect.steps.map((s) => s.step))].join(', ')}</span>
        </Row>
      )}
    </>
  )
}

interface RowProps {
  readonly label: string
  readonly remove: string
  readonly onRemove: () => void
  readonly children: React.ReactNode
}

function Row({ label, remove, onRemove, children }: RowProps) {
  return (
    <Field label={label}>
      <div className="flex items-center gap-1">
        <div className="min-w-0 flex-1 truncate">{children}</div>
        <IconButton label={remove} onClick={onRemove}>
          <X size={14} />
        </IconButton>
      </div>
    </Field>
  )
}
