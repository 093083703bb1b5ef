/** A frame as a tinted ghost, for comparing one moment with another. */
import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import type { Frame } from '@marionette/core/puppet/frame'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { using } from './owned'
import type { Painter } from './painter'

/** How a ghost looks. */
export interface Tint {
  /** As CSS writes it. */
  readonly colour: string
  /** How much of the colour covers the drawing's own, 0 to 1. */
  readonly cover: number
  readonly alpha: number
}

/**
 * Draws a frame with a colour over its own ones, as one faded layer. The drawing still shows: it is no outline.
 *
 * @param bounds what can be seen of the canvas, canvas px
 */
export function paintTinted(
  CK: CanvasKit,
  canvas: Canvas,
  painter: Painter,
  frame: Frame,
  { colour, cover, alpha }: Tint,
  bounds: Bounds,
): void {
  const [r, g, b] = CK.parseColorString(colour) as unknown as [number, number, number, number]
  const over = CK.Color4f(r, g, b, cover)
  using(CK.ColorFilter.MakeBlend(over, CK.BlendMode.SrcATop), (filter) =>
    using(new CK.Paint(), (paint) => {
      paint.setColorFilter(filter)
      paint.setAlphaf(alpha)
      canvas.saveLayer(paint, CK.LTRBRect(bounds.minX, bounds.minY, bounds.maxX, bounds.maxY))
      painter.paint(canvas, frame)
      canvas.restore()
    }),
  )
}
