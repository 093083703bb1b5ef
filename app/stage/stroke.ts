/** What brushes share: dabs along a way, and a size that keys change. */
import type { Vec } from '@marionette/core/puppet/schema'
import type { ToolEvent } from './tool'

/** Spots on the way from one spot to another, a step apart, the first one a step away. */
export function stepsTo(from: Vec, to: Vec, step: number): Vec[] {
  const far = Math.hypot(to.x - from.x, to.y - from.y)
  return Array.from({ length: Math.floor(far / step) }, (_, k) => {
    const share = ((k + 1) * step) / far
    return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }
  })
}

/** How strong a brush is, 0 to 1, from what it is set to in percent: all of that without a pen, and with one at half of its pressure. */
export const brushStrength = (percent: number, pressure: ToolEvent['pressure']): number =>
  Math.min(1, ((pressure === null ? 1 : 2 * pressure) * percent) / 100)

/** The radius after a press of [ or ]; null for any other key. */
export function radiusAfter(key: string, radius: number, most: number): number | null {
  if (key !== '[' && key !== ']') return null
  return Math.round(Math.min(most, Math.max(4, radius * (key === ']' ? 1.2 : 1 / 1.2))))
}
