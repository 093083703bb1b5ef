/** Contact sheets: many small pictures on one, each with words below it. */
import type { Canvas, CanvasKit, Font, Paint } from 'canvaskit-wasm'
import type { Pixels } from '@marionette/formats/pixels'
import { free, own, using } from '@marionette/render/owned'
import { LARGEST_PICTURE, RenderError } from '@marionette/render/surface'

export type TileTone = 'plain' | 'look' | 'broken'

export interface Tile {
  readonly pixels: Pixels
  /** First line below the picture, and a quieter second one. */
  readonly title: string
  readonly note: string
  readonly tone: TileTone
}

export interface SheetOptions {
  /** Bytes of the font in which words are written, as TTF, WOFF or WOFF2. */
  readonly font: Uint8Array
  readonly title: string
  readonly note: string
  readonly columns: number
  /** Sides of the pictures, px. */
  readonly width: number
  readonly height: number
}

const MARGIN = 24
const GAP = 12
/** Room for the words below a picture, px. */
export const WORDS = 40
const HEAD = 60
const PAPER = [246, 241, 231] as const
const STAGE = [232, 224, 208] as const
const INK = [32, 48, 46] as const
const QUIET = [84, 96, 92] as const
const TONES: Readonly<Record<TileTone, readonly [number, number, number]>> = {
  plain: [221, 211, 195],
  look: [178, 126, 30],
  broken: [194, 64, 44],
}

/** Where the tiles of a sheet lie, px. */
function layout(count: number, { columns, width, height }: SheetOptions) {
  const rows = Math.max(1, Math.ceil(count / columns))
  return {
    width: 2 * MARGIN + columns * width + (columns - 1) * GAP,
    height: 2 * MARGIN + HEAD + rows * (height + WORDS) + (rows - 1) * GAP,
    place: (k: number) => ({
      x: MARGIN + (k % columns) * (width + GAP),
      y: MARGIN + HEAD + Math.floor(k / columns) * (height + WORDS + GAP),
    }),
  }
}

/** As many tiles as fit on one picture of these sizes. */
export const mostTiles = ({ columns, height }: Pick<SheetOptions, 'columns' | 'height'>): number =>
  columns * Math.floor((LARGEST_PICTURE - 2 * MARGIN - HEAD + GAP) / (height + WORDS + GAP))

/** Lays tiles on a sheet and writes it as PNG. Throws RenderError where the sheet would be too large. */
export function contactSheet(CK: CanvasKit, tiles: readonly Tile[], options: SheetOptions): Uint8Array {
  const plan = layout(tiles.length, options)
  const surface = plan.height <= LARGEST_PICTURE ? CK.MakeSurface(plan.width, plan.height) : null
  if (!surface) throw new RenderError(`A sheet of ${tiles.length} pictures is too large.`)
  const pen = new Pen(CK, surface.getCanvas(), options.font)
  try {
    surface.getCanvas().clear(pen.paper)
    pen.words(options.title, MARGIN, MARGIN + 20, plan.width - 2 * MARGIN, 20, INK)
    pen.words(options.note, MARGIN, MARGIN + 42, plan.width - 2 * MARGIN, 13, QUIET)
    tiles.forEach((tile, k) => pen.tile(tile, plan.place(k), options))
    surface.flush()
    const bytes = using(surface.makeImageSnapshot(), (image) => image.encodeToBytes())
    if (!bytes) throw new RenderError('The sheet could not be encoded.')
    return bytes
  } finally {
    pen.dispose()
    surface.delete()
  }
}

type Colour = readonly [number, number, number]

/** Draws tiles and words. */
export class Pen {
  /** The colour that words are written on. */
  readonly paper: Float32Array
  private readonly paint: Paint
  private readonly font: Font

  constructor(
    private readonly CK: CanvasKit,
    private readonly canvas: Canvas,
    bytes: Uint8Array,
  ) {
    const typeface = CK.Typeface.MakeTypefaceFromData(Uint8Array.from(bytes).buffer)
    if (!typeface) throw new RenderError('The font of the sheet could not be read.')
    this.paper = CK.Color(...PAPER, 1)
    this.paint = own(new CK.Paint())
    this.paint.setAntiAlias(true)
    this.font = own(new CK.Font(typeface, 13))
    typeface.delete()
  }

  words(text: string, x: number, y: number, width: number, size: number, colour: Colour): void {
    this.font.setSize(size)
    this.paint.setColor(this.CK.Color(...colour, 1))
    this.canvas.drawText(this.fitting(text, width), x, y, this.paint, this.font)
  }

  /** A text, cut off with an ellipsis where it would be wider than so many px. */
  private fitting(text: string, width: number): string {
    const lengthOf = (part: string): number =>
      [...this.font.getGlyphWidths(this.font.getGlyphIDs(part))].reduce((sum, glyph) => sum + glyph, 0)
    if (lengthOf(text) <= width) return text
    let kept = text
    while (kept.length > 1 && lengthOf(`${kept}…`) > width) kept = kept.slice(0, -1)
    return `${kept.trimEnd()}…`
  }

  tile(
    { pixels, title, note, tone }: Tile,
    { x, y }: { x: number; y: number },
    { width, height }: Pick<SheetOptions, 'width' | 'height'>,
  ): void {
    const { CK, canvas, paint } = this
    paint.setColor(CK.Color(...STAGE, 1))
    canvas.drawRect(CK.XYWHRect(x, y, width, height), paint)
    const info = {
      ...{ width: pixels.width, height: pixels.height, alphaType: CK.AlphaType.Unpremul, colorType: CK.ColorType.RGBA_8888 },
      colorSpace: CK.ColorSpace.SRGB,
    }
    const image = CK.MakeImage(info, pixels.data, 4 * pixels.width)
    const scale = Math.min(width / pixels.width, height / pixels.height)
    const [w, h] = [pixels.width * scale, pixels.height * scale]
    if (image)
      using(image, (drawn) => {
        const to = CK.XYWHRect(x + (width - w) / 2, y + (height - h) / 2, w, h)
        const from = CK.XYWHRect(0, 0, pixels.width, pixels.height)
        canvas.drawImageRectOptions(drawn, from, to, CK.FilterMode.Linear, CK.MipmapMode.None)
      })
    paint.setColor(CK.Color(...TONES[tone], 1))
    canvas.drawRect(CK.XYWHRect(x, y + height, width, 3), paint)
    this.words(title, x, y + height + 18, width, 13, INK)
    this.words(note, x, y + height + 34, width, 12, QUIET)
  }

  dispose(): void {
    free(this.font)
    free(this.paint)
  }
}
