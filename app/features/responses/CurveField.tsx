/** A curve from nothing to all, with two handles to drag. */
import { useRef, type PointerEvent } from 'react'
import type { Curve } from '@marionette/core/puppet/schema'
import { grip, GRIP } from '../../ui/grip'
import { nth, sure } from '@marionette/core/kernel/sure'

const SIDE = 120
const ROOM = 24

const px = (x: number): number => ROOM + x * SIDE
const py = (y: number): number => ROOM + (1 - y) * SIDE

export function CurveField({ curve, onChange }: { curve: Curve; onChange: (curve: Curve) => void }) {
  const box = useRef<SVGSVGElement>(null)
  const held = useRef<0 | 1 | null>(null)
  const move = (e: PointerEvent): void => {
    if (held.current === null) return
    const { left, top } = sure(box.current).getBoundingClientRect()
    const x = Math.min(1, Math.max(0, (e.clientX - left - ROOM) / SIDE))
    const y = Math.min(1.2, Math.max(-0.2, 1 - (e.clientY - top - ROOM) / SIDE))
    const round = (v: number): number => Math.round(v * 100) / 100
    const next: Curve = [...curve]
    next[2 * held.current] = round(x)
    next[2 * held.current + 1] = round(y)
    onChange(next)
  }
  const [x1, y1, x2, y2] = curve
  const step = (k: 0 | 1, dx: number, dy: number): void => {
    const next: Curve = [...curve]
    next[2 * k] = Math.min(1, Math.max(0, nth(next, 2 * k) + dx))
    next[2 * k + 1] = nth(next, 2 * k + 1) + dy
    onChange(next)
  }
  return (
    <svg
      ref={box}
      width={SIDE + 2 * ROOM}
      height={SIDE + 2 * ROOM}
      className="mt-1 touch-none"
      onPointerMove={move}
      onPointerUp={() => (held.current = null)}
    >
      <rect x={ROOM} y={ROOM} width={SIDE} height={SIDE} fill="var(--tint)" rx={6} />
      <path d={`M${px(0)} ${py(0)}L${px(x1)} ${py(y1)}M${px(1)} ${py(1)}L${px(x2)} ${py(y2)}`} stroke="var(--twine)" fill="none" />
      <path
        d={`M${px(0)} ${py(0)}C${px(x1)} ${py(y1)} ${px(x2)} ${py(y2)} ${px(1)} ${py(1)}`}
        stroke="var(--ink)"
        strokeWidth={2}
        fill="none"
      />
      {([0, 1] as const).map((k) => (
        <circle
          key={k}
          cx={px(nth(curve, 2 * k))}
          cy={py(nth(curve, 2 * k + 1))}
          r={6}
          fill="var(--panel)"
          stroke="var(--cord)"
          strokeWidth={2}
          tabIndex={0}
          role="slider"
          aria-label={k === 0 ? 'First handle of the curve' : 'Second handle of the curve'}
          aria-valuenow={curve[2 * k + 1]}
          className={`cursor-grab ${GRIP}`}
          onPointerDown={(e) => {
            held.current = k
            grip(e, sure(box.current))
          }}
          onKeyDown={(e) => {
            const by = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] }[e.key]
            if (!by) return
            e.preventDefault()
            step(k, nth(by, 0), nth(by, 1))
          }}
        />
      ))}
    </svg>
  )
}
