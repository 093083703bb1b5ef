/** Filters of SVG and CSS as effects of parts. */
import { costOfEffect, MOST_STEPS } from '@marionette/core/layering/costs'
import type { Effect, EffectInput, EffectStep } from '@marionette/core/puppet/schema'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import type { Context, Scope } from './context'
import { parseLength, parseNumbers } from './numbers'
import { colourOf, parseAlpha, parseColour } from './paint'
import type { Style } from './style'
import type { SvgElement } from './tree'

/** Luminance of linear red, green and blue as the filter chapter of SVG gives it. */
const R = 0.2126
const G = 0.7152
const B = 0.0722

const rows = (...values: number[][]): number[] => values.flat()

/** Colour matrices of the filter chapter. */
const saturate = (s: number): number[] =>
  rows(
    [0.213 + 0.787 * s, 0.715 - 0.715 * s, 0.072 - 0.072 * s, 0, 0],
    [0.213 - 0.213 * s, 0.715 + 0.285 * s, 0.072 - 0.072 * s, 0, 0],
    [0.213 - 0.213 * s, 0.715 - 0.715 * s, 0.072 + 0.928 * s, 0, 0],
    [0, 0, 0, 1, 0],
  )

function turnHue(degrees: number): number[] {
  const c = Math.cos((degrees * Math.PI) / 180)
  const s = Math.sin((degrees * Math.PI) / 180)
  return rows(
    [0.213 + c * 0.787 - s * 0.213, 0.715 - c * 0.715 - s * 0.715, 0.072 - c * 0.072 + s * 0.928, 0, 0],
    [0.213 - c * 0.213 + s * 0.143, 0.715 + c * 0.285 + s * 0.14, 0.072 - c * 0.072 - s * 0.283, 0, 0],
    [0.213 - c * 0.213 - s * 0.787, 0.715 - c * 0.715 + s * 0.715, 0.072 + c * 0.928 + s * 0.072, 0, 0],
    [0, 0, 0, 1, 0],
  )
}

const luminanceToAlpha = rows([0, 0, 0, 0, 0], [0, 0, 0, 0, 0], [0, 0, 0, 0, 0], [R, G, B, 0, 0])
const scaleColours = (k: number, shift = 0): number[] =>
  rows([k, 0, 0, 0, shift], [0, k, 0, 0, shift], [0, 0, k, 0, shift], [0, 0, 0, 1, 0])
const scaleAlpha = (k: number): number[] => rows([1, 0, 0, 0, 0], [0, 1, 0, 0, 0], [0, 0, 1, 0, 0], [0, 0, 0, k, 0])

function sepia(amount: number): number[] {
  const t = 1 - amount
  return rows(
    [0.393 + 0.607 * t, 0.769 - 0.769 * t, 0.189 - 0.189 * t, 0, 0],
    [0.349 - 0.349 * t, 0.686 + 0.314 * t, 0.168 - 0.168 * t, 0, 0],
    [0.272 - 0.272 * t, 0.534 - 0.534 * t, 0.131 + 0.869 * t, 0, 0],
    [0, 0, 0, 1, 0],
  )
}

/** The effect of a `filter` property; null where it has none, with warnings for what is not drawn. */
export function effectOf(context: Context, element: SvgElement, style: Style, scope: Scope, box: Bounds): Effect | null {
  const written = style['filter']!
  if (written === 'none') return null
  if (!written.startsWith('url(')) return functionEffect(context, element, style, written)
  const filter = context.reference(element, 'filter', written, 'filter')
  const effect = filter && elementEffect(context, filter, scope, box)
  if (!effect || costOfEffect(effect) <= MOST_STEPS) return effect
  context.warn('svg.filter', element, 'its filter uses its own steps so often that it cannot be painted, and was left out')
  return null
}

/** Filter functions of CSS, e.g. `blur(2px) saturate(50%)`. They work on colour values as they are stored. */
function functionEffect(context: Context, element: SvgElement, style: Style, written: string): Effect | null {
  const steps: EffectStep[] = []
  for (const [, name = '', args = ''] of written.matchAll(/([\w-]+)\(((?:[^()]|\([^()]*\))*)\)/g)) {
    const of: EffectInput = steps.length === 0 ? 'source' : steps.length - 1
    const step = functionStep(name, args.trim(), of, style)
    if (step) steps.push(step)
    else context.warn('svg.filter', element, `the filter ${name}(${args.slice(0, 40)}) is not drawn`)
  }
  return steps.length === 0 ? null : { region: null, steps }
}

