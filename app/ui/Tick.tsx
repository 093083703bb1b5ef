/** Something that is on or off, with its words behind it. */
import type { ReactNode } from 'react'
import { Box } from './Box'

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
      <Box checked={checked} onChange={(on) => onChange(on)} />
      {children}
    </label>
  )
}
