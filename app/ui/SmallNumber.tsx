/** A number in a bar over the stage, with its name before it. */
interface SmallNumberProps {
  readonly label: string
  readonly value: number
  readonly unit?: string
  readonly max: number
  readonly onChange: (value: number) => void
}

export function SmallNumber({ label, value, unit, max, onChange }: SmallNumberProps) {
  return (
    <label className="flex items-center gap-1 pl-1 text-xs whitespace-nowrap text-quiet">
      {label}
      <input
        type="number"
        min={0}
        max={max}
        value={value}
        onChange={(e) => onChange(Math.min(max, Math.max(0, Number(e.target.value) || 0)))}
        onKeyDown={(e) => e.stopPropagation()}
        className="num h-6 w-12 rounded-md bg-tint px-1.5 text-ink"
      />
      {unit}
    </label>
  )
}
