/** Drawing of the lanes of the timeline: keys in rows, of which whole moves are joined by a line. */
import type { Key } from '@marionette/core/clips/records'
import type { ChosenKey } from './acting'
import type { Pen, Sheet } from './pen'
import { ROW, type TimelineRow } from './rows'
import type { TimeScale } from '@marionette/core/clips/graph'
import { nth } from '@marionette/core/kernel/sure'

/** Keys that are chosen, to be asked by channel and time. */
export type Chosen = ReadonlySet<string>
export const chosenSet = (keys: readonly ChosenKey[]): Chosen => new Set(keys.map(({ channel, time }) => `${channel} ${time.toFixed(4)}`))
export const isChosen = (chosen: Chosen, channel: string, time: number): boolean => chosen.has(`${channel} ${time.toFixed(4)}`)

const RADIUS = 4.5

/**
 * A key is a bead on the line. Where the curve goes on in a straight line it is a peg; where the value stays it has a bar to its right,
 * along which it stays; hollow beads have handles of their own.
 */
export function drawKey(pen: Pen, x: number, y: number, way: Key['way'], radius = RADIUS): void {
  pen.beginPath()
  if (way === 'linear') return pen.roundRect(x - radius / 2, y - radius - 1, radius, 2 * radius + 2, radius / 2)
  pen.arc(x, y, radius, 0, 2 * Math.PI)
  if (way === 'stepped') pen.rect(x, y - 1.25, 2.5 * radius, 2.5)
}

interface Lanes {
  readonly rows: readonly TimelineRow[]
  readonly scale: TimeScale
  readonly length: number
  readonly chosen: Chosen
  /** How far the rows are scrolled, px. */
  readonly top: number
  /** What is drawn round keys to choose them, px. */
  readonly box: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number } | null
}

/** Draws the lanes that are in sight. */
export function drawLanes({ pen, width, height, colour }: Sheet, lanes: Lanes): void {
  const { rows, scale, length, chosen, top, box } = lanes
  pen.clearRect(0, 0, width, height)
  const [begin, end] = [Math.max(0, scale.x(0)), Math.min(width, scale.x(length))]
  const first = Math.max(0, Math.floor(top / ROW))
  for (let k = first; k < rows.length && k * ROW - top < height; k++) {
    const row = nth(rows, k)
    const y = k * ROW - top + ROW / 2
    pen.strokeStyle = colour('--hair')
    pen.lineWidth = 1
    pen.beginPath()
    pen.moveTo(begin, y)
    pen.lineTo(end, y)
    pen.stroke()
    if (row.kind === 'track') drawTrack({ pen, width, height, colour }, row.keys, row, y, scale, chosen)
    else {
      pen.fillStyle = colour('--panel')
      pen.strokeStyle = colour(row.colour)
      pen.lineWidth = 1.5
      for (const time of row.times) {
        drawKey(pen, scale.x(time), y, 'smooth', 3.5)
        pen.fill()
        pen.stroke()
      }
    }
  }
  if (!box) return
  pen.fillStyle = colour('--cord-soft')
  pen.globalAlpha = 0.5
  pen.fillRect(Math.min(box.x0, box.x1), Math.min(box.y0, box.y1), Math.abs(box.x1 - box.x0), Math.abs(box.y1 - box.y0))
  pen.globalAlpha = 1
  pen.strokeStyle = colour('--cord')
  pen.strokeRect(Math.min(box.x0, box.x1), Math.min(box.y0, box.y1), Math.abs(box.x1 - box.x0), Math.abs(box.y1 - box.y0))
}

function drawTrack(
  { pen, width, colour }: Sheet,
  keys: readonly Key[],
  row: { readonly id: string; readonly colour: string },
  y: number,
  scale: TimeScale,
  chosen: Chosen,
): void {
  const own = colour(row.colour)
  pen.strokeStyle = own
  pen.lineWidth = 1.5
  // A line where something moves; where the value stays there is none.
  for (let k = 0; k + 1 < keys.length; k++) {
    const [a, b] = [nth(keys, k), nth(keys, k + 1)]
    if (a.value === b.value || a.way === 'stepped') continue
    pen.beginPath()
    pen.moveTo(scale.x(a.time), y)
    pen.lineTo(scale.x(b.time), y)
    pen.stroke()
  }
  for (const key of keys) {
    const x = scale.x(key.time)
    if (x < -8 || x > width + 8) continue
    const isOn = isChosen(chosen, row.id, key.time)
    drawKey(pen, x, y, key.way, isOn ? RADIUS + 1 : RADIUS)
    pen.fillStyle = isOn ? colour('--cord') : key.way === 'custom' ? colour('--panel') : own
    pen.fill()
    if (!isOn && key.way !== 'custom') continue
    pen.strokeStyle = isOn ? colour('--cord') : own
    pen.stroke()
    pen.strokeStyle = own
  }
}
