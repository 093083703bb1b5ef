/** View boxes and how they are fitted into the room they are given. */
import type { Affine } from '@marionette/core/puppet/schema'
import { IDENTITY } from '@marionette/core/maths/geometry/affine'
import { parseNumbers } from './numbers'

export interface Rect {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** A view box, or null where there is none or it has no extent. */
export function parseViewBox(text: string | undefined): Rect | null {
  const box = parseNumbers(text ?? '')
  return box?.length === 4 && box[2]! > 0 && box[3]! > 0 ? { x: box[0]!, y: box[1]!, width: box[2]!, height: box[3]! } : null
}

const SHARE: Record<string, number> = { Min: 0, Mid: 0.5, Max: 1 }

/** Map that fits a box into a room by `preserveAspectRatio`; null where that cannot be read. */
export function fitBox(box: Rect, room: Rect, written: string | undefined): Affine | null {
  const text = (written ?? '').trim().replace(/^defer\s+/, '') || 'xMidYMid meet'
  const sx = room.width / box.width
  const sy = room.height / box.height
  if (/^none(\s|$)/.test(text)) return [sx, 0, 0, sy, room.x - sx * box.x, room.y - sy * box.y]
  const match = /^x(Min|Mid|Max)Y(Min|Mid|Max)(?:\s+(meet|slice))?$/.exec(text)
  if (!match) return null
  const scale = match[3] === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy)
  return [
    scale,
    0,
    0,
    scale,
    room.x + (room.width - scale * box.width) * SHARE[match[1]!]! - scale * box.x,
    room.y + (room.height - scale * box.height) * SHARE[match[2]!]! - scale * box.y,
  ]
}

/** The fit, or the default one where what is written cannot be read. */
export const fitOrCentre = (box: Rect, room: Rect, written: string | undefined): Affine =>
  fitBox(box, room, written) ?? fitBox(box, room, undefined) ?? IDENTITY
