/** Something that is on or off, with its words behind it. */
import type { ReactNode } from 'react'

interface TickProps {
  readonly checked: boolean
  readonly onChange: (checked: boolean) => void
  /** In bars over the stage. */
  readonly small?: boolean
  readonly children: ReactNode
}

export function Tick({ checked, onChange, small = false, children }: TickProps) {
  return (
    <label className={`flex items-center ${small ? 'gap-1.5 text-xs whitespace-nowrap text-quiet' : 'gap-2'}`}>
      <input type="checkbox" className="size-4 accent-[var(--verdigris)]" checked={checked} onChange={(e) => onChange(e.target.checked)} />
      {children}
    </label>
  )
}
