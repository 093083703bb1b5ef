import { ChevronDown, ChevronRight } from 'lucide-react'
import type { ReactNode } from 'react'
import { toggleFolded, useSession } from '../editor/session'
import { useEditor } from '../editor/editor'

/** A short group of fields under a heading that folds. */
export function Group({ id, title, aside, children }: { id: string; title: string; aside?: ReactNode; children: ReactNode }) {
  const editor = useEditor()
  const key = `group/${id}`
  const folded = useSession((s) => s.folded.has(key))
  return (
    <section className="border-t border-hair py-3 first:border-t-0 first:pt-1">
      <h3 className="flex items-center gap-1.5">
        <button
          type="button"
          aria-expanded={!folded}
          onClick={() => toggleFolded(editor, key)}
          className="flex flex-1 items-center gap-1.5 text-xs font-semibold"
        >
          {title}
          {folded ? <ChevronRight size={13} className="text-quiet" /> : <ChevronDown size={13} className="text-quiet" />}
        </button>
        {aside}
      </h3>
      {!folded && <div className="mt-2">{children}</div>}
    </section>
  )
}

/** A label with something beside it. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[76px] flex-none text-quiet">{label}</span>
      <div className="min-w-0 flex-1">{children}</div>
    </div>
  )
}

interface PickProps {
  readonly label: string
  readonly value: string
  readonly options: readonly { readonly id: string; readonly label: string }[]
  readonly onChange: (id: string) => void
}

/** A drop-down choice. */
export function Pick({ label, value, options, onChange }: PickProps) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      className="h-7 w-full min-w-0 rounded-lg border-0 bg-tint px-2 text-ink outline-offset-1"
    >
      {options.map((o) => (
        <option key={o.id} value={o.id} className="bg-panel">
          {o.label}
        </option>
      ))}
    </select>
  )
}
