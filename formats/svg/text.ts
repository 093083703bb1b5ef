/** Text is not drawn: it is named with where it would have stood. */
import { emptyBounds, include, isEmpty, mapBounds } from '@marionette/core/maths/geometry/bounds'
import { multiply } from '@marionette/core/maths/geometry/affine'
import type { Context, Scope } from './context'
import { parseLength, parseNumbers } from './numbers'
import type { SvgElement } from './tree'
import { inheritable } from './style'

/** Width of a character and heights above and below the line, in sizes of the font: middling values of common faces. */
const ADVANCE = 0.55
const ASCENT = 0.8
const DESCENT = 0.22

const START: Record<string, number> = { start: 0, middle: -0.5, end: -1 }

/** Lists a text with its words and an estimate of the room that it takes. */
export function nameText(context: Context, element: SvgElement, scope: Scope): void {
  const style = context.styleOf(element, scope.style)
  if (style['display'] === 'none') return
  const box = emptyBounds()
  const words: string[] = []
  const at = { x: 0, y: 0 }
  const visit = (node: SvgElement, inherited: Scope['style']): void => {
    const own = context.cascade.compute(node, inherited)
    const size = parseLength(own['font-size'], 16) ?? 16
    at.x = parseNumbers(node.attributes['x'] ?? '')?.[0] ?? at.x
    at.y = parseNumbers(node.attributes['y'] ?? '')?.[0] ?? at.y
    const text = node.text.replace(/\s+/g, ' ').trim()
    if (text !== '') {
      const wide = text.length * ADVANCE * size
      const left = at.x + (START[own['text-anchor']!] ?? 0) * wide
      include(box, left, at.y - ASCENT * size)
      include(box, left + wide, at.y + DESCENT * size)
      words.push(text)
      at.x = left + wide
    }
    for (const child of node.children) visit(child, inheritable(own))
  }
  visit(element, scope.style)
  const text = words.join(' ')
  if (text === '' || isEmpty(box)) return context.warn('svg.text', element, 'an empty text is left out')
  const bounds = mapBounds(box, multiply(scope.toCanvas, context.transformOf(element, style, scope.view)))
  const place = `at ${Math.round(bounds.minX)}, ${Math.round(bounds.minY)}, about ${Math.round(bounds.maxX - bounds.minX)} by ${Math.round(bounds.maxY - bounds.minY)} px`
  context.warn(
    'svg.text',
    element,
    `the text "${text.slice(0, 60)}" ${place} is not drawn; turn it into outlines in the drawing program`,
    bounds,
  )
}
