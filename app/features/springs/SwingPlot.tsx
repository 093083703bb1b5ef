/** How a spring swings when it is let go, as it is and as it was before the last change; its first swing and its end are dragged to where they should be. */
import { useRef, useState, type PointerEvent } from 'react'
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { firstSwing, matchedSettle, matchedSwing, readSwing, swingOf, type SwingNature } from '@marionette/core/springs/swing'
import { nth } from '@marionette/core/kernel/sure'
import { grip, GRIP } from '../../ui/grip'
import { useEscape } from '../clips/useEscape'

const HEIGHT = 128
const MARGIN = { top: 8, right: 10, bottom: 4, left: 4 }
const AXIS = { x: 18, y: 34 }
const POINTS = 161
const TICK = { fontSize: 10, fill: 'var(--quiet)' } as const

interface PlotProps {
  readonly nature: SwingNature
  readonly before: SwingNature | null
  /** Called while a handle is dragged. */
  readonly onDrag: (nature: SwingNature) => void
  readonly onDragEnd: (kept: boolean) => void
}

/** Seconds that the plot shows: until it has settled, in round numbers. */
const spanOf = (settle: number): number => [0.5, 1, 1.5, 2, 3, 4, 6, 8, 12, 16, 24, 40].find((s) => s >= 1.25 * settle) ?? 40

export default function SwingPlot({ nature, before, onDrag, onDragEnd }: PlotProps) {
  const frame = useRef<HTMLDivElement>(null)
  // While a handle is dragged the scale stays.
  const [held, setHeld] = useState<{ readonly which: 'swing' | 'end'; readonly span: number; readonly top: number } | null>(null)
  const span = held?.span ?? spanOf(nature.settle)
  const top = held?.top ?? Math.max(0.5, nature.throw)
  const full = Math.round(100 * top)
  const now = swingOf(nature, span, POINTS)
  const was = before && swingOf(before, span, POINTS)
  const { settled, overshoot } = readSwing(now)
  const points = Array.from(now.times, (t, k) => ({
    t: Math.round(1000 * t) / 1000,
    now: Math.round(1000 * nth(now.out, k)) / 10,
    ...(was ? { was: Math.round(1000 * nth(was.out, k)) / 10 } : {}),
  }))
  const swing = firstSwing(nature)
  const inside = { left: MARGIN.left + AXIS.y, right: MARGIN.right, top: MARGIN.top, high: HEIGHT - MARGIN.top - MARGIN.bottom - AXIS.x }
  const across = (t: number): string => `calc(${inside.left}px + ${Math.min(1, t / span)} * (100% - ${inside.left + inside.right}px))`
  const down = (share: number): number => inside.top + ((top - share) / (2 * top)) * inside.high
  const press =
    (which: 'swing' | 'end') =>
    (e: PointerEvent<HTMLElement>): void => {
      if (e.button !== 0) return
      grip(e)
      setHeld({ which, span, top })
    }
  const move = (e: PointerEvent<HTMLElement>): void => {
    const box = frame.current?.getBoundingClientRect()
    if (!held || !box) return
    const t = Math.max(0.01, ((e.clientX - box.left - inside.left) / (box.width - inside.left - inside.right)) * span)
    const share = top - ((e.clientY - box.top - inside.top) / inside.high) * 2 * top
    onDrag(held.which === 'end' ? matchedSettle(nature, t) : matchedSwing(nature, t, -share / Math.max(0.01, nature.throw)))
  }
  const end = (kept: boolean) => (): void => {
    if (!held) return
    setHeld(null)
    onDragEnd(kept)
  }
  useEscape(held !== null, end(false))
  const handle = (which: 'swing' | 'end', label: string, t: number, share: number) => (
    <span
      role="img"
      aria-label={label}
      title={label}
      data-handle={which}
      className={`absolute size-3.5 -translate-x-1/2 -translate-y-1/2 cursor-grab rounded-full border-2 border-cord bg-panel ${GRIP}`}
      style={{ left: across(t), top: down(share) }}
      onPointerDown={press(which)}
      onPointerMove={move}
      onPointerUp={end(true)}
      onPointerCancel={end(false)}
    />
  )
  return (
    <figure className="mt-1" aria-label="How it swings when it is let go">
      <div ref={frame} className="relative" style={{ height: HEIGHT }}>
        <ResponsiveContainer width="100%" height={HEIGHT}>
          <LineChart data={points} margin={MARGIN}>
            <XAxis dataKey="t" type="number" domain={[0, span]} tick={TICK} height={AXIS.x} stroke="var(--hair)" unit=" s" tickCount={4} />
            <YAxis tick={TICK} stroke="var(--hair)" domain={[-full, full]} ticks={[-full, 0, full]} width={AXIS.y} unit="%" />
            <ReferenceLine y={0} stroke="var(--hair)" />
            {was && (
              <Line dataKey="was" stroke="var(--quiet)" strokeWidth={1.25} strokeDasharray="4 3" dot={false} isAnimationActive={false} />
            )}
            <Line dataKey="now" stroke="var(--cord)" strokeWidth={2} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
        {swing &&
          swing.time < span &&
          handle('swing', 'The first swing: drag it to where it should be', swing.time, -nature.throw * swing.depth)}
        {handle('end', 'The end: drag it to when the swing should be over', Math.min(span, nature.settle), 0)}
      </div>
      <figcaption className="cap flex justify-between gap-2">
        <span data-testid="swing-settled">Settled {settled === null ? `after ${span} s and more` : `after ${settled.toFixed(2)} s`}</span>
        <span data-testid="swing-overshoot">Overshoot {Math.round(100 * overshoot)}%</span>
      </figcaption>
    </figure>
  )
}
