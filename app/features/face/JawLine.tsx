/** A picture of the face with the line of the jaw across it: what lies below goes down with the mouth. */
import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { squareAround, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { usePicture } from '../../pictures/posePictures'
import { grip, GRIP } from '../../ui/grip'
import { sure } from '@marionette/core/kernel/sure'

interface JawLineProps {
  readonly region: Bounds
  /** Canvas y. */
  readonly line: number
  readonly onChange: (line: number) => void
}

/** As pictures frame what they show. */
const AIR = 1.04

export function JawLine({ region, line, onChange }: JawLineProps) {
  const url = usePicture({}, region, JSON.stringify(region))
  const frame = useRef<HTMLDivElement>(null)
  const square = squareAround(region, AIR)
  const size = square.maxY - square.minY
  const limit = (y: number): number => Math.min(region.maxY, Math.max(region.minY, y))
  const drag = (e: PointerEvent): void => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId)) return
    const box = sure(frame.current).getBoundingClientRect()
    onChange(limit(square.minY + ((e.clientY - box.top) / box.height) * size))
  }
  const nudge = (e: KeyboardEvent): void => {
    const step = { ArrowUp: -1, ArrowDown: 1 }[e.key]
    if (step === undefined) return
    e.preventDefault()
    onChange(limit(line + step * (e.shiftKey ? 10 : 1)))
  }
  return (
    <div ref={frame} className="relative aspect-square w-full overflow-hidden rounded-xl bg-[var(--stage)]">
      {url && <img src={url} alt="" draggable={false} className="size-full object-contain" />}
      <div
        role="slider"
        tabIndex={0}
        aria-label="Line of the jaw"
        aria-orientation="vertical"
        aria-valuemin={Math.round(region.minY)}
        aria-valuemax={Math.round(region.maxY)}
        aria-valuenow={Math.round(line)}
        title="Drag: what lies below goes down with the mouth"
        className={`absolute inset-x-0 h-4 -translate-y-1/2 cursor-ns-resize ${GRIP}`}
        style={{ top: `${(100 * (line - square.minY)) / size}%` }}
        onPointerDown={(e) => grip(e)}
        onPointerMove={drag}
        onKeyDown={nudge}
      >
        <i className="absolute inset-x-0 top-1/2 border-t-2 border-dashed border-cord" />
        <i className="absolute top-1/2 right-3 size-3 -translate-y-1/2 rounded-full border-2 border-cord bg-panel" />
      </div>
    </div>
  )
}
