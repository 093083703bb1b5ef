/** The bar over the stage with what the tool in hand can be set to. */
import type { ReactNode } from 'react'

export function StageBar({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      aria-label={label}
      role="group"
      className="absolute top-10 left-1/2 scroll-thin flex max-w-[96%] -translate-x-1/2 items-center gap-1 overflow-x-auto rounded-2xl bg-panel p-1.5 shadow-2"
      onPointerDown={(e) => e.stopPropagation()}
    >
      {children}
    </div>
  )
}
