import { useEffect, useState, type ReactNode } from 'react'

interface NameHeadingProps {
  readonly lead: ReactNode
  readonly name: string
  readonly note: string
  readonly onRename: (name: string) => void
}

/** The heading of details: a picture, the name as a field, and what it is. */
export function NameHeading({ lead, name, note, onRename }: NameHeadingProps) {
  const [text, setText] = useState(name)
  useEffect(() => setText(name), [name])
  const commit = (): void => {
    const trimmed = text.trim()
    if (trimmed && trimmed !== name) onRename(trimmed)
    else setText(name)
  }
  return (
    <div className="mb-1 flex min-h-11 items-center gap-3">
      {lead}
      <div className="min-w-0 flex-1">
        <input
          aria-label="Name of the selection"
          className="w-full truncate rounded bg-transparent text-[15px]/5 font-[650] outline-none hover:bg-tint focus:bg-tint"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') setText(name)
          }}
        />
        <p className="text-xs text-quiet">{note}</p>
      </div>
    </div>
  )
}
