/** Two fingers on the stage move and size the view. */
import type { Vec } from '@marionette/core/puppet/schema'
import { panBy, zoomAt, type Camera } from './camera'

/** Fingers that are down, by their pointers, where they were last seen on the screen. */
export class Fingers {
  private readonly spots = new Map<number, Vec>()

  get count(): number {
    return this.spots.size
  }

  put(pointer: number, spot: Vec): void {
    this.spots.set(pointer, spot)
  }

  lift(pointer: number): void {
    this.spots.delete(pointer)
  }

  /** The camera once a finger has moved: what was between two fingers stays between them. */
  moved(camera: Camera, pointer: number, spot: Vec): Camera {
    const [a, b] = [...this.spots.values()]
    this.spots.set(pointer, spot)
    const [c, d] = [...this.spots.values()]
    if (this.count !== 2 || !a || !b || !c || !d) return camera
    const ratio = Math.hypot(d.x - c.x, d.y - c.y) / Math.max(1, Math.hypot(b.x - a.x, b.y - a.y))
    const middle = { x: (c.x + d.x) / 2, y: (c.y + d.y) / 2 }
    return zoomAt(panBy(camera, middle.x - (a.x + b.x) / 2, middle.y - (a.y + b.y) / 2), middle, ratio)
  }
}

/** A mouse wheel turns in steps of at least this much, px; what comes in smaller ones, or sideways, is scrolled on a trackpad. */
const WHEEL_STEP = 40

/** Whether a wheel event is scrolling with two fingers on a trackpad. */
export const isScroll = ({
  deltaX,
  deltaY,
  deltaMode,
  ctrlKey,
}: Pick<WheelEvent, 'deltaX' | 'deltaY' | 'deltaMode' | 'ctrlKey'>): boolean =>
  deltaMode === 0 && !ctrlKey && (deltaX !== 0 || Math.abs(deltaY) < WHEEL_STEP)

/** What a wheel event makes of the view: a trackpad scrolls it, Shift moves it sideways, all else zooms at the pointer. */
export function wheeled(camera: Camera, at: Vec, e: WheelEvent): Camera {
  if (isScroll(e)) return panBy(camera, -e.deltaX, -e.deltaY)
  const unit = e.deltaMode === 1 ? 16 : 1
  if (e.shiftKey && !e.ctrlKey) return panBy(camera, -(e.deltaX || e.deltaY) * unit, 0)
  return zoomAt(camera, at, Math.exp(-e.deltaY * unit * (e.ctrlKey ? 0.01 : 0.0016)))
}
