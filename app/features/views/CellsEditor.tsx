/** The sheet with its cells: boxes that are moved and sized, and the spot of each figure. */
import { useRef, type PointerEvent } from 'react'
import type { Box, Vec } from '@marionette/core/puppet/schema'
import type { DraftCell } from './splitting'
import { grip } from '../../ui/grip'
import { nth, sure } from '@marionette/core/kernel/sure'

interface CellsEditorProps {
  readonly url: string
  readonly region: Box
  readonly cells: readonly DraftCell[]
  readonly chosen: number | null
  readonly onChoose: (key: number) => void
  readonly onChange: (cell: DraftCell) => void
}

/** What of a cell is dragged: all of it, its spot, or the sides that a corner belongs to. */
type Grip = 'box' | 'spot' | 'nw' | 'ne' | 'sw' | 'se'
const CORNERS = ['nw', 'ne', 'sw', 'se'] as const
/** A box keeps at least this side, px. */
const LEAST = 8

export function CellsEditor({ url, region, cells, chosen, onChoose, onChange }: CellsEditorProps) {
  const svg = useRef<SVGSVGElement>(null)
  const drag = useRef<{ cell: DraftCell; grip: Grip; from: Vec } | null>(null)
  const unit = Math.max(region.width, region.height) / 640
  const spotOf = (e: PointerEvent): Vec => {
    const m = sure(sure(svg.current).getScreenCTM()).inverse()
    return { x: m.a * e.clientX + m.c * e.clientY + m.e, y: m.b * e.clientX + m.d * e.clientY + m.f }
  }
  const press = (cell: DraftCell, held: Grip) => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation()
    grip(e, sure(svg.current))
    drag.current = { cell, grip: held, from: spotOf(e) }
    onChoose(cell.key)
  }
  const move = (e: PointerEvent): void => {
    if (!drag.current) return
    const { cell, grip, from } = drag.current
    const at = spotOf(e)
    onChange(dragged(cell, grip, at.x - from.x, at.y - from.y))
  }
  const { x, y, width, height } = region
  const room = 14 * unit
  return (
    <svg
      ref={svg}
      viewBox={`${x - room} ${y - room} ${width + 2 * room} ${height + 2 * room}`}
      className="checker max-h-[52vh] w-full touch-none rounded-xl"
      data-testid="cells"
      onPointerMove={move}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
    >
      <image href={url} x={x} y={y} width={width} height={height} />
      {cells.map((cell) => (
        <CellMarks key={cell.key} cell={cell} unit={unit} isChosen={cell.key === chosen} press={(grip) => press(cell, grip)} />
      ))}
    </svg>
  )
}

function CellMarks({
  cell,
  unit,
  isChosen,
  press,
}: {
  cell: DraftCell
  unit: number
  isChosen: boolean
  press: (grip: Grip) => (e: PointerEvent<SVGElement>) => void
}) {
  const { box, spot } = cell
  const colour = isChosen ? 'var(--cord)' : 'var(--verdigris)'
  const corner = { nw: [0, 0], ne: [1, 0], sw: [0, 1], se: [1, 1] }
  return (
    <g data-cell={cell.name}>
      <rect
        x={box.x}
        y={box.y}
        width={box.width}
        height={box.height}
        rx={3 * unit}
        fill={colour}
        fillOpacity={isChosen ? 0.05 : 0}
        stroke={colour}
        strokeWidth={(isChosen ? 2 : 1.25) * unit}
        strokeDasharray={isChosen ? undefined : `${5 * unit} ${4 * unit}`}
        className="cursor-move"
        onPointerDown={press('box')}
      />
      <text
        x={box.x + 6 * unit}
        y={box.y + 15 * unit}
        fontSize={12 * unit}
        fontWeight={650}
        fill={colour}
        stroke="var(--halo)"
        strokeWidth={3 * unit}
        paintOrder="stroke"
        className="pointer-events-none"
      >
        {cell.name}
      </text>
      <line
        x1={spot.x - 26 * unit}
        x2={spot.x + 26 * unit}
        y1={spot.y}
        y2={spot.y}
        stroke={colour}
        strokeWidth={1.5 * unit}
        strokeLinecap="round"
      />
      <g className="cursor-grab" onPointerDown={press('spot')} data-spot={cell.name}>
        <circle cx={spot.x} cy={spot.y} r={9 * unit} fill="transparent" />
        <path
          d={`M${spot.x} ${spot.y}l${6 * unit} ${10 * unit}h${-12 * unit}z`}
          fill={colour}
          stroke="var(--halo)"
          strokeWidth={1.25 * unit}
          strokeLinejoin="round"
        />
      </g>
      {isChosen &&
        CORNERS.map((c) => (
          <circle
            key={c}
            cx={box.x + nth(corner[c], 0) * box.width}
            cy={box.y + nth(corner[c], 1) * box.height}
            r={5 * unit}
            fill="var(--halo)"
            stroke={colour}
            strokeWidth={1.75 * unit}
            className={c === 'nw' || c === 'se' ? 'cursor-nwse-resize' : 'cursor-nesw-resize'}
            onPointerDown={press(c)}
          />
        ))}
    </g>
  )
}

function dragged(cell: DraftCell, grip: Grip, dx: number, dy: number): DraftCell {
  const { box, spot } = cell
  const movedSpot = { x: spot.x + dx, y: spot.y + dy }
  if (grip === 'spot') return { ...cell, spot: movedSpot }
  if (grip === 'box') return { ...cell, box: { ...box, x: box.x + dx, y: box.y + dy }, spot: movedSpot }
  const left = box.x + (grip.endsWith('w') ? Math.min(dx, box.width - LEAST) : 0)
  const top = box.y + (grip.startsWith('n') ? Math.min(dy, box.height - LEAST) : 0)
  const right = box.x + box.width + (grip.endsWith('e') ? Math.max(dx, LEAST - box.width) : 0)
  const bottom = box.y + box.height + (grip.startsWith('s') ? Math.max(dy, LEAST - box.height) : 0)
  return { ...cell, box: { x: left, y: top, width: right - left, height: bottom - top } }
}
