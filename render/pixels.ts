/** Frames as straight pixels. */
import type { CanvasKit, Surface } from 'canvaskit-wasm'
import type { Pixels } from '@marionette/formats/pixels'
import { onSurface, type RegionOptions } from './surface'
import type { Frame } from '@marionette/core/puppet/frame'

/** Draws a region of a frame on nothing. Throws RenderError when the picture would be too large. */
export const renderPixels = (CK: CanvasKit, frame: Frame, options: RegionOptions): Pixels =>
  onSurface(CK, frame, options, (surface) => pixelsOf(CK, surface))

/** All of a surface as straight pixels. */
export function pixelsOf(CK: CanvasKit, surface: Surface): Pixels {
  surface.flush()
  const image = surface.makeImageSnapshot()
  const [width, height] = [image.width(), image.height()]
  const info = { width, height, alphaType: CK.AlphaType.Unpremul, colorType: CK.ColorType.RGBA_8888, colorSpace: CK.ColorSpace.SRGB }
  const data = image.readPixels(0, 0, info) as Uint8Array
  image.delete()
  return { width, height, data }
}
