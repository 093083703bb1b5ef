/** Pictures of a puppet as PNG, on a processor surface. */
import type { CanvasKit } from 'canvaskit-wasm'
import { using } from './owned'
import { onSurface, RenderError, type RegionOptions } from './surface'
import type { Frame } from '@marionette/core/puppet/frame'

export interface PictureOptions extends Partial<RegionOptions> {
  /** Pixels across; the height follows from the frame's shape. */
  readonly width: number
  /** #rrggbb, or null for a transparent picture. */
  readonly background: string | null
}

/** Renders a frame: the whole canvas, or a region of it. Throws RenderError when the picture would be too large. */
export function renderPng(CK: CanvasKit, frame: Frame, options: PictureOptions): Uint8Array {
  const { canvas } = frame.rig.puppet
  const region = options.region ?? { minX: 0, minY: 0, maxX: canvas.width, maxY: canvas.height }
  const scale = options.width / (region.maxX - region.minX)
  return onSurface(CK, frame, { ...options, region, scale }, (surface) => {
    const bytes = using(surface.makeImageSnapshot(), (image) => image.encodeToBytes())
    if (!bytes) throw new RenderError('The picture could not be encoded.')
    return bytes
  })
}