function functionStep(name: string, args: string, of: EffectInput, style: Style): EffectStep | null {
  const amount = parseLength(args.replace(/deg$/, ''), 1) ?? 1
  const colours = (matrix: number[]): EffectStep => ({ step: 'colours', of, matrix, linear: false })
  switch (name) {
    case 'blur': {
      const size = Math.max(0, parseLength(args || '0') ?? 0)
      return { step: 'blur', of, x: size, y: size, linear: false }
    }
    case 'drop-shadow': {
      const lengths = (args.match(/(?:^|\s)-?[\d.]+(px)?(?=\s|$)/g) ?? []).map((t) => parseLength(t) ?? 0)
      const named = parseColour(args.replace(/(?:^|\s)-?[\d.]+(px)?(?=\s|$)/g, ' ').trim()) ?? colourOf(style, 'color')
      const [dx = 0, dy = 0, size = 0] = lengths
      return { step: 'shadow', of, dx, dy, x: Math.max(0, size), y: Math.max(0, size), ...named, linear: false }
    }
    case 'saturate':
      return colours(saturate(Math.max(0, amount)))
    case 'grayscale':
      return colours(saturate(1 - Math.min(1, Math.max(0, amount))))
    case 'hue-rotate':
      return colours(turnHue(amount))
    case 'sepia':
      return colours(sepia(Math.min(1, Math.max(0, amount))))
    case 'invert':
      return colours(scaleColours(1 - 2 * Math.min(1, Math.max(0, amount)), Math.min(1, Math.max(0, amount))))
    case 'brightness':
      return colours(scaleColours(Math.max(0, amount)))
    case 'contrast':
      return colours(scaleColours(Math.max(0, amount), 0.5 - 0.5 * Math.max(0, amount)))
    case 'opacity':
      return colours(scaleAlpha(Math.min(1, Math.max(0, amount))))
    default:
      return null
  }
}

function elementEffect(context: Context, filter: SvgElement, scope: Scope, box: Bounds): Effect | null {
  const wide = box.maxX - box.minX
  const high = box.maxY - box.minY
  const inBox = filter.attributes['filterUnits'] !== 'userSpaceOnUse'
  const side = (name: string, whole: number, share: number): number => parseLength(filter.attributes[name], whole) ?? share * whole
  const region = inBox
    ? {
        x: box.minX + side('x', 1, -0.1) * wide,
        y: box.minY + side('y', 1, -0.1) * high,
        width: side('width', 1, 1.2) * wide,
        height: side('height', 1, 1.2) * high,
      }
    : {
        x: side('x', scope.view.width, -0.1),
        y: side('y', scope.view.height, -0.1),
        width: side('width', scope.view.width, 1.2),
        height: side('height', scope.view.height, 1.2),
      }
  if (!(region.width > 0 && region.height > 0 && Number.isFinite(region.x + region.y))) return null
  const inUnits = filter.attributes['primitiveUnits'] === 'objectBoundingBox' ? { x: wide, y: high } : { x: 1, y: 1 }
  const reader = new FilterReader(context, filter, inUnits)
  const steps = reader.read()
  return steps.length === 0 ? null : { region, steps }
}

const COMPOSITES = ['over', 'in', 'out', 'atop', 'xor', 'lighter'] as const

/** Reads the primitives of a `<filter>` in order; names of results become numbers of steps. */
class FilterReader {
  private readonly steps: EffectStep[] = []
  private readonly results = new Map<string, EffectInput>([
    ['SourceGraphic', 'source'],
    ['SourceAlpha', 'coverage'],
  ])
  private last: EffectInput = 'source'

  constructor(
    private readonly context: Context,
    private readonly filter: SvgElement,
    private readonly units: { readonly x: number; readonly y: number },
  ) {}

  read(): EffectStep[] {
    const inherited = this.context.placeStyle(this.filter)
    for (const primitive of this.filter.children) {
      if (!primitive.name.startsWith('fe')) continue
      const style = this.context.styleOf(primitive, inherited)
      const made = this.primitive(primitive, style, style['color-interpolation-filters'] === 'linearRGB')
      if (made) this.last = this.steps.push(made) - 1
      else this.last = this.input(primitive, 'in')
      const result = primitive.attributes['result']
      if (result) this.results.set(result, this.last)
    }
    return this.steps
  }

  private input(primitive: SvgElement, name: string): EffectInput {
    const written = primitive.attributes[name]?.trim()
    if (!written) return this.last
    const known = this.results.get(written)
    if (known === undefined)
      this.context.warn('svg.filter', primitive, `its ${name} "${written.slice(0, 40)}" is not known; the result before it is taken`)
    return known ?? this.last
  }

