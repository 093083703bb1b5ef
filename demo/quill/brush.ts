/** A painter's tools: layers of soft paint with strokes, grain and a dark rim, on Skia. */
import type { Canvas, CanvasKit, Paint, Path } from 'canvaskit-wasm'

/** What a layer is painted like. Colours are #rrggbb. */
export interface Look {
  readonly base: string
  readonly light: string
  readonly shade: string
  /** Direction of the strokes, degrees on screen from the right, downwards. */
  readonly flow: number
  /** Strokes for each 1000 px². */
  readonly strokes: number
  /** Length and width of a stroke, px. */
  readonly length: number
  readonly width: number
}

/** Numbers from 0 to 1 that are the same each time (Park and Miller 1988). */
export function randomFrom(seed: number): () => number {
  let state = seed
  return () => (state = (state * 48271) % 2147483647) / 2147483647
}

const channels = (CK: CanvasKit, colour: string, alpha: number): Float32Array => {
  const [r, g, b] = [1, 3, 5].map((k) => Number.parseInt(colour.slice(k, k + 2), 16) / 255) as [number, number, number]
  return CK.Color4f(r, g, b, alpha)
}

export class Brush {
  private readonly random: () => number

  constructor(
    private readonly CK: CanvasKit,
    private readonly canvas: Canvas,
    seed: number,
  ) {
    this.random = randomFrom(seed)
  }

  /** A piece: base tone from light (above left) to shade, strokes along the flow, grain and rim. */
  piece(svg: string, look: Look): void {
    const { CK, canvas } = this
    const path = this.path(svg)
    const box = path.getBounds()
    const [left, top, right, bottom] = [box[0]!, box[1]!, box[2]!, box[3]!]
    canvas.saveLayer()
    this.painted((paint) => {
      const tones = [look.light, look.base, look.shade].map((c) => channels(CK, c, 1))
      const shader = CK.Shader.MakeLinearGradient([left, top], [right, bottom], tones, [0, 0.45, 1], CK.TileMode.Clamp)
      paint.setShader(shader)
      canvas.drawPath(path, paint)
      shader.delete()
    })
    canvas.save()
    canvas.clipPath(path, CK.ClipOp.Intersect, true)
    this.strokes([left, top, right, bottom], look)
    this.grain([left, top, right, bottom])
    this.rim(path, look.shade)
    canvas.restore()
    canvas.restore()
    path.delete()
  }

  /** A flat shape with a slight rim: eyes and small things. */
  spot(svg: string, colour: string, alpha = 1): void {
    const path = this.path(svg)
    this.painted((paint) => {
      paint.setColor(channels(this.CK, colour, alpha))
      this.canvas.drawPath(path, paint)
    })
    path.delete()
  }

  /** A line of even width with round ends. */
  line(svg: string, colour: string, width: number, alpha = 1): void {
    const { CK } = this
    const path = this.path(svg)
    this.painted((paint) => {
      paint.setStyle(CK.PaintStyle.Stroke)
      paint.setStrokeWidth(width)
      paint.setStrokeCap(CK.StrokeCap.Round)
      paint.setStrokeJoin(CK.StrokeJoin.Round)
      paint.setColor(channels(CK, colour, alpha))
      this.canvas.drawPath(path, paint)
    })
    path.delete()
  }

  /** A blurred patch: blush, shadows; only within another outline where one is given. */
  haze(svg: string, colour: string, blur: number, alpha: number, within?: string): void {
    const { CK, canvas } = this
    const path = this.path(svg)
    canvas.save()
    if (within) {
      const clip = this.path(within)
      canvas.clipPath(clip, CK.ClipOp.Intersect, true)
      clip.delete()
    }
    this.painted((paint) => {
      const mask = CK.MaskFilter.MakeBlur(CK.BlurStyle.Normal, blur, true)
      paint.setMaskFilter(mask)
      paint.setColor(channels(CK, colour, alpha))
      canvas.drawPath(path, paint)
      mask.delete()
    })
    canvas.restore()
    path.delete()
  }

