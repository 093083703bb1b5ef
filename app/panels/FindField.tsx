/** The field above a tree that finds rows in it. */
import { Search, X } from 'lucide-react'

interface FindFieldProps {
  /** What the rows are. */
  readonly what: 'parts' | 'bones' | 'responses' | 'connections' | 'commands'
  readonly value: string
  /** Whether rows are left out, so that there is something to clear. */
  readonly isOn: boolean
  readonly onChange: (text: string) => void
  readonly onClear: () => void
}

/** Finds rows; a click beside clears it. */
export function FindField({ what, value, isOn, onChange, onClear }: FindFieldProps) {
  return (
    <label className="flex h-7 min-w-0 flex-1 items-center gap-1.5 rounded-full bg-tint px-2.5 text-quiet focus-within:shadow-[0_0_0_2px_var(--cord)]">
      <Search size={13} className="flex-none" />
      <input
        aria-label={`Find ${what}`}
        placeholder={`Find ${what}`}
        className="w-full min-w-0 bg-transparent text-ink outline-none placeholder:text-quiet"
        value={value}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Escape') onChange('')
        }}
      />
      {isOn && (
        <button type="button" aria-label={`Show all ${what}`} className="flex-none hover:text-ink" onClick={onClear}>
          <X size={13} />
        </button>
      )}
    </label>
  )
}
