/** A number that can be typed, dragged by its label and reset; a dot marks a value that is not at rest. */
import { RotateCcw } from 'lucide-react'
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { grip, GRIP } from './grip'

interface NumberFieldProps {
  readonly label: string
  readonly value: number | null
  readonly unit?: string
  readonly rest?: number | null
  readonly step?: number
  readonly min?: number
  readonly max?: number
  readonly digits?: number
  /** What an empty field shows; typing nothing gives null. */
  readonly empty?: string
  readonly hideLabel?: boolean
  readonly onChange: (value: number | null) => void
  /** Called while dragging; the gesture ends with `onDragEnd`. */
  readonly onDrag?: (value: number) => void
  readonly onDragEnd?: (kept: boolean) => void
}

const write = (value: number | null, digits: number): string => (value === null ? '' : String(Number(value.toFixed(digits))))

export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, rest, step = 1, digits = 1, empty = '', hideLabel, onChange, onDrag, onDragEnd } = props
  const [draft, setDraft] = useState<string | null>(null)
  const drag = useRef<{ from: number; value: number; moved: boolean } | null>(null)
  const isChanged = rest !== undefined && value !== rest
  const limit = (v: number): number => Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, v))

  const commit = (): void => {
    if (draft === null) return
    setDraft(null)
    const text = draft.trim().replace(',', '.')
    if (text === '' && empty) return onChange(null)
    const number = Number(text)
    if (text !== '' && Number.isFinite(number)) onChange(limit(number))
  }
  const onKey = (e: KeyboardEvent): void => {
    if (e.key === 'Enter') commit()
    else if (e.key === 'Escape') setDraft(null)
    else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault()
      setDraft(null)
      onChange(limit((value ?? 0) + (e.key === 'ArrowUp' ? step : -step) * (e.shiftKey ? 10 : 1)))
    } else return
    e.stopPropagation()
  }
  const startDrag = (e: PointerEvent): void => {
    if (!onDrag || value === null) return
    grip(e)
    drag.current = { from: e.clientX, value, moved: false }
  }
  const moveDrag = (e: PointerEvent): void => {
    const d = drag.current
    if (!d || (!d.moved && Math.abs(e.clientX - d.from) < 3)) return
    d.moved = true
    onDrag?.(limit(Number((d.value + (e.clientX - d.from) * step * (e.shiftKey ? 0.1 : 0.5)).toFixed(digits))))
  }
  const endDrag = (kept: boolean) => (): void => {
    if (drag.current?.moved) onDragEnd?.(kept)
    drag.current = null
  }
  return (
    <label className="flex min-h-7 items-center gap-2">
      <span
        className={
          hideLabel ? 'sr-only' : `w-[76px] flex-none leading-tight text-quiet ${onDrag ? `cursor-ew-resize ${GRIP}` : 'select-none'}`
        }
        onPointerDown={startDrag}
        onPointerMove={moveDrag}
        onPointerUp={endDrag(true)}
        onPointerCancel={endDrag(false)}
      >
        {label}
      </span>
      <span className="relative inline-flex min-w-0 items-baseline gap-1 border-b border-hair focus-within:border-ink">
        {isChanged && <i className="absolute top-1.5 -left-2.5 size-[5px] rounded-full bg-cord" title="Changed from rest" />}
        <input
          className="num w-[46px] bg-transparent py-0.5 outline-none placeholder:text-quiet"
          inputMode="decimal"
          aria-label={label}
          data-settled={draft === null ? '' : undefined}
          placeholder={empty}
          value={draft ?? write(value, digits)}
          onChange={(e) => setDraft(e.target.value)}
          onFocus={(e) => e.target.select()}
          onBlur={commit}
          onKeyDown={onKey}
        />
        {unit && <span className="cap">{unit}</span>}
      </span>
      {isChanged && rest !== null && (
        <button
          type="button"
          className="text-quiet hover:text-ink"
          aria-label={`Reset ${label.toLowerCase()}`}
          title="Reset"
          onClick={() => onChange(rest)}
        >
          <RotateCcw size={12} />
        </button>
      )}
    </label>
  )
}
