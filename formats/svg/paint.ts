/** Colours and gradients. */
import { formatHex, parse } from 'culori'
import { IDENTITY, multiply } from '@marionette/core/geometry/affine'
import { isEmpty, type Bounds } from '@marionette/core/geometry/bounds'
import type { Affine, GradientStop, Paint } from '@marionette/core/document/schema'
import { parseLength, parseTransform } from './numbers'
import { computeStyle, INITIAL_STYLE, type Style } from './style'
import type { SvgElement } from './tree'

export interface Colouring {
  readonly paint: Paint
  readonly alpha: number
}

/** What percentages are of. */
export interface ViewSize {
  readonly width: number
  readonly height: number
}

export type PaintResult =
  | { readonly kind: 'paint'; readonly value: Colouring }
  | { readonly kind: 'none' }
  | { readonly kind: 'problem'; readonly message: string; readonly value: Colouring | null }

/** A colour as #rrggbb with its alpha, or null. */
export function parseColour(text: string): { colour: string; alpha: number } | null {
  const colour = parse(text)
  return colour ? { colour: formatHex(colour), alpha: colour.alpha ?? 1 } : null
}

/**
 * Reads a fill or stroke value.
 *
 * @param box bounds of the shape in its own space, for gradients that are measured by it
 * @param place map from the shape's own space to the drawing's
 */
export function resolvePaint(
  text: string,
  style: Style,
  ids: ReadonlyMap<string, SvgElement>,
  box: Bounds,
  place: Affine,
  view: ViewSize,
): PaintResult {
  const reference = /^url\(\s*(['"]?)#?(.*?)\1\s*\)\s*(.*)$/.exec(text)
  if (!reference) return flatPaint(text, style)
  const [, , id = '', fallback = ''] = reference
  const target = ids.get(id)
  const spare = fallback === '' || fallback === 'none' ? null : flatPaint(fallback, style)
  const value = spare?.kind === 'paint' ? spare.value : null
  if (!target) return { kind: 'problem', message: `refers to "${id}", which is not in the file`, value }
  if (target.name !== 'linearGradient' && target.name !== 'radialGradient') {
    return { kind: 'problem', message: `is painted with <${target.name}>, which is not drawn yet`, value }
  }
  return gradientPaint(target, ids, box, place, view)
}

function flatPaint(text: string, style: Style): PaintResult {
  if (text === 'none') return { kind: 'none' }
  const colour = parseColour(text.toLowerCase() === 'currentcolor' ? style['color']! : text)
  if (!colour) return { kind: 'problem', message: `has the unreadable colour "${text.slice(0, 60)}"`, value: null }
  return { kind: 'paint', value: { paint: { kind: 'flat', colour: colour.colour }, alpha: colour.alpha } }
}

/** The gradient and those it takes over from, nearest first; a circle of references ends the walk. */
function gradientChain(start: SvgElement, ids: ReadonlyMap<string, SvgElement>): SvgElement[] {
  const chain: SvgElement[] = []
  for (let at: SvgElement | undefined = start; at && !chain.includes(at);) {
    chain.push(at)
    const href: string | undefined = at.attributes['href'] ?? at.attributes['xlink:href']
    at = href?.startsWith('#') ? ids.get(href.slice(1)) : undefined
  }
  return chain
}

function readStops(chain: readonly SvgElement[], inherited: Style): GradientStop[] {
  const owner = chain.find((g) => g.children.some((c) => c.name === 'stop'))
  let last = 0
  return (owner?.children ?? [])
    .filter((c) => c.name === 'stop')
    .map((stop) => {
      const { style } = computeStyle(stop, inherited)
      const written = style['stop-color']!
      const colour = parseColour(written.toLowerCase() === 'currentcolor' ? style['color']! : written) ?? { colour: '#000000', alpha: 1 }
      last = Math.max(last, Math.min(1, Math.max(0, parseLength(stop.attributes['offset'], 1) ?? 0)))
      return { at: last, colour: colour.colour, alpha: colour.alpha * parseAlpha(style['stop-opacity']!) }
    })
}

/** An opacity as a number or percentage, brought into 0 to 1. */
export const parseAlpha = (text: string): number => Math.min(1, Math.max(0, parseLength(text, 1) ?? 1))

const SPREADS: Record<string, 'pad' | 'reflect' | 'repeat'> = { pad: 'pad', reflect: 'reflect', repeat: 'repeat' }

function gradientPaint(
  gradient: SvgElement,
  ids: ReadonlyMap<string, SvgElement>,
  box: Bounds,
  place: Affine,
  view: ViewSize,
): PaintResult {
  const chain = gradientChain(gradient, ids)
  const read = (name: string): string | undefined => chain.find((g) => g.attributes[name] !== undefined)?.attributes[name]
  const stops = readStops(chain, INITIAL_STYLE)
  if (stops.length === 0) return { kind: 'none' }
  if (stops.length === 1) return { kind: 'paint', value: { paint: { kind: 'flat', colour: stops[0]!.colour }, alpha: stops[0]!.alpha } }
  const inBox = read('gradientUnits') !== 'userSpaceOnUse'
  const wide = box.maxX - box.minX
  const high = box.maxY - box.minY
  if (inBox && (isEmpty(box) || wide === 0 || high === 0)) return { kind: 'none' }
  const transform = parseTransform(read('gradientTransform'))
  if (!transform) return { kind: 'problem', message: 'has a gradient whose transform cannot be read', value: null }
  const toBox: Affine = inBox ? [wide, 0, 0, high, box.minX, box.minY] : IDENTITY
  const map = multiply(place, multiply(toBox, transform))
  // Percentages are of the box, or of the view where the gradient is measured in user space.
  const whole = inBox ? { x: 1, y: 1, r: 1 } : { x: view.width, y: view.height, r: Math.hypot(view.width, view.height) / Math.SQRT2 }
  const length = (name: string, axis: 'x' | 'y' | 'r', share: number): number => parseLength(read(name), whole[axis]) ?? share * whole[axis]
  const common = { stops, spread: SPREADS[read('spreadMethod') ?? 'pad'] ?? 'pad', map }
  if (gradient.name === 'linearGradient') {
    const from = { x: length('x1', 'x', 0), y: length('y1', 'y', 0) }
    const to = { x: length('x2', 'x', 1), y: length('y2', 'y', 0) }
    return { kind: 'paint', value: { paint: { kind: 'linear', from, to, ...common }, alpha: 1 } }
  }
  const centre = { x: length('cx', 'x', 0.5), y: length('cy', 'y', 0.5) }
  const focus = { x: parseLength(read('fx'), whole.x) ?? centre.x, y: parseLength(read('fy'), whole.y) ?? centre.y }
  const radius = Math.max(0, length('r', 'r', 0.5))
  const paint: Paint = { kind: 'radial', focus, focusRadius: Math.max(0, length('fr', 'r', 0)), centre, radius, ...common }
  return { kind: 'paint', value: { paint, alpha: 1 } }
}
