/** Where repeated and nested drawings are placed. */
import type { Affine } from '@marionette/core/puppet/schema'
import { IDENTITY, translation } from '@marionette/core/maths/geometry/affine'
import type { ViewSize } from './context'
import { parseLength } from './numbers'
import type { SvgElement } from './tree'
import { fitOrCentre, parseViewBox, type Rect } from './viewport'

/** Shift of a `<use>`, after its transform. */
export function useMap(element: SvgElement, view: ViewSize): Affine {
  const x = parseLength(element.attributes['x'], view.width) ?? 0
  const y = parseLength(element.attributes['y'], view.height) ?? 0
  return x === 0 && y === 0 ? IDENTITY : translation(x, y)
}

export interface Viewport {
  readonly map: Affine
  /** What percentages inside are of. */
  readonly view: ViewSize
  /** What shows of it, in its own space. */
  readonly room: Rect
}

/**
 * Viewport of a nested `<svg>`, or of a `<symbol>` that a `<use>` places.
 *
 * @param given attributes that go before the element's own: the size of a `<use>`
 */
export function viewportOf(element: SvgElement, view: ViewSize, given: Readonly<Record<string, string>> = {}): Viewport {
  const own = element.name === 'svg' ? element.attributes : {}
  const room = {
    x: parseLength(own['x'], view.width) ?? 0,
    y: parseLength(own['y'], view.height) ?? 0,
    width: parseLength(given['width'] ?? own['width'], view.width) ?? view.width,
    height: parseLength(given['height'] ?? own['height'], view.height) ?? view.height,
  }
  const box = parseViewBox(element.attributes['viewBox'])
  if (!box) return { map: translation(room.x, room.y), view: room, room: { ...room, x: 0, y: 0 } }
  const map = fitOrCentre(box, room, element.attributes['preserveAspectRatio'])
  const [sx, , , sy, dx, dy] = map
  return { map, view: box, room: { x: (room.x - dx) / sx, y: (room.y - dy) / sy, width: room.width / sx, height: room.height / sy } }
}
