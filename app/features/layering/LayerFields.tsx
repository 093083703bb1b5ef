/** How a part is laid over what lies below: blend mode, masks and effect. */
import { X } from 'lucide-react'
import { BlendMode, type Part } from '@marionette/core/puppet/schema'
import { setBlend, setEffect, setMasks } from '@marionette/core/layering/commands'
import { perform, usePuppet } from '../../editor/document'
import { selectParts } from '../../editor/session'
import { IconButton } from '../../ui/Button'
import { Field } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

const BLENDS = BlendMode.options.map((id) => ({
  id,
  label: id === 'normal' ? 'Normal' : id.charAt(0).toUpperCase() + id.slice(1).replace('-', ' '),
}))

const MASK_WORDS = { area: 'the area of', paint: 'the paint of', brightness: 'the bright of' } as const

export function LayerFields({ part }: { part: Part }) {
  const editor = useEditor()
  const names = usePuppet((p) => p.parts)
  return (
    <>
      <Field label="Blend">
        <Pick
          label="Blend mode"
          value={part.blend}
          options={BLENDS}
          onChange={(blend) => perform(editor, [edit(setBlend, { part: part.id, blend: blend as BlendMode })])}
        />
      </Field>
      {part.masks.map((mask, i) => (
        <Row
          key={i}
          label={mask.keep === 'inside' ? 'Inside' : 'Outside'}
          remove="Remove this mask"
          onRemove={() => perform(editor, [edit(setMasks, { part: part.id, masks: part.masks.filter((_, k) => k !== i) })], 'Remove mask')}
        >
          <button type="button" className="w-full truncate text-left hover:underline" onClick={() => selectParts(editor, mask.shape)}>
            <span className="text-quiet">{MASK_WORDS[mask.by]}</span> {names[mask.shape]?.name}
          </button>
        </Row>
      ))}
      {part.effect && (
        <Row
          label="Effect"
          remove="Remove the effect"
          onRemove={() => perform(editor, [edit(setEffect, { part: part.id, effect: null })], 'Remove effect')}
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
