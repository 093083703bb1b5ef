/** Document paints as Skia paints and shaders. */
import type { CanvasKit, Paint as SkPaint, Shader } from 'canvaskit-wasm'
import type { Affine, GradientStop, Ink, Line, Paint } from '@marionette/core/puppet/schema'
import { multiply } from '@marionette/core/maths/geometry/affine'
import { own, using } from './owned'

/** A 2x3 affine map as Skia's row-major 3x3 matrix. */
export const toMatrix = (m: ArrayLike<number>, at = 0): number[] => [
  m[at]!,
  m[at + 2]!,
  m[at + 4]!,
  m[at + 1]!,
  m[at + 3]!,
  m[at + 5]!,
  0,
  0,
  1,
]

/** Red, green and blue of #rrggbb, 0 to 1. */
export function channelsOf(colour: string): [number, number, number] {
  const value = Number.parseInt(colour.slice(1), 16)
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255]
}

/** #rrggbb of red, green and blue, 0 to 1. */
export const hexOf = (...rgb: readonly [number, number, number]): string =>
  `#${rgb
    .map((v) =>
      Math.round(255 * v)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`

export type Gradient = Extract<Paint, { kind: 'linear' | 'radial' }>
export type Textured = Exclude<Paint, { kind: 'flat' }>

/** Whether a paint needs a shader: its colour is not the same everywhere. */
export const isTextured = (paint: Paint): paint is Textured => paint.kind !== 'flat'

function tileMode(CK: CanvasKit, spread: 'pad' | 'reflect' | 'repeat') {
  return spread === 'pad' ? CK.TileMode.Clamp : spread === 'reflect' ? CK.TileMode.Mirror : CK.TileMode.Repeat
}

const stopColours = (stops: readonly GradientStop[]): Float32Array =>
  Float32Array.from(stops.flatMap((s) => [...channelsOf(s.colour), s.alpha]))

/** Shader of a gradient; `outer` maps the drawing's space to where it is painted. Owned by the caller. */
export function makeGradient(CK: CanvasKit, paint: Gradient, outer: Affine): Shader {
  const colours = stopColours(paint.stops)
  const positions = paint.stops.map((s) => s.at)
  const mode = tileMode(CK, paint.spread)
  const matrix = toMatrix(multiply(outer, paint.map))
  if (paint.kind === 'linear') {
    return own(CK.Shader.MakeLinearGradient([paint.from.x, paint.from.y], [paint.to.x, paint.to.y], colours, positions, mode, matrix))
  }
  const { focus, focusRadius, centre, radius } = paint
  return own(
    CK.Shader.MakeTwoPointConicalGradient([focus.x, focus.y], focusRadius, [centre.x, centre.y], radius, colours, positions, mode, matrix),
  )
}

function basePaint(CK: CanvasKit, paint: Paint, alpha: number): SkPaint {
  const out = own(new CK.Paint())
  out.setAntiAlias(true)
  const [r, g, b] = paint.kind === 'flat' ? channelsOf(paint.colour) : [0, 0, 0]
  out.setColorComponents(r, g, b, alpha)
  return out
}

/** Paint of an ink, without a shader. Owned by the caller. */
export function makeInkPaint(CK: CanvasKit, ink: Ink, alpha: number): SkPaint {
  const out = basePaint(CK, ink.paint, ink.alpha * alpha)
  out.setStyle(CK.PaintStyle.Fill)
  return out
}

/** Paint of a line, without a shader. Owned by the caller. */
export function makeLinePaint(CK: CanvasKit, line: Line, alpha: number, scale: number): SkPaint {
  const out = basePaint(CK, line.paint, line.alpha * alpha)
  out.setStyle(CK.PaintStyle.Stroke)
  out.setStrokeCap(line.cap === 'round' ? CK.StrokeCap.Round : line.cap === 'square' ? CK.StrokeCap.Square : CK.StrokeCap.Butt)
  out.setStrokeJoin(line.join === 'round' ? CK.StrokeJoin.Round : line.join === 'bevel' ? CK.StrokeJoin.Bevel : CK.StrokeJoin.Miter)
  out.setStrokeMiter(line.miter)
  setLineWidth(CK, out, line, scale)
  return out
}

/** Scales a line's width and dashes. */
export function setLineWidth(CK: CanvasKit, paint: SkPaint, line: Line, scale: number): void {
  paint.setStrokeWidth(line.width * scale)
  if (!line.dash) return
  const lengths = line.dash.lengths.map((l) => l * scale)
  using(CK.PathEffect.MakeDash(lengths, line.dash.offset * scale), (effect) => paint.setPathEffect(effect))
}
