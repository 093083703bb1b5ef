/** Pictures of a puppet as PNG, on a processor surface. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { Affine } from '@marionette/core/document/schema'
import type { Bounds } from '@marionette/core/geometry/bounds'
import type { Frame } from '@marionette/core/rig/evaluate'
import { using } from './owned'
import { Painter } from './painter'
import { channelsOf, toMatrix } from './paints'
import type { AssetSource } from './textures'

export interface PictureOptions {
  /** Pixels across; the height follows from the frame's shape. */
  readonly width: number
  /** #rrggbb, or null for a transparent picture. */
  readonly background: string | null
  /** Region of the canvas to show; the whole canvas without it. */
  readonly region?: Bounds
  /** Parts to show, by index; all without it. */
  readonly only?: ReadonlySet<number>
  /** Where the raster pictures of the puppet are. */
  readonly assets?: AssetSource | undefined
}

/** Largest side of a picture, px. */
export const LARGEST_PICTURE = 16384

export class RenderError extends Error {}

/** Renders a frame. Throws RenderError when the picture would be too large. */
export function renderPng(CK: CanvasKit, frame: Frame, options: PictureOptions): Uint8Array {
  const { canvas } = frame.rig.puppet
  const region = options.region ?? { minX: 0, minY: 0, maxX: canvas.width, maxY: canvas.height }
  const scale = options.width / (region.maxX - region.minX)
  const width = Math.max(1, Math.round(options.width))
  const height = Math.max(1, Math.round((region.maxY - region.minY) * scale))
  if (width > LARGEST_PICTURE || height > LARGEST_PICTURE) {
    throw new RenderError(`A picture of ${width} by ${height} pixels is too large; the limit is ${LARGEST_PICTURE} on each side.`)
  }
  const surface = CK.MakeSurface(width, height)
  if (!surface) throw new RenderError(`There is not enough memory for a picture of ${width} by ${height} pixels.`)
  const painter = new Painter(CK, options.assets)
  try {
    const onto = surface.getCanvas()
    if (options.background) onto.clear(CK.Color4f(...channelsOf(options.background), 1))
    else onto.clear(CK.TRANSPARENT)
    const view: Affine = [scale, 0, 0, scale, -region.minX * scale, -region.minY * scale]
    onto.concat(toMatrix(view))
    painter.paint(onto, frame, options.only)
    surface.flush()
    const bytes = using(surface.makeImageSnapshot(), (image) => image.encodeToBytes())
    if (!bytes) throw new RenderError('The picture could not be encoded.')
    return bytes
  } finally {
    painter.dispose()
    surface.delete()
  }
}