  private pair(primitive: SvgElement, name: string, fallback: number): [number, number] {
    const [a = fallback, b = a] = parseNumbers(primitive.attributes[name] ?? '') ?? []
    return [a, b]
  }

  private primitive(primitive: SvgElement, style: Style, linear: boolean): EffectStep | null {
    const of = this.input(primitive, 'in')
    const number = (name: string, fallback: number): number => parseLength(primitive.attributes[name]) ?? fallback
    const flood = (): { colour: string; alpha: number } => {
      const { colour, alpha } = colourOf(style, 'flood-color')
      return { colour, alpha: alpha * parseAlpha(style['flood-opacity']!) }
    }
    const blur = (fallback: number): { x: number; y: number } => {
      const [x, y] = this.pair(primitive, 'stdDeviation', fallback)
      return { x: Math.max(0, x) * this.units.x, y: Math.max(0, y) * this.units.y }
    }
    switch (primitive.name) {
      case 'feGaussianBlur':
        return { step: 'blur', of, ...blur(0), linear }
      case 'feDropShadow':
        return {
          step: 'shadow',
          of,
          dx: number('dx', 2) * this.units.x,
          dy: number('dy', 2) * this.units.y,
          ...blur(2),
          ...flood(),
          linear,
        }
      case 'feOffset':
        return { step: 'offset', of, dx: number('dx', 0) * this.units.x, dy: number('dy', 0) * this.units.y }
      case 'feFlood':
        return { step: 'flood', ...flood() }
      case 'feColorMatrix':
        return this.colourMatrix(primitive, of, linear)
      case 'feMerge': {
        const nodes = primitive.children.filter((c) => c.name === 'feMergeNode').map((node) => this.input(node, 'in'))
        return nodes.length === 0 ? null : { step: 'merge', of: nodes, linear }
      }
      case 'feComposite':
        return this.composite(primitive, of, linear)
      case 'feBlend': {
        const how = (primitive.attributes['mode'] ?? 'normal') as Extract<EffectStep, { step: 'blend' }>['how']
        return { step: 'blend', of, with: this.input(primitive, 'in2'), how, linear }
      }
      default:
        this.context.warn('svg.filter', primitive, `<${primitive.name}> is not drawn; what went into it is shown`)
        return null
    }
  }

  private colourMatrix(primitive: SvgElement, of: EffectInput, linear: boolean): EffectStep | null {
    const values = parseNumbers(primitive.attributes['values'] ?? '') ?? []
    const type = primitive.attributes['type'] ?? 'matrix'
    const matrix =
      type === 'matrix'
        ? values
        : type === 'saturate'
          ? saturate(values[0] ?? 1)
          : type === 'hueRotate'
            ? turnHue(values[0] ?? 0)
            : type === 'luminanceToAlpha'
              ? luminanceToAlpha
              : []
    return matrix.length === 20 ? { step: 'colours', of, matrix, linear } : null
  }

  private composite(primitive: SvgElement, of: EffectInput, linear: boolean): EffectStep | null {
    const under = this.input(primitive, 'in2')
    const operator = primitive.attributes['operator'] ?? 'over'
    const how = COMPOSITES.find((c) => c === operator)
    if (how) return { step: 'composite', of, with: under, how, linear }
    const [k1, k2, k3, k4] = ['k1', 'k2', 'k3', 'k4'].map((k) => parseLength(primitive.attributes[k]) ?? 0) as [
      number,
      number,
      number,
      number,
    ]
    const isShare = (k: number): boolean => k >= 0 && k <= 1
    if (operator === 'arithmetic' && k4 === 0 && k1 === 0 && k2 === -1 && k3 === 1)
      return { step: 'composite', of: under, with: of, how: 'out', linear }
    if (operator === 'arithmetic' && k4 === 0 && k1 === 1 && k2 === 0 && k3 === 0)
      return { step: 'composite', of, with: under, how: 'in', linear }
    if (operator === 'arithmetic' && k4 === 0 && k1 === 0 && isShare(k2) && isShare(k3)) {
      const first = this.steps.push({ step: 'colours', of, matrix: scaleAlpha(k2), linear: false }) - 1
      const second = this.steps.push({ step: 'colours', of: under, matrix: scaleAlpha(k3), linear: false }) - 1
      return { step: 'composite', of: first, with: second, how: 'lighter', linear }
    }
    this.context.warn(
      'svg.filter',
      primitive,
      `<feComposite> with operator "${operator}" and these numbers is not drawn; what went into it is shown`,
    )
    return null
  }
}
