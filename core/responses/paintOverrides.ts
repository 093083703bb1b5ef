/** Colours and line widths that responses change. */
import type { ChangeOf } from './records'
import type { Drawing, Paint } from '../artwork/records'
import { labOf, rgbOf } from '../maths/solve/oklab'
import type { ShapeGeometry } from '../artwork/flat/flat'

/** Where a response changes a colour or the width of a line. */
export interface PaintOverride {
  /** Drawing of the rig, and shapes of its geometry. */
  readonly drawing: number
  readonly shapes: readonly ShapeGeometry[]
  readonly of: 'ink' | 'line'
  /** Stop of a gradient, or null for a flat colour. */
  readonly stop: number | null
  readonly kind: 'colour' | 'width'
  /** Where its values stand among the answers: three of OKLab, or one factor. */
  readonly base: number
  /** OKLab at rest. */
  readonly rest: readonly [number, number, number]
}

/** Numbers that a look takes among the answers. */
export const sizeOfLook = (kind: PaintOverride['kind']): number => (kind === 'colour' ? 3 : 1)

/** The colour of a paint, or of a stop of its gradient; null where it has none. */
export function colourIn(paint: Paint | undefined, stop: number | null): string | null {
  if (!paint) return null
  if (paint.kind === 'flat') return stop === null ? paint.colour : null
  if (paint.kind !== 'linear' && paint.kind !== 'radial') return null
  return stop === null ? null : (paint.stops[stop]?.colour ?? null)
}

/** The colour that a change is about as it is at rest; null where there is nothing to change. */
export function restColour(drawing: Drawing, { shape, of, stop }: Pick<ChangeOf<'paint'>, 'shape' | 'of' | 'stop'>): string | null {
  return colourIn(drawing.shapes.find((s) => s.id === shape)?.[of]?.paint, stop)
}

/** What a change adds to a colour in OKLab; null where there is nothing to change. */
export function labStep(drawing: Drawing, change: ChangeOf<'paint'>): [number, number, number] | null {
  const from = restColour(drawing, change)
  if (from === null) return null
  const [a, b] = [labOf(from), labOf(change.to)]
  return [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
}

/** Writes the colours that looks have in a frame into `out` [4 looks]: red, green, blue, and the factor of a line's width. */
export function writePaintOverrides(looks: readonly PaintOverride[], answers: Float64Array, out: Float32Array): void {
  for (let k = 0; k < looks.length; k++) {
    const { kind, base, rest } = looks[k]!
    if (kind === 'width') out[4 * k + 3] = Math.max(0, answers[base]!)
    else rgbOf(rest[0] + answers[base]!, rest[1] + answers[base + 1]!, rest[2] + answers[base + 2]!, out, 4 * k)
  }
}
