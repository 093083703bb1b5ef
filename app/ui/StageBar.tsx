/** The bar over the stage with what the tool in hand can be set to. */
import type { ReactNode } from 'react'

export function StageBar({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      aria-label={label}
      role="group"
      className="scroll-thin flex max-w-full items-center gap-1 overflow-x-auto rounded-2xl bg-panel p-1.5 shadow-2"
      onPointerDown={(e) => e.stopPropagation()}
    >
      {children}
    </div>
  )
}
