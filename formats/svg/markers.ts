/** Markers: drawings set on the points of a line. They become shapes of the drawing. */
import type { Affine, Path, Shape } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply, toDegrees, translation, turnAbout } from '@marionette/core/maths/geometry/affine'
import { forEachSegment } from '@marionette/core/maths/geometry/path'
import type { Context, Scope } from './context'
import { lineWidthOf } from './line'
import { parseLength } from './numbers'
import type { Flatten } from './paint'
import type { Style } from './style'
import type { SvgElement } from './tree'
import { fitOrCentre, parseViewBox } from './viewport'

interface Vertex {
  readonly x: number
  readonly y: number
  /** Directions in which the line comes in and goes out, radians, y down; null at loose ends. */
  into: number | null
  out: number | null
}

const MARKED = new Set(['path', 'line', 'polyline', 'polygon'])

/** Shapes of the markers of an element, under the map that places the element. */
export function markersOf(
  context: Context,
  element: SvgElement,
  style: Style,
  scope: Scope,
  paths: readonly Path[],
  place: Affine,
  flatten: Flatten,
): Shape[] {
  const ends = ['marker-start', 'marker-mid', 'marker-end'] as const
  if (!MARKED.has(element.name) || ends.every((end) => style[end] === 'none')) return []
  const vertices = paths.flatMap(verticesOf)
  const [start, mid, end] = ends.map((property) =>
    style[property] === 'none' ? null : context.reference(element, property, style[property]!, 'marker'),
  )
  return vertices.flatMap((vertex, k) => {
    const marker = k === 0 ? start : k === vertices.length - 1 ? end : mid
    if (!marker) return []
    return context.follow(element, marker, () => markerShapes(context, marker, style, scope, vertex, k === 0, place, flatten)) ?? []
  })
}

/** Points of a path with the directions of the line there; a closed path comes back to its first. */
function verticesOf(path: Path): Vertex[] {
  const out: Vertex[] = [{ x: path.anchors[0]!, y: path.anchors[1]!, into: null, out: null }]
  forEachSegment(path, (x0, y0, x1, y1, x2, y2, x3, y3) => {
    out.at(-1)!.out = firstDirection([x1 - x0, y1 - y0, x2 - x0, y2 - y0, x3 - x0, y3 - y0])
    out.push({ x: x3, y: y3, into: firstDirection([x3 - x2, y3 - y2, x3 - x1, y3 - y1, x3 - x0, y3 - y0]), out: null })
  })
  if (path.closed && out.length > 1) {
    out[0]!.into = out.at(-1)!.into
    out.at(-1)!.out = out[0]!.out
  }
  return out
}

/** Direction of the first vector that has a length. */
function firstDirection(vectors: readonly number[]): number | null {
  for (let i = 0; i < vectors.length; i += 2)
    if (Math.hypot(vectors[i]!, vectors[i + 1]!) > 1e-9) return Math.atan2(vectors[i + 1]!, vectors[i]!)
  return null
}

/** Direction of a vertex in degrees, clockwise: halfway between the line that comes and the line that goes. */
function bearing({ into, out }: Vertex): number {
  if (into === null || out === null) return toDegrees(into ?? out ?? 0)
  const between = Math.atan2(Math.sin(into) + Math.sin(out), Math.cos(into) + Math.cos(out))
  return toDegrees(between)
}

const WORDS: Record<string, number> = { left: 0, top: 0, center: 0.5, right: 1, bottom: 1 }

function markerShapes(
  context: Context,
  marker: SvgElement,
  style: Style,
  scope: Scope,
  vertex: Vertex,
  isFirst: boolean,
  place: Affine,
  flatten: Flatten,
): Shape[] {
  const a = marker.attributes
  const width = parseLength(a['markerWidth'], scope.view.width) ?? 3
  const height = parseLength(a['markerHeight'], scope.view.height) ?? 3
  if (!(width > 0 && height > 0)) return []
  const box = parseViewBox(a['viewBox'])
  const fit = box ? fitOrCentre(box, { x: 0, y: 0, width, height }, a['preserveAspectRatio']) : IDENTITY
  const side = (text: string | undefined, from: number, whole: number): number =>
    text !== undefined && text in WORDS ? from + WORDS[text]! * whole : (parseLength(text, whole) ?? 0)
  const refX = side(a['refX'], box?.x ?? 0, box?.width ?? width)
  const refY = side(a['refY'], box?.y ?? 0, box?.height ?? height)
  const orient = a['orient']?.trim() ?? '0'
  const turn = orient.startsWith('auto')
    ? bearing(vertex) + (isFirst && orient === 'auto-start-reverse' ? 180 : 0)
    : (parseLength(orient.replace(/deg$/, '')) ?? 0)
  const scale = a['markerUnits'] === 'userSpaceOnUse' ? 1 : lineWidthOf(style, scope)
  const steps: Affine[] = [
    place,
    translation(vertex.x, vertex.y),
    turnAbout(-turn, { x: 0, y: 0 }),
    [scale, 0, 0, scale, 0, 0],
    translation(-(fit[0] * refX), -(fit[3] * refY)),
    [fit[0], 0, 0, fit[3], 0, 0],
  ]
  const inner: Scope = { ...scope, style: context.placeStyle(marker), view: box ?? { width, height } }
  return flatten(context, marker.children, inner, steps.reduce(multiply))
}
