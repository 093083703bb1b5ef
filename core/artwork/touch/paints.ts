/** What shapes are painted with, and the handles of gradients. */
import type { Affine, Vec } from '../../kernel/numbers'
import type { Drawing, Ink, Line, Paint, Path, Shape } from '../records'
import { apply, IDENTITY, invert } from '../../maths/geometry/affine'
import { emptyBounds, pathBounds } from '../../maths/geometry/bounds'

/** A paint that changes along a line or from a centre. */
export type Gradient = Extract<Paint, { kind: 'linear' | 'radial' }>

/** Whether a paint is a gradient. */
export const isGradient = (paint: Paint | undefined): paint is Gradient => paint?.kind === 'linear' || paint?.kind === 'radial'

/** A drawing with one of its shapes changed. */
export const changeShape = (drawing: Drawing, id: number, change: (shape: Shape) => Shape): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((s) => (s.id === id ? change(s) : s)),
})

/** A shape with another ink; one that had none gets the usual rule. Null takes it away. */
export function inked(shape: Shape, paint: Paint | null): Shape {
  const ink: Ink | null = paint && { alpha: 1, rule: 'nonzero', ...shape.ink, paint }
  return { ...shape, ink }
}

/** A shape with another line; null takes it away. */
export function lined(shape: Shape, paint: Paint | null, width: number): Shape {
  const plain = { alpha: 1, cap: 'round', join: 'round', miter: 4, dash: null, pen: null } as const
  const line: Line | null = paint && { ...plain, ...shape.line, paint, width }
  return { ...shape, line }
}

function boxOf(paths: readonly Path[]): { x: number; y: number; width: number; height: number } {
  const box = emptyBounds()
  for (const path of paths) pathBounds(path, box)
  return { x: box.minX, y: box.minY, width: box.maxX - box.minX, height: box.maxY - box.minY }
}

/** Share of the light that the far end of a new gradient loses. */
const DARKER = 0.3

function darker(colour: string): string {
  const channel = (k: number): string =>
    Math.round(parseInt(colour.slice(1 + 2 * k, 3 + 2 * k), 16) * (1 - DARKER))
      .toString(16)
      .padStart(2, '0')
  return `#${channel(0)}${channel(1)}${channel(2)}`
}

/** The paint of a shape as a gradient over its box, or flat in its first colour. Stops stay where it was one before. */
export function paintAs(shape: Shape, kind: 'flat' | 'linear' | 'radial'): Paint | null {
  const paint = shape.ink?.paint
  if (!paint || (paint.kind !== 'flat' && !isGradient(paint))) return null
  const first = paint.kind === 'flat' ? paint.colour : (paint.stops[0]?.colour ?? '#000000')
  if (kind === 'flat') return paint.kind === 'flat' ? paint : { kind: 'flat', colour: first }
  const stops =
    paint.kind === 'flat'
      ? [
          { at: 0, colour: first, alpha: 1 },
          { at: 1, colour: darker(first), alpha: 1 },
        ]
      : paint.stops
  const { x, y, width, height } = boxOf(shape.paths)
  const [cx, cy] = [x + width / 2, y + height / 2]
  if (kind === 'linear') return { kind, from: { x, y: cy }, to: { x: x + width, y: cy }, stops, spread: 'pad', map: IDENTITY }
  const centre = { x: cx, y: cy }
  return { kind, focus: centre, focusRadius: 0, centre, radius: Math.max(width, height) / 2, stops, spread: 'pad', map: IDENTITY }
}

/** What of a gradient can be dragged. */
export type GradientHandle = 'from' | 'to' | 'centre' | 'rim'

/** Handles of a gradient, in the space of the drawing. */
export function gradientHandles(paint: Gradient): { readonly handle: GradientHandle; readonly at: Vec }[] {
  const placed = (handle: GradientHandle, at: Vec): { handle: GradientHandle; at: Vec } => ({ handle, at: apply(paint.map, at) })
  if (paint.kind === 'linear') return [placed('from', paint.from), placed('to', paint.to)]
  return [placed('centre', paint.centre), placed('rim', { x: paint.centre.x + paint.radius, y: paint.centre.y })]
}

/** A gradient with one handle moved to a spot of the drawing's space. */
export function moveGradientHandle(paint: Gradient, handle: GradientHandle, to: Vec): Gradient {
  const back: Affine = invert(paint.map) ?? IDENTITY
  const at = apply(back, to)
  if (paint.kind === 'linear') return handle === 'from' ? { ...paint, from: at } : { ...paint, to: at }
  if (handle === 'centre') {
    const [dx, dy] = [at.x - paint.centre.x, at.y - paint.centre.y]
    return { ...paint, centre: at, focus: { x: paint.focus.x + dx, y: paint.focus.y + dy } }
  }
  return { ...paint, radius: Math.max(0.1, Math.hypot(at.x - paint.centre.x, at.y - paint.centre.y)) }
}
