/** Strokes as lines of shapes. */
import type { Line } from '@marionette/core/puppet/schema'
import { keepsAngles } from '@marionette/core/maths/geometry/affine'
import type { Scope } from './context'
import { parseLength } from './numbers'
import type { Colouring, PaintPlace } from './paint'
import type { Style } from './style'

/** Width of a line in the space of its shape. */
export const lineWidthOf = (style: Style, scope: Scope): number =>
  parseLength(style['stroke-width'], Math.hypot(scope.view.width, scope.view.height) / Math.SQRT2) ?? 1

/** The line of a stroke; null where it has no width. A nib that the place makes oval keeps its own space. */
export function lineOf(style: Style, colouring: Colouring, { scope, place }: PaintPlace): Line | null {
  const diagonal = Math.hypot(scope.view.width, scope.view.height) / Math.SQRT2
  const width = lineWidthOf(style, scope)
  if (!(width > 0)) return null
  const round = keepsAngles(place)
  const scale = round ? Math.sqrt(Math.abs(place[0] * place[3] - place[1] * place[2])) : 1
  const lengths = (style['stroke-dasharray']!.match(/[^\s,]+/g) ?? []).map((t) => parseLength(t, diagonal) ?? NaN)
  const dashed = lengths.length > 0 && lengths.every((n) => n >= 0) && lengths.some((n) => n > 0)
  return {
    paint: colouring.paint,
    alpha: colouring.alpha,
    width: width * scale,
    cap: (['round', 'square'] as const).find((c) => c === style['stroke-linecap']) ?? 'butt',
    join: (['round', 'bevel'] as const).find((j) => j === style['stroke-linejoin']) ?? 'miter',
    miter: Math.max(1, parseLength(style['stroke-miterlimit']) ?? 4),
    dash: dashed
      ? {
          lengths: (lengths.length % 2 === 1 ? [...lengths, ...lengths] : lengths).map((n) => n * scale),
          offset: (parseLength(style['stroke-dashoffset'], diagonal) ?? 0) * scale,
        }
      : null,
    pen: round ? null : [place[0], place[1], place[2], place[3]],
  }
}
