/** Computed styles: presentation attributes, style sheets and style attributes, with inheritance. */
import { parse } from 'css-tree'
import { declarationsOf, type StyleSheet } from './stylesheet'
import type { SvgElement } from './tree'

/** Properties that descend to children, with their initial values. */
const INHERITED: Readonly<Record<string, string>> = {
  fill: 'black',
  'fill-opacity': '1',
  'fill-rule': 'nonzero',
  'clip-rule': 'nonzero',
  stroke: 'none',
  'stroke-opacity': '1',
  'stroke-width': '1',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  'stroke-miterlimit': '4',
  'stroke-dasharray': 'none',
  'stroke-dashoffset': '0',
  'marker-start': 'none',
  'marker-mid': 'none',
  'marker-end': 'none',
  'paint-order': 'normal',
  visibility: 'visible',
  color: 'black',
  'font-size': '16px',
  'text-anchor': 'start',
  'image-rendering': 'auto',
  'color-interpolation-filters': 'linearRGB',
}

/** Properties of the element alone. */
const OWN: Readonly<Record<string, string>> = {
  opacity: '1',
  display: 'inline',
  overflow: '',
  'stop-color': 'black',
  'stop-opacity': '1',
  'flood-color': 'black',
  'flood-opacity': '1',
  transform: 'none',
  'transform-origin': '0 0',
  'transform-box': 'view-box',
  'clip-path': 'none',
  mask: 'none',
  'mask-type': 'luminance',
  filter: 'none',
  'mix-blend-mode': 'normal',
  isolation: 'auto',
}

/** Attributes of shapes that a style may set as well. */
const GEOMETRY = new Set(['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'd'])

/** Properties that draw something we do not draw, with the value at which they do nothing. */
const UNSUPPORTED: Readonly<Record<string, string>> = {
  'vector-effect': 'none',
  'backdrop-filter': 'none',
  animation: 'none',
  'animation-name': 'none',
}

/** Properties that cannot change how shapes look here. */
const HARMLESS =
  /^(font|text|letter|word|line-height|white-space|writing-mode|direction|unicode|glyph|dominant-baseline|alignment-baseline|baseline-shift|color-(interpolation|rendering|profile)$|shape-rendering|pointer-events|cursor|enable-background|clip$|lighting|kerning|will-change|block-progression|inline-size|shape-(inside|padding|margin|subtract)|solid-|animation-|transition|-)/

export type Style = Readonly<Record<string, string>>

export const INITIAL_STYLE: Style = { ...OWN, ...INHERITED }

export interface StyleFinding {
  readonly property: string
  readonly value: string
}

interface Declarations {
  readonly values: ReadonlyMap<string, string>
  /** Declarations that will not be drawn as meant. */
  readonly unsupported: readonly StyleFinding[]
}

/** Computes styles under one style sheet. What an element declares is worked out once. */
export class Cascade {
  private readonly known = new WeakMap<SvgElement, Declarations>()

  constructor(private readonly sheet: StyleSheet) {}

  /** Style of an element under an inherited style, which stands behind it as its prototype. */
  compute(element: SvgElement, inherited: Style): Style {
    const style = Object.create(inherited) as Record<string, string>
    for (const [property, value] of this.declared(element).values) {
      const initial = INITIAL_STYLE[property] ?? ''
      if (value === 'inherit' || (value === 'unset' && property in INHERITED)) style[property] = inherited[property] ?? initial
      else style[property] = value === 'initial' || value === 'unset' ? initial : value
    }
    return style
  }

  unsupported(element: SvgElement): readonly StyleFinding[] {
    return this.declared(element).unsupported
  }

  /** What an element says of a property itself, or undefined. */
  own(element: SvgElement, property: string): string | undefined {
    return this.declared(element).values.get(property)
  }

  /** The element's attributes, with those that a style sets instead. */
  attributes(element: SvgElement): Readonly<Record<string, string>> {
    const set = [...this.declared(element).values].filter(([property]) => GEOMETRY.has(property) && this.isStyled(element, property))
    return set.length === 0
      ? element.attributes
      : { ...element.attributes, ...Object.fromEntries(set.map(([p, v]) => [p, geometryValue(p, v)])) }
  }

  private isStyled(element: SvgElement, property: string): boolean {
    return this.declared(element).values.get(property) !== element.attributes[property]
  }

  private declared(element: SvgElement): Declarations {
    let declarations = this.known.get(element)
    if (!declarations) {
      declarations = this.gather(element)
      this.known.set(element, declarations)
    }
    return declarations
  }

  private gather(element: SvgElement): Declarations {
    const values = new Map<string, string>()
    const unsupported: StyleFinding[] = []
    const set = (property: string, value: string, isStyle: boolean): void => {
      if (property === 'marker' && isStyle) for (const end of ['start', 'mid', 'end']) values.set(`marker-${end}`, value)
      else if (property in INHERITED || property in OWN || (isStyle && GEOMETRY.has(property))) values.set(property, value)
      else if (property in UNSUPPORTED ? value !== UNSUPPORTED[property] : isStyle && !HARMLESS.test(property))
        unsupported.push({ property, value })
    }
    for (const [name, value] of Object.entries(element.attributes)) if (name !== 'transform') set(name, value.trim(), false)
    const text = element.attributes['style']
    const written = text ? declarationsOf(parse(text, { context: 'declarationList', parseCustomProperty: false })) : []
    const all = [...this.sheet.declarationsFor(element), ...written]
    for (const important of [false, true]) for (const d of all) if (d.important === important) set(d.property, d.value, true)
    return { values, unsupported }
  }
}

/** `path("M0 0")` of a style is what the attribute holds bare. */
const geometryValue = (property: string, value: string): string =>
  property === 'd' ? (/^path\(\s*(["'])(.*)\1\s*\)$/s.exec(value)?.[2] ?? value) : value

/** Chains of styles longer than this are written out, so that looking up stays cheap. */
const LONGEST_CHAIN = 12
const lengths = new WeakMap<Style, number>()

/** What children inherit from an element's style. */
export function inheritable(style: Style): Style {
  const behind = Object.getPrototypeOf(style) as Style
  const own = Object.keys(style).filter((property) => property in INHERITED)
  if (own.length === 0) return behind
  const length = (lengths.get(behind) ?? 0) + 1
  const isLong = length > LONGEST_CHAIN
  const out = (isLong ? { ...INITIAL_STYLE } : Object.create(behind)) as Record<string, string>
  for (const property of isLong ? Object.keys(INHERITED) : own) out[property] = style[property]!
  lengths.set(out, isLong ? 0 : length)
  return out
}

/** A style that is to be inherited, with one property changed. */
export const withProperty = (style: Style, property: string, value: string): Style =>
  Object.assign(Object.create(style) as Style, { [property]: value })
