/** A drop-down choice. */
import { Check, ChevronDown } from 'lucide-react'
import { Select } from 'radix-ui'
import { useState, type ReactNode } from 'react'

export interface Option {
  readonly id: string
  readonly label: string
  /** The heading under which it stands, where there are several. */
  readonly group?: string
}

interface PickProps {
  readonly label: string
  readonly value: string
  readonly options: readonly Option[]
  readonly onChange: (id: string) => void
  /** As wide as there is room, where this is left out. */
  readonly width?: string
  /** What it shows in place of the label of what is chosen, and how that looks. */
  readonly own?: { readonly className: string; readonly content: ReactNode }
}

/** Stands for an option without an id, which the list keeps for itself. */
const NONE = '∅'
const LOOK = 'flex h-7 items-center gap-1 rounded-lg bg-tint pr-1.5 pl-2 text-left'

export function Pick({ label, value, options, onChange, width = 'w-full min-w-0', own }: PickProps) {
  const [open, setOpen] = useState(false)
  const chosen = options.find((o) => o.id === value)
  return (
    <Select.Root open={open} onOpenChange={setOpen} value={value || NONE} onValueChange={(id) => onChange(id === NONE ? '' : id)}>
      <Select.Trigger
        aria-label={label}
        className={own?.className ?? `${LOOK} ${width}`}
        title={chosen?.label}
        onKeyDown={(e) => e.stopPropagation()}
      >
        {own?.content ?? (
          <>
            <span className="min-w-0 flex-1 truncate">
              <Select.Value>{chosen?.label ?? ''}</Select.Value>
            </span>
            <Select.Icon asChild>
              <ChevronDown size={13} className="flex-none text-quiet" />
            </Select.Icon>
          </>
        )}
      </Select.Trigger>
      {/* Lists can be long, and stand in every row: they are made when they are asked for. */}
      {open && (
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-h-[min(340px,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) overflow-hidden rounded-xl bg-panel p-1.5 shadow-3"
            onKeyDown={(e) => e.stopPropagation()}
          >
            <Select.Viewport>
              <Choices options={options} />
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      )}
    </Select.Root>
  )
}

function Choices({ options }: { options: readonly Option[] }) {
  const groups = [...new Set(options.map((o) => o.group))]
  return groups.map((group) => (
    <Select.Group key={group ?? ''}>
      {group !== undefined && <Select.Label className="px-2.5 pt-1.5 pb-0.5 text-xs text-quiet">{group}</Select.Label>}
      {options
        .filter((o) => o.group === group)
        .map((o) => (
          <Select.Item
            key={o.id}
            value={o.id || NONE}
            className="flex h-7 items-center gap-2 rounded-lg px-2.5 outline-none data-[highlighted]:bg-tint"
          >
            <Select.ItemText>{o.label}</Select.ItemText>
            <Select.ItemIndicator className="ml-auto pl-3">
              <Check size={13} />
            </Select.ItemIndicator>
          </Select.Item>
        ))}
    </Select.Group>
  ))
}
