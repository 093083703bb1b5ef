/** Presentation attributes and style attributes with inheritance. */
import { generate, parse, walk } from 'css-tree'
import type { SvgElement } from './tree'

/** Properties that descend to children, with their initial values. */
const INHERITED: Readonly<Record<string, string>> = {
  fill: 'black',
  'fill-opacity': '1',
  'fill-rule': 'nonzero',
  stroke: 'none',
  'stroke-opacity': '1',
  'stroke-width': '1',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  'stroke-miterlimit': '4',
  'stroke-dasharray': 'none',
  'stroke-dashoffset': '0',
  visibility: 'visible',
  color: 'black',
}

/** Properties of the element alone. */
const OWN: Readonly<Record<string, string>> = {
  opacity: '1',
  display: 'inline',
  'stop-color': 'black',
  'stop-opacity': '1',
  transform: 'none',
}

/** Properties that draw something we do not draw yet, with the value at which they do nothing. */
const UNSUPPORTED: Readonly<Record<string, string>> = {
  'clip-path': 'none',
  mask: 'none',
  filter: 'none',
  'mix-blend-mode': 'normal',
  isolation: 'auto',
  'marker-start': 'none',
  'marker-mid': 'none',
  'marker-end': 'none',
  marker: 'none',
  'paint-order': 'normal',
  'vector-effect': 'none',
  'transform-origin': '0 0',
  'transform-box': 'view-box',
}

/** Properties that cannot change how shapes look here. */
const HARMLESS =
  /^(font|text|letter|word|line-height|white-space|writing-mode|direction|unicode|dominant-baseline|alignment-baseline|baseline-shift|color-(interpolation|rendering|profile)|shape-rendering|image-rendering|pointer-events|cursor|enable-background|overflow|clip-rule|clip|flood|lighting|kerning|will-change|block-progression|-)/

export type Style = Readonly<Record<string, string>>

export const INITIAL_STYLE: Style = INHERITED

export interface StyleFinding {
  readonly property: string
  readonly value: string
}

export interface ComputedStyle {
  readonly style: Style
  /** Declarations that will not be drawn as meant. */
  readonly unsupported: readonly StyleFinding[]
}

/** Declarations of a style attribute; unreadable ones are left out by the CSS parser's own error recovery. */
function parseDeclarations(text: string): Map<string, string> {
  const out = new Map<string, string>()
  walk(parse(text, { context: 'declarationList' }), (node) => {
    if (node.type === 'Declaration') out.set(node.property.toLowerCase(), generate(node.value).trim())
  })
  return out
}

/** Style of an element under an inherited style: attributes first, then the style attribute over them. */
export function computeStyle(element: SvgElement, inherited: Style): ComputedStyle {
  const style: Record<string, string> = { ...inherited, ...OWN }
  const unsupported: StyleFinding[] = []
  const set = (property: string, value: string): void => {
    if (property in INHERITED || property in OWN) {
      if (value === 'inherit') style[property] = inherited[property] ?? OWN[property]!
      else style[property] = value
    } else if (property in UNSUPPORTED) {
      if (value !== UNSUPPORTED[property]) unsupported.push({ property, value })
    }
  }
  for (const [name, value] of Object.entries(element.attributes)) if (name !== 'transform') set(name, value.trim())
  const text = element.attributes['style']
  if (text) {
    for (const [property, value] of parseDeclarations(text)) {
      if (property in INHERITED || property in OWN || property in UNSUPPORTED) set(property, value)
      else if (!HARMLESS.test(property)) unsupported.push({ property, value })
    }
  }
  return { style, unsupported }
}

/** What children inherit from an element's style. */
export const inheritable = (style: Style): Style => Object.fromEntries(Object.keys(INHERITED).map((p) => [p, style[p]!]))
