/** A colour or none, picked in a small sheet. */
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { HexColorInput, HexColorPicker } from 'react-colorful'

interface ColourFieldProps {
  readonly label: string
  readonly value: string | null
  readonly onChange: (value: string | null) => void
  /** Shows the colour alone, which cannot be removed. */
  readonly hideValue?: boolean
}

export function ColourField({ label, value, onChange, hideValue = false }: ColourFieldProps) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = (open: boolean): void => {
    if (!open && draft !== null && draft !== value) onChange(draft)
    setDraft(open ? (value ?? '#ffffff') : null)
  }
  return (
    <div className="flex items-center gap-2">
      <Popover.Root onOpenChange={commit}>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label={`${label} ${value ?? 'none'}`}
            className="flex items-center gap-2 rounded-lg px-1 py-0.5 hover:bg-tint"
          >
            <i
              className={`size-[18px] rounded-full shadow-[inset_0_0_0_1px_var(--twine)] ${value ? '' : 'bg-[repeating-conic-gradient(var(--tint)_0_25%,var(--panel)_0_50%)] bg-[length:9px_9px]'}`}
              style={value ? { background: value } : {}}
            />
            {!hideValue && <span className="num">{value ?? 'none'}</span>}
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content sideOffset={6} className="z-50 rounded-2xl bg-panel p-3 shadow-3">
            <HexColorPicker color={draft ?? value ?? '#ffffff'} onChange={(c) => setDraft(c.toLowerCase())} />
            <HexColorInput
              prefixed
              aria-label={`${label} as hex`}
              className="num mt-2 w-full rounded-lg bg-tint px-2 py-1"
              color={draft ?? value ?? '#ffffff'}
              onChange={(c) => setDraft(c.toLowerCase())}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {value && !hideValue && (
        <button type="button" className="cap hover:text-ink" onClick={() => onChange(null)}>
          Remove
        </button>
      )}
    </div>
  )
}
