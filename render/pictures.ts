/**
 * Raster pictures: as they are where a part moves in one piece, on their mesh where it bends.
 *
 * Both read the picture through its reduced levels, so that a small view is calm. The mesh reaches a little beyond
 * what is opaque, so its jagged edge on a processor surface lies where nothing shows.
 */
import type { Canvas, CanvasKit, MipmapMode, Paint as SkPaint, Shader } from 'canvaskit-wasm'
import type { Picture, Puppet } from '@marionette/core/puppet/schema'
import { free, own } from './owned'
import type { Textures } from './textures'

/** What is kept of a picture that bends. */
interface Bending {
  readonly paint: SkPaint
  readonly shader: Shader
  /** [2n] texture coordinates, pixels of the picture */
  readonly texture: Float32Array
  /** [2n] where the vertices are posed to */
  readonly positions: Float32Array
  readonly triangles: number[]
}

/** A picture without a mesh. */
type Placed = Omit<Picture, 'id' | 'mesh'>

export class PicturePainter {
  private readonly bending = new Map<Picture, Bending>()
  private plain: SkPaint | null = null
  private readonly mips: MipmapMode

  constructor(
    private readonly CK: CanvasKit,
    private readonly textures: Textures,
    reading: 'calm' | 'quick',
  ) {
    // Between two levels the processor mixes each pixel of both: four times the work.
    this.mips = reading === 'calm' ? CK.MipmapMode.Linear : CK.MipmapMode.Nearest
  }

  /** Lets go of what a puppet does not show any more. */
  follow(puppet: Puppet): void {
    for (const [picture, kept] of this.bending) {
      if (puppet.pictures[picture.id] === picture) continue
      release(kept)
      this.bending.delete(picture)
    }
  }

  /**
   * Draws a picture in the space that the canvas carries.
   *
   * @param posed [2n] vertices of its mesh on the canvas; null where it is drawn as it is, in the part's own space
   * @param order triangles in the order in which they are painted; its own without it
   */
  draw(canvas: Canvas, picture: Placed, posed: null, alpha?: number): void
  draw(canvas: Canvas, picture: Picture, posed: Float64Array | null, alpha: number, order: readonly number[] | null): void
  draw(canvas: Canvas, picture: Picture | Placed, posed: Float64Array | null, alpha = 1, order: readonly number[] | null = null): void {
    if (posed) return this.drawBent(canvas, picture as Picture, posed, order)
    const image = this.textures.image(picture.asset)
    if (!image) return
    const { CK } = this
    const { x, y, width, height, scale } = picture
    canvas.save()
    canvas.translate(x, y)
    canvas.scale(scale, scale)
    this.plain ??= smoothPaint(CK)
    this.plain.setAlphaf(alpha)
    // A picture on whole pixels at its own size is copied; any other one is read through its reduced levels.
    canvas.drawImageRectOptions(
      image,
      CK.XYWHRect(0, 0, width, height),
      CK.XYWHRect(0, 0, width, height),
      CK.FilterMode.Linear,
      this.mips,
      this.plain,
    )
    canvas.restore()
  }

  dispose(): void {
    for (const kept of this.bending.values()) release(kept)
    this.bending.clear()
    free(this.plain)
    this.plain = null
  }

  private drawBent(canvas: Canvas, picture: Picture, posed: Float64Array, order: readonly number[] | null): void {
    const { CK } = this
    const kept = this.bent(picture)
    if (!kept) return
    kept.positions.set(posed)
    const vertices = CK.MakeVertices(
      CK.VertexMode.Triangles,
      kept.positions as unknown as number[],
      kept.texture as unknown as number[],
      null,
      (order ?? kept.triangles) as number[],
    )
    canvas.drawVertices(vertices, CK.BlendMode.SrcOver, kept.paint)
    vertices.delete()
  }

  private bent(picture: Picture): Bending | null {
    const known = this.bending.get(picture)
    if (known) return known
    const { CK } = this
    const image = this.textures.image(picture.asset)
    if (!image) return null
    const { Decal } = CK.TileMode
    const shader = own(image.makeShaderOptions(Decal, Decal, CK.FilterMode.Linear, this.mips))
    const paint = smoothPaint(CK)
    paint.setShader(shader)
    const { vertices, triangles } = picture.mesh
    const texture = Float32Array.from(vertices, (v, i) => (v - (i % 2 === 0 ? picture.x : picture.y)) / picture.scale)
    const made = { paint, shader, texture, positions: new Float32Array(vertices.length), triangles }
    this.bending.set(picture, made)
    return made
  }
}

function smoothPaint(CK: CanvasKit): SkPaint {
  const paint = own(new CK.Paint())
  paint.setAntiAlias(true)
  return paint
}

function release({ paint, shader }: Bending): void {
  free(paint)
  free(shader)
}
