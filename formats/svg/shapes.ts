/** Elements as shapes: outline, ink, line, markers, embedded pictures. */
import type { Affine, Shape } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply } from '@marionette/core/maths/geometry/affine'
import { emptyBounds, pathBounds } from '@marionette/core/maths/geometry/bounds'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { mapShape } from '@marionette/core/maths/geometry/shape'
import type { Context, Scope } from './context'
import { pictureShape } from './images'
import { lineOf } from './line'
import { markersOf } from './markers'
import { outlineOf, SHAPE_ELEMENTS, type PointIds } from './outline'
import { parseAlpha, resolvePaint, type Colouring, type PaintPlace } from './paint'
import { inheritable, type Style } from './style'
import type { SvgElement } from './tree'
import { useMap, viewportOf } from './use'

/** Elements that hold definitions or descriptions, not artwork. */
export const SILENT = new Set([
  'title',
  'desc',
  'metadata',
  'defs',
  'style',
  'linearGradient',
  'radialGradient',
  'pattern',
  'clipPath',
  'mask',
  'marker',
  'filter',
  'symbol',
  'view',
])

export const GROUPS = new Set(['g', 'a', 'svg', 'switch'])
const ANIMATIONS = new Set(['animate', 'set', 'animateTransform', 'animateMotion', 'animateColor'])

export const isShape = (element: SvgElement): boolean => SHAPE_ELEMENTS.has(element.name) || element.name === 'image'

/** Elements of other namespaces, and those that only describe or define. */
export const isSilent = (element: SvgElement): boolean => SILENT.has(element.name) || element.name.includes(':')

/** Elements that are placed as a whole, with room of their own. */
export const isViewport = (element: SvgElement): boolean => element.name === 'symbol' || element.name === 'svg'

/** Children of a group that are drawn: of a switch, the first whose conditions hold. */
export const drawnChildren = (element: SvgElement): readonly SvgElement[] =>
  element.name === 'switch' ? element.children.filter((child) => !isSilent(child) && isChosen(child)).slice(0, 1) : element.children

function isChosen({ attributes: { systemLanguage, requiredExtensions } }: SvgElement): boolean {
  return (systemLanguage === undefined || /(^|[\s,])en\b/i.test(systemLanguage)) && !requiredExtensions
}

/** Says of an element that it is not drawn, and why. */
export function nameUndrawn(context: Context, element: SvgElement): void {
  if (element.name === 'script') context.warn('svg.script', element, 'scripts are never run')
  else if (ANIMATIONS.has(element.name))
    context.warn('svg.animation', element, `<${element.name}> is not played; the drawing is taken as it begins`)
  else context.warn('svg.element', element, `<${element.name}> is not drawn`)
}

/**
 * Shapes of an element: itself and its markers; none where it has no outline.
 *
 * @param placed whether its own transform and opacity are taken into the shapes
 */
