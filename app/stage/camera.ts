/** The view of the canvas: screen = canvas · zoom + offset, in CSS pixels of the stage. */
import type { Vec } from '@marionette/core/puppet/schema'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'

export interface Camera {
  readonly zoom: number
  readonly x: number
  readonly y: number
}

export const SMALLEST_ZOOM = 0.02
export const LARGEST_ZOOM = 64

export const toScreen = (c: Camera, p: Vec): Vec => ({ x: p.x * c.zoom + c.x, y: p.y * c.zoom + c.y })
export const toCanvas = (c: Camera, p: Vec): Vec => ({ x: (p.x - c.x) / c.zoom, y: (p.y - c.y) / c.zoom })

/** Zooms so that the spot under the pointer stays there. */
export function zoomAt(c: Camera, spot: Vec, factor: number): Camera {
  const zoom = Math.min(LARGEST_ZOOM, Math.max(SMALLEST_ZOOM, c.zoom * factor))
  const k = zoom / c.zoom
  return { zoom, x: spot.x - (spot.x - c.x) * k, y: spot.y - (spot.y - c.y) * k }
}

export const panBy = (c: Camera, dx: number, dy: number): Camera => ({ ...c, x: c.x + dx, y: c.y + dy })

/** Room kept around a framed region: the hint line above, the toolbelt below. */
const ROOM = { left: 40, right: 40, top: 44, bottom: 88 }

/** How the room for a region is used: how close it may come, and what a bar below the hint line takes of it, in CSS pixels. */
export interface Framing {
  readonly closest?: number
  readonly barred?: number
}

/** Shows a region whole, in the middle of the free room. */
export function frameRegion(box: Bounds, width: number, height: number, { closest = 4, barred = 0 }: Framing = {}): Camera {
  const top = ROOM.top + barred
  const wide = Math.max(1, width - ROOM.left - ROOM.right)
  const high = Math.max(1, height - top - ROOM.bottom)
  const zoom = Math.max(SMALLEST_ZOOM, Math.min(closest, wide / Math.max(1, box.maxX - box.minX), high / Math.max(1, box.maxY - box.minY)))
  return {
    zoom,
    x: ROOM.left + wide / 2 - ((box.minX + box.maxX) / 2) * zoom,
    y: top + high / 2 - ((box.minY + box.maxY) / 2) * zoom,
  }
}

/**
 * How far the view goes down, in CSS pixels, so that a bar that comes over the stage covers nothing: as far as the
 * uppermost of what is shown lies behind the bar, but only where it is in view at all.
 *
 * @param top the uppermost of what is shown, on the screen
 * @param height of the bar
 */
export function downBelowBar(top: number, height: number): number {
  const edge = ROOM.top + height
  return height > 0 && top >= 0 && top < edge ? edge - top : 0
}
