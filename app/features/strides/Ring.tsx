/**
 * The ring of a stride: one round of it, with an arc for each leg where its foot stands. An arc is dragged round to when it should come down;
 * legs that step together go together, one alone with Alt. The end of any arc is dragged to when feet lift.
 */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Stride } from '@marionette/core/strides/records'
import { grip, GRIP } from '../../ui/grip'
import { useEscape } from '../clips/useEscape'

const SIZE = 148
const MIDDLE = SIZE / 2
const OUTER = 66
/** Legs that step at the same time to within this are a group. */
const TOGETHER = 0.004
const COLOURS = ['var(--cord)', '#2d8577', '#b27e1e', '#a83279', '#2a7fa8', '#7a3e9d', '#3d7d2a', '#b8572a']

const TURN = 2 * Math.PI
const round = (t: number): number => t - Math.floor(t)

const spot = (phase: number, radius: number): readonly [number, number] => [
  MIDDLE + radius * Math.sin(TURN * phase),
  MIDDLE - radius * Math.cos(TURN * phase),
]

function arc(from: number, share: number, radius: number): string {
  const [x0, y0] = spot(from, radius)
  const [x1, y1] = spot(from + share, radius)
  return `M ${x0} ${y0} A ${radius} ${radius} 0 ${share > 0.5 ? 1 : 0} 1 ${x1} ${y1}`
}

/** Legs with one moved round the ring, and those that step with it. */
const shifted = (from: Stride['legs'], leg: number, by: number, isAlone: boolean): Stride['legs'] => {
  const at = from[leg]?.at ?? 0
  const near = (other: number): boolean => Math.min(round(other - at), round(at - other)) < TOGETHER
  return from.map((one, k) =>
    k === leg || (!isAlone && near(one.at)) ? { ...one, at: Math.round(1000 * round(one.at + by)) / 1000 } : one,
  )
}

interface RingProps {
  readonly stride: Stride
  readonly leg: number
  readonly onChoose: (leg: number) => void
  readonly onDrag: (given: Partial<Pick<Stride, 'legs' | 'duty'>>) => void
  readonly onDragEnd: (kept: boolean) => void
}

interface Held {
  readonly leg: number
  readonly isEnd: boolean
  /** Phase of the press, and of the legs then. */
  readonly from: number
  readonly legs: Stride['legs']
}

export function Ring({ stride, leg: chosen, onChoose, onDrag, onDragEnd }: RingProps) {
  const frame = useRef<SVGSVGElement>(null)
  const [held, setHeld] = useState<Held | null>(null)
  const { legs, duty } = stride
  const width = Math.max(4, Math.min(10, 44 / Math.max(1, legs.length)))
  const phaseOf = (e: PointerEvent): number => {
    const box = frame.current?.getBoundingClientRect()
    if (!box) return 0
    return round(Math.atan2(e.clientX - box.left - box.width / 2, -(e.clientY - box.top - box.height / 2)) / TURN)
  }
  const press =
    (leg: number, isEnd: boolean) =>
    (e: PointerEvent<SVGElement>): void => {
      if (e.button !== 0) return
      grip(e)
      onChoose(leg)
      setHeld({ leg, isEnd, from: phaseOf(e), legs })
    }
  const move = (e: PointerEvent<SVGElement>): void => {
    if (!held) return
    const now = phaseOf(e)
    if (held.isEnd) {
      const share = round(now - (held.legs[held.leg]?.at ?? 0))
      return onDrag({ duty: Math.round(100 * Math.min(0.95, Math.max(0.05, share))) / 100 })
    }
    onDrag({ legs: shifted(held.legs, held.leg, now - held.from, e.altKey) })
  }
  const end = (kept: boolean) => (): void => {
    if (!held) return
    setHeld(null)
    onDragEnd(kept)
  }
  useEscape(held !== null, end(false))
  const key =
    (leg: number) =>
    (e: KeyboardEvent): void => {
      const by = e.key === 'ArrowRight' || e.key === 'ArrowDown' ? 0.01 : e.key === 'ArrowLeft' || e.key === 'ArrowUp' ? -0.01 : 0
      if (by === 0) return
      e.preventDefault()
      onChoose(leg)
      onDrag({ legs: shifted(legs, leg, by, e.altKey) })
      onDragEnd(true)
    }
  const handlers = { onPointerMove: move, onPointerUp: end(true), onPointerCancel: end(false) }
  return (
    <svg
      ref={frame}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      width={SIZE}
      height={SIZE}
      role="group"
      aria-label="The ring of the stride"
      className="mx-auto block select-none"
    >
      {[0, 0.25, 0.5, 0.75].map((phase) => {
        const [[x0, y0], [x1, y1]] = [spot(phase, 12), spot(phase, OUTER + width / 2 + 2)]
        return <line key={phase} x1={x0} y1={y0} x2={x1} y2={y1} stroke="var(--hair)" />
      })}
      {legs.map((leg, k) => {
        const radius = OUTER - k * (width + 1.5)
        const colour = COLOURS[k % COLOURS.length] ?? 'var(--cord)'
        const [x, y] = spot(leg.at + duty, radius)
        return (
          <g key={`${k}-${leg.name}`}>
            <circle cx={MIDDLE} cy={MIDDLE} r={radius} fill="none" stroke="var(--hair)" strokeWidth={1} />
            <path
              d={arc(leg.at, duty, radius)}
              data-leg={k}
              role="slider"
              tabIndex={0}
              aria-label={`${leg.name} comes down`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(100 * leg.at)}
              aria-valuetext={`${Math.round(100 * leg.at)}% of the stride`}
              fill="none"
              stroke={colour}
              strokeOpacity={chosen === k ? 1 : 0.62}
              strokeWidth={width}
              strokeLinecap="round"
              className={`cursor-grab outline-none focus-visible:opacity-80 ${GRIP}`}
              onPointerDown={press(k, false)}
              onKeyDown={key(k)}
              {...handlers}
            >
              <title>{`${leg.name}: drag to when it comes down; Alt for it alone`}</title>
            </path>
            <circle
              cx={x}
              cy={y}
              r={Math.max(3.5, width / 2)}
              data-lift={k}
              fill="var(--panel)"
              stroke={colour}
              strokeWidth={1.75}
              className={`cursor-grab ${GRIP}`}
              onPointerDown={press(k, true)}
              {...handlers}
            >
              <title>Feet lift: drag to how long they stand</title>
            </circle>
          </g>
        )
      })}
    </svg>
  )
}