  /** A feather from its root to its tip, with a quill. */
  feather(x: number, y: number, angle: number, length: number, breadth: number, look: Look): void {
    const c = Math.cos((angle * Math.PI) / 180)
    const s = Math.sin((angle * Math.PI) / 180)
    const at = (u: number, v: number): string => `${(x + u * c - v * s).toFixed(1)} ${(y + u * s + v * c).toFixed(1)}`
    const b = breadth / 2
    const outline = `M${at(0, -b * 0.5)} C${at(length * 0.3, -b * 1.15)} ${at(length * 0.8, -b)} ${at(length, 0)} C${at(length * 0.85, b)} ${at(length * 0.3, b * 1.15)} ${at(0, b * 0.5)}Z`
    this.piece(outline, { ...look, flow: angle })
    this.line(
      `M${at(length * 0.06, 0)} C${at(length * 0.4, -b * 0.12)} ${at(length * 0.7, -b * 0.1)} ${at(length * 0.92, 0)}`,
      look.shade,
      1.6,
      0.55,
    )
  }

  private path(svg: string): Path {
    const path = this.CK.Path.MakeFromSVGString(svg)
    if (!path) throw new Error(`This is no path: ${svg.slice(0, 60)}`)
    return path
  }

  private painted(use: (paint: Paint) => void): void {
    const paint = new this.CK.Paint()
    paint.setAntiAlias(true)
    use(paint)
    paint.delete()
  }

  private strokes([left, top, right, bottom]: readonly [number, number, number, number], look: Look): void {
    const { random } = this
    const count = Math.round(((right - left) * (bottom - top) * look.strokes) / 1000)
    for (let i = 0; i < count; i++) {
      const x = left + random() * (right - left)
      const y = top + random() * (bottom - top)
      const angle = ((look.flow + (random() - 0.5) * 30) * Math.PI) / 180
      const reach = look.length * (0.5 + random())
      const [dx, dy] = [Math.cos(angle) * reach, Math.sin(angle) * reach]
      const bow = (random() - 0.5) * reach * 0.3
      // Strokes are lighter where the light comes from, above left.
      const lit = (x - left) / (right - left) + (y - top) / (bottom - top) < 0.5 + random()
      const svg = `M${x} ${y}q${dx / 2 - (bow * dy) / reach} ${dy / 2 + (bow * dx) / reach} ${dx} ${dy}`
      this.line(svg, lit ? look.light : look.shade, look.width * (0.4 + random() * 0.8), 0.1 + random() * 0.22)
    }
  }

  private grain([left, top, right, bottom]: readonly [number, number, number, number]): void {
    const { CK, canvas } = this
    const noise = CK.Shader.MakeFractalNoise(0.035, 0.05, 4, 1 + Math.floor(this.random() * 1000), 0, 0)
    const grey = CK.ColorFilter.MakeMatrix([0.5, 0.5, 0, 0, 0, 0.5, 0.5, 0, 0, 0, 0.5, 0.5, 0, 0, 0, 0, 0, 0, 0, 0.42])
    this.painted((paint) => {
      paint.setShader(noise)
      paint.setColorFilter(grey)
      paint.setBlendMode(CK.BlendMode.SoftLight)
      canvas.drawRect(CK.LTRBRect(left, top, right, bottom), paint)
    })
    noise.delete()
    grey.delete()
  }

  private rim(path: Path, colour: string): void {
    const { CK } = this
    this.painted((paint) => {
      const mask = CK.MaskFilter.MakeBlur(CK.BlurStyle.Normal, 3, true)
      paint.setStyle(CK.PaintStyle.Stroke)
      paint.setStrokeWidth(9)
      paint.setMaskFilter(mask)
      paint.setColor(channels(CK, colour, 0.42))
      this.canvas.drawPath(path, paint)
      mask.delete()
    })
  }
}
