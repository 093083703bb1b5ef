/** Surfaces on which a region of a frame is drawn to be read. */
import type { CanvasKit, Surface } from 'canvaskit-wasm'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { Painter } from './painter'
import type { Affine } from '@marionette/core/kernel/numbers'
import { channelsOf, toMatrix } from './paints'
import type { AssetSource } from './textures'
import type { Frame } from '@marionette/core/puppet/frame'

export interface RegionOptions {
  /** Region of the canvas, and pixels for each of its units. */
  readonly region: Bounds
  readonly scale: number
  /** A map of the canvas that comes before the region, px to px: what a camera sees. */
  readonly map?: Affine | undefined
  /** #rrggbb; without it what is drawn lies on nothing. */
  readonly background?: string | null
  /** Parts to show, by index; all without it. */
  readonly only?: ReadonlySet<number> | undefined
  /** Where the raster pictures of the puppet are. */
  readonly assets?: AssetSource | undefined
  /** A painter that keeps what it made for the next picture; without it one is made for this picture alone. */
  readonly painter?: Painter | undefined
}

/** Largest side of a picture, px. */
export const LARGEST_PICTURE = 16384

export class RenderError extends Error {}

/** Draws a region and reads the surface, which lives as long as `read` runs. Throws RenderError when it would be too large. */
export function onSurface<T>(CK: CanvasKit, frame: Frame, options: RegionOptions, read: (surface: Surface) => T): T {
  const { region, scale, map, background, only, assets } = options
  const width = Math.max(1, Math.round((region.maxX - region.minX) * scale))
  const height = Math.max(1, Math.round((region.maxY - region.minY) * scale))
  if (width > LARGEST_PICTURE || height > LARGEST_PICTURE)
    throw new RenderError(`A picture of ${width} by ${height} pixels is too large; the limit is ${LARGEST_PICTURE} on each side.`)
  const surface = CK.MakeSurface(width, height)
  if (!surface) throw new RenderError(`There is not enough memory for a picture of ${width} by ${height} pixels.`)
  const painter = options.painter ?? new Painter(CK, assets)
  try {
    const canvas = surface.getCanvas()
    canvas.clear(background ? CK.Color4f(...channelsOf(background), 1) : CK.TRANSPARENT)
    canvas.concat([scale, 0, -region.minX * scale, 0, scale, -region.minY * scale, 0, 0, 1])
    if (map) canvas.concat(toMatrix(map))
    painter.paint(canvas, frame, only)
    surface.flush()
    return read(surface)
  } finally {
    if (!options.painter) painter.dispose()
    surface.delete()
  }
}