export function shapesOf(context: Context, element: SvgElement, scope: Scope, points: PointIds, placed: boolean): Shape[] {
  context.spend()
  const style = context.styleOf(element, scope.style)
  for (const child of element.children) if (!isSilent(child)) nameUndrawn(context, child)
  const place = placed ? context.transformOf(element, style, scope.view) : IDENTITY
  const alpha = placed && !scope.area ? parseAlpha(style['opacity']!) : 1
  if (element.name === 'image') return scope.area ? [] : pictureShape(context, element, style, scope, points, place, alpha)
  const { paths, problem } = outlineOf(element, context.cascade.attributes(element), points, scope.view)
  if (problem) context.warn('svg.outline', element, `its outline is broken (${problem}); only what came before is drawn`)
  if (paths.length === 0) return []
  const placedPaths = place === IDENTITY ? paths : paths.map((p) => mapPath(p, place))
  if (scope.area) return [{ id: 0, paths: placedPaths, ink: areaInk(style), line: null, alpha: 1, lineFirst: false }]
  const box = emptyBounds()
  for (const path of paths) pathBounds(path, box)
  const at: PaintPlace = { element, style, box, place, scope, flatten }
  const ink = paintOf(context, 'fill', at)
  const line = paintOf(context, 'stroke', at)
  const order = style['paint-order']!
  const shape: Shape = {
    id: 0,
    paths: placedPaths,
    ink: ink && { paint: ink.paint, alpha: ink.alpha, rule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero' },
    line: line && lineOf(style, line, at),
    alpha,
    lineFirst: isBefore(order, 'stroke', 'fill'),
  }
  const markers = faded(markersOf(context, element, style, scope, paths, place, flatten), alpha)
  return isBefore(order, 'markers', 'fill') ? [...markers, shape] : [shape, ...markers]
}

const faded = (shapes: readonly Shape[], alpha: number): Shape[] => shapes.map((s) => ({ ...s, alpha: s.alpha * alpha }))

const areaInk = (style: Style): Shape['ink'] => ({
  paint: { kind: 'flat', colour: '#000000' },
  alpha: 1,
  rule: style['clip-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
})

/** Whether a paint order puts one thing before another; what it does not name follows in the order fill, stroke, markers. */
function isBefore(order: string, first: string, second: string): boolean {
  const named = order.split(/\s+/).filter((w) => ['fill', 'stroke', 'markers'].includes(w))
  const full = [...named, ...['fill', 'stroke', 'markers'].filter((w) => !named.includes(w))]
  return full.indexOf(first) < full.indexOf(second)
}

function paintOf(context: Context, property: 'fill' | 'stroke', at: PaintPlace): Colouring | null {
  const result = resolvePaint(context, at.style[property]!, at)
  if (result.kind === 'none') return null
  if (result.kind === 'problem') context.warn('svg.paint', at.element, `its ${property} ${result.message}`)
  const value = result.value
  return value && { paint: value.paint, alpha: value.alpha * parseAlpha(at.style[`${property}-opacity`]!) }
}

/**
 * All shapes of some elements and what is in them, as one flat list under a map: for patterns and markers. Opacity
 * of groups is taken into their shapes; masks and effects in there are listed as not drawn.
 */
export function flatten(context: Context, elements: readonly SvgElement[], scope: Scope, map: Affine): Shape[] {
  return elements.flatMap((element): Shape[] => {
    if (isSilent(element)) return []
    const style = context.styleOf(element, scope.style)
    if (style['display'] === 'none') return []
    for (const property of ['clip-path', 'mask', 'filter'] as const)
      if (style[property] !== 'none') context.warn('svg.property', element, `${property} inside a pattern or marker is not drawn`)
    if (isShape(element)) {
      if (style['visibility'] !== 'visible') return []
      return shapesOf(context, element, scope, { next: 0 }, true).map((shape) => mapShape(shape, map))
    }
    context.spend()
    const inner = { ...scope, style: inheritable(style) }
    const alpha = parseAlpha(style['opacity']!)
    const own = multiply(map, context.transformOf(element, style, scope.view))
    if (element.name === 'use') {
      const target = context.target(element)
      const found = target && context.follow(element, target, () => flattenCopy(context, element, target, inner, own))
      return faded(found ?? [], alpha)
    }
    if (element.name === 'svg') {
      const room = viewportOf(element, scope.view)
      return faded(flatten(context, element.children, { ...inner, view: room.view }, multiply(own, room.map)), alpha)
    }
    if (GROUPS.has(element.name)) return faded(flatten(context, drawnChildren(element), inner, own), alpha)
    nameUndrawn(context, element)
    return []
  })
}

/** Shapes of what a `<use>` repeats. */
function flattenCopy(context: Context, use: SvgElement, target: SvgElement, scope: Scope, map: Affine): Shape[] {
  const placed = multiply(map, useMap(use, scope.view))
  if (!isViewport(target)) return flatten(context, [target], scope, placed)
  const style = context.styleOf(target, scope.style)
  const room = viewportOf(target, scope.view, use.attributes)
  const inner = { ...scope, style: inheritable(style), view: room.view }
  return faded(flatten(context, target.children, inner, multiply(placed, room.map)), parseAlpha(style['opacity']!))
}
