/** Films of pictures with words below, as animated GIF. */
import type { CanvasKit } from 'canvaskit-wasm'
import * as gifenc from 'gifenc'
import type { Library } from 'gifenc'
import { pixelsOf } from '@marionette/render/pixels'
import { RenderError } from '@marionette/render/surface'
import { Pen, WORDS, type Tile } from './contactSheet'

// Node sees the package as one default export, bundlers see its names.
const { GIFEncoder, quantize, applyPalette } = ('quantize' in gifenc ? gifenc : gifenc.default) as Library

export interface FilmOptions {
  /** Bytes of the font of words, as TTF, WOFF or WOFF2. */
  readonly font: Uint8Array
  /** Side of the pictures, px. */
  readonly size: number
  /** Pictures a second. */
  readonly rate: number
}

const COLOURS = 128

/** Writes pictures one after the other; each is taken only when its turn comes. */
export function filmOf(CK: CanvasKit, pictures: Iterable<Tile>, { font, size, rate }: FilmOptions): Uint8Array {
  const height = size + WORDS
  const surface = CK.MakeSurface(size, height)
  if (!surface) throw new RenderError('There is not enough memory for a film.')
  const pen = new Pen(CK, surface.getCanvas(), font)
  const film = GIFEncoder()
  try {
    for (const tile of pictures) {
      surface.getCanvas().clear(pen.paper)
      pen.tile(tile, { x: 0, y: 0 }, { width: size, height: size })
      const { data } = pixelsOf(CK, surface)
      const palette = quantize(data, COLOURS)
      film.writeFrame(applyPalette(data, palette), size, height, { palette, delay: Math.round(1000 / rate), repeat: 0 })
    }
    film.finish()
    return film.bytes()
  } finally {
    pen.dispose()
    surface.delete()
  }
}
