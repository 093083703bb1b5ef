/** A choice of two to four, in one row. */
import { ToggleGroup } from 'radix-ui'

interface SegmentsProps<T extends string> {
  readonly label: string
  readonly value: T | null
  /** `name` says what a sign stands for. */
  readonly options: readonly { readonly value: T; readonly label: string; readonly name?: string }[]
  readonly onChange: (value: T) => void
}

export function Segments<T extends string>({ label, value, options, onChange }: SegmentsProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value ?? ''}
      onValueChange={(v) => v && onChange(v as T)}
      className="flex flex-wrap rounded-lg bg-tint p-0.5"
    >
      {options.map((o) => (
        <ToggleGroup.Item
          key={o.value}
          value={o.value}
          aria-label={o.name}
          className="flex-1 rounded-md px-1.5 leading-6 whitespace-nowrap text-quiet transition-colors hover:text-ink data-[state=on]:bg-panel data-[state=on]:font-semibold data-[state=on]:text-ink data-[state=on]:shadow-1"
        >
          {o.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
