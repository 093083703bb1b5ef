/** The bar over the stage with what the tool in hand can be set to; the view keeps clear of it. */
import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react'
import { sure } from '@marionette/core/kernel/sure'
import type { StageView } from './stageView'

export const StageViewContext = createContext<StageView | null>(null)

export function StageBar({ label, children }: { label: string; children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null)
  const view = useContext(StageViewContext)
  useEffect(() => {
    const bar = sure(frame.current)
    const watch = new ResizeObserver(() => view?.keepClearOfBar(bar.offsetHeight))
    watch.observe(bar)
    return () => {
      watch.disconnect()
      view?.keepClearOfBar(0)
    }
  }, [view])
  return (
    <div
      ref={frame}
      aria-label={label}
      role="group"
      className="absolute top-10 left-1/2 scroll-thin flex w-max max-w-[97%] -translate-x-1/2 items-center gap-1 overflow-x-auto rounded-2xl bg-panel p-1.5 shadow-2"
      onPointerDown={(e) => e.stopPropagation()}
    >
      {children}
    </div>
  )
}
