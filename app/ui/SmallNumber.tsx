/** A number in a bar over the stage, with its name before it. What is typed counts on Enter and on leaving the field. */
import { useState } from 'react'

interface SmallNumberProps {
  readonly label: string
  readonly value: number
  readonly unit?: string
  readonly max: number
  readonly onChange: (value: number) => void
}

export function SmallNumber({ label, value, unit, max, onChange }: SmallNumberProps) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = (text: string | null): void => {
    setDraft(null)
    const wanted = Math.min(max, Math.max(0, Number(text) || 0))
    if (text?.trim() && wanted !== value) onChange(wanted)
  }
  return (
    <label className="flex items-center gap-1 pl-1 text-xs whitespace-nowrap text-quiet">
      {label}
      <input
        type="number"
        min={0}
        max={max}
        value={draft ?? value}
        // Its own arrows type nothing: they count at once.
        onChange={(e) => ((e.nativeEvent as InputEvent).inputType ? setDraft(e.target.value) : commit(e.target.value))}
        onBlur={() => commit(draft)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Enter') commit(draft)
          else if (e.key === 'Escape') setDraft(null)
        }}
        className="num h-6 w-12 rounded-md bg-tint px-1.5 text-ink"
      />
      {unit}
    </label>
  )
}
