/** Colours, gradients and patterns. */
import { formatHex, parse } from 'culori'
import type { Affine, GradientStop, Paint, Shape } from '@marionette/core/puppet/schema'
import { IDENTITY, multiply } from '@marionette/core/maths/geometry/affine'
import { isEmpty, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { hrefOf, referenceOf, type Context, type Scope, type ViewSize } from './context'
import { parseLength, parseTransform } from './numbers'
import type { Style } from './style'
import type { SvgElement } from './tree'
import { fitOrCentre, parseViewBox } from './viewport'

export interface Colouring {
  readonly paint: Paint
  readonly alpha: number
}

export type PaintResult =
  | { readonly kind: 'paint'; readonly value: Colouring }
  | { readonly kind: 'none' }
  | { readonly kind: 'problem'; readonly message: string; readonly value: Colouring | null }

/** A colour as #rrggbb with its alpha, or null. */
export function parseColour(text: string): { colour: string; alpha: number } | null {
  const colour = parse(text.replace(/\s*icc-color\(.*$/, ''))
  return colour ? { colour: formatHex(colour), alpha: colour.alpha ?? 1 } : null
}

/** A colour property of a style, `currentColor` followed; black where it cannot be read. */
export function colourOf(style: Style, property: string): { colour: string; alpha: number } {
  const written = style[property]!
  return parseColour(written.toLowerCase() === 'currentcolor' ? style['color']! : written) ?? { colour: '#000000', alpha: 1 }
}

/** Reads the shapes inside an element as one flat list under a map: for patterns and markers. */
export type Flatten = (context: Context, elements: readonly SvgElement[], scope: Scope, map: Affine) => Shape[]

/** Where a paint is used. */
export interface PaintPlace {
  readonly element: SvgElement
  readonly style: Style
  /** Bounds of the shape in its own space, for paints that are measured by it. */
  readonly box: Bounds
  /** Map from the shape's own space to the drawing's. */
  readonly place: Affine
  readonly scope: Scope
  readonly flatten: Flatten
}

/** Reads a fill or stroke value. */
export function resolvePaint(context: Context, text: string, at: PaintPlace): PaintResult {
  const id = referenceOf(text)
  if (id === null) return flatPaint(text, at.style)
  const target = context.byReference(id)
  const fallback = text.replace(/^url\(.*?\)\s*/, '')
  const spare = fallback === '' || fallback === 'none' ? null : flatPaint(fallback, at.style)
  const value = spare?.kind === 'paint' ? spare.value : null
  if (!target) return { kind: 'problem', message: `refers to "${id.slice(0, 60)}", which is not in the file`, value }
  if (target.name === 'pattern') return patternPaint(context, target, at)
  if (target.name !== 'linearGradient' && target.name !== 'radialGradient')
    return { kind: 'problem', message: `is painted with <${target.name}>, which is no paint`, value }
  return gradientPaint(context, target, at)
}

function flatPaint(text: string, style: Style): PaintResult {
  if (text === 'none') return { kind: 'none' }
  const colour = parseColour(text.toLowerCase() === 'currentcolor' ? style['color']! : text)
  if (!colour) return { kind: 'problem', message: `has the unreadable colour "${text.slice(0, 60)}"`, value: null }
  return { kind: 'paint', value: { paint: { kind: 'flat', colour: colour.colour }, alpha: colour.alpha } }
}

/** A gradient or pattern and those that it takes over from, nearest first; a circle of references ends the walk. */
function chainOf(context: Context, start: SvgElement): SvgElement[] {
  const chain: SvgElement[] = []
  for (let at: SvgElement | undefined = start; at && !chain.includes(at);) {
    chain.push(at)
    const href: string | undefined = hrefOf(at)
    at = href?.startsWith('#') ? context.byReference(href.slice(1)) : undefined
  }
  return chain
}

function readStops(context: Context, chain: readonly SvgElement[]): GradientStop[] {
  const owner = chain.find((g) => g.children.some((c) => c.name === 'stop'))
  let last = 0
  return (owner?.children ?? [])
    .filter((c) => c.name === 'stop')
    .map((stop) => {
      const style = context.cascade.compute(stop, context.placeStyle(owner!))
      const { colour, alpha } = colourOf(style, 'stop-color')
      last = Math.max(last, Math.min(1, Math.max(0, parseLength(stop.attributes['offset'], 1) ?? 0)))
      return { at: last, colour, alpha: alpha * parseAlpha(style['stop-opacity']!) }
    })
}

/** An opacity as a number or percentage, brought into 0 to 1. */
export const parseAlpha = (text: string): number => Math.min(1, Math.max(0, parseLength(text, 1) ?? 1))

const SPREADS: Record<string, 'pad' | 'reflect' | 'repeat'> = { pad: 'pad', reflect: 'reflect', repeat: 'repeat' }

const flat = (stop: GradientStop): PaintResult => ({
  kind: 'paint',
  value: { paint: { kind: 'flat', colour: stop.colour }, alpha: stop.alpha },
})

/** Map from the unit square to a box. */
export const toBox = (box: Bounds): Affine => [box.maxX - box.minX, 0, 0, box.maxY - box.minY, box.minX, box.minY]

const isFlatBox = (box: Bounds): boolean => isEmpty(box) || box.maxX === box.minX || box.maxY === box.minY

const diagonalOf = (view: ViewSize): number => Math.hypot(view.width, view.height) / Math.SQRT2

function gradientPaint(context: Context, gradient: SvgElement, { box, place, scope }: PaintPlace): PaintResult {
  const chain = chainOf(context, gradient)
  const read = (name: string): string | undefined => chain.find((g) => g.attributes[name] !== undefined)?.attributes[name]
  const stops = readStops(context, chain)
  const last = stops.at(-1)
  if (!last) return { kind: 'none' }
  if (stops.length === 1) return flat(last)
  const inBox = read('gradientUnits') !== 'userSpaceOnUse'
  if (inBox && isFlatBox(box)) return { kind: 'none' }
  const transform = parseTransform(read('gradientTransform'))
  if (!transform) return { kind: 'problem', message: 'has a gradient whose transform cannot be read', value: null }
  const map = multiply(place, multiply(inBox ? toBox(box) : IDENTITY, transform))
  // Percentages are of the box, or of the view where the gradient is measured in user space.
  const whole = inBox ? { x: 1, y: 1, r: 1 } : { x: scope.view.width, y: scope.view.height, r: diagonalOf(scope.view) }
  const length = (name: string, axis: 'x' | 'y' | 'r', share: number): number => parseLength(read(name), whole[axis]) ?? share * whole[axis]
  const common = { stops, spread: SPREADS[read('spreadMethod') ?? 'pad'] ?? 'pad', map }
  if (gradient.name === 'linearGradient') {
    const from = { x: length('x1', 'x', 0), y: length('y1', 'y', 0) }
    const to = { x: length('x2', 'x', 1), y: length('y2', 'y', 0) }
    if (from.x === to.x && from.y === to.y) return flat(last)
    return { kind: 'paint', value: { paint: { kind: 'linear', from, to, ...common }, alpha: 1 } }
  }
  const centre = { x: length('cx', 'x', 0.5), y: length('cy', 'y', 0.5) }
  const radius = Math.max(0, length('r', 'r', 0.5))
  if (radius === 0) return flat(last)
  const written = { x: parseLength(read('fx'), whole.x) ?? centre.x, y: parseLength(read('fy'), whole.y) ?? centre.y }
  const focusRadius = Math.max(0, length('fr', 'r', 0))
  const paint: Paint = { kind: 'radial', focus: insideCircle(written, centre, radius), focusRadius, centre, radius, ...common }
  return { kind: 'paint', value: { paint, alpha: 1 } }
}

/** A focus outside of its circle is brought to the edge, as SVG 1.1 asks. */
function insideCircle(focus: { x: number; y: number }, centre: { x: number; y: number }, radius: number): { x: number; y: number } {
  const distance = Math.hypot(focus.x - centre.x, focus.y - centre.y)
  const share = distance > radius * 0.999 ? (radius * 0.999) / distance : 1
  return share === 1 ? focus : { x: centre.x + (focus.x - centre.x) * share, y: centre.y + (focus.y - centre.y) * share }
}

function patternPaint(context: Context, pattern: SvgElement, at: PaintPlace): PaintResult {
  const chain = chainOf(context, pattern)
  const read = (name: string): string | undefined => chain.find((g) => g.attributes[name] !== undefined)?.attributes[name]
  const transform = parseTransform(read('patternTransform'))
  if (!transform) return { kind: 'problem', message: 'has a pattern whose transform cannot be read', value: null }
  const inBox = read('patternUnits') !== 'userSpaceOnUse'
  const contentInBox = read('patternContentUnits') === 'objectBoundingBox'
  if ((inBox || contentInBox) && isFlatBox(at.box)) return { kind: 'none' }
  const { view } = at.scope
  const [wide, , , high, left, top] = inBox ? toBox(at.box) : [1, 0, 0, 1, 0, 0]
  const length = (name: string, whole: number): number => parseLength(read(name), inBox ? 1 : whole) ?? 0
  const tile = {
    x: left! + wide! * length('x', view.width),
    y: top! + high! * length('y', view.height),
    width: wide! * length('width', view.width),
    height: high! * length('height', view.height),
  }
  if (!(tile.width > 0 && tile.height > 0)) return { kind: 'none' }
  const viewBox = parseViewBox(read('viewBox'))
  // Without a view box the content is measured from the corner of its cell.
  const [cw, ch] = contentInBox ? [at.box.maxX - at.box.minX, at.box.maxY - at.box.minY] : [1, 1]
  const content: Affine = viewBox ? fitOrCentre(viewBox, tile, read('preserveAspectRatio')) : [cw, 0, 0, ch, tile.x, tile.y]
  const owner = chain.find((g) => g.children.length > 0) ?? pattern
  const scope: Scope = { ...at.scope, style: context.placeStyle(owner), view: viewBox ?? view, area: false }
  const shapes = context.follow(at.element, pattern, () => at.flatten(context, owner.children, scope, content))
  if (!shapes || shapes.length === 0) return { kind: 'none' }
  const id = context.ids('drawing')
  context.drawings.set(id, { id, shapes: shapes.map((shape, k) => ({ ...shape, id: k })) })
  return { kind: 'paint', value: { paint: { kind: 'pattern', drawing: id, tile, map: multiply(at.place, transform) }, alpha: 1 } }
}
