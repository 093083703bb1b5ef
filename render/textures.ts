/** Shaders of what is not one colour: gradients, pictures and patterns. Pictures are decoded and patterns recorded once. */
import type { CanvasKit, Image, Shader, SkPicture } from 'canvaskit-wasm'
import type { Affine, Drawing, Paint, Puppet } from '@marionette/core/puppet/schema'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import { multiply, translation } from '@marionette/core/maths/geometry/affine'
import { free, own } from './owned'
import { makeGradient, toMatrix, type Textured } from './paints'

/** Bytes of an asset by its hash; undefined while they are not at hand. */
export type AssetSource = (hash: string) => Uint8Array | undefined

/** Paints a drawing as it stands, in its own space, through a recorder. */
export type RecordDrawing = (drawing: Drawing, tile: Extract<Paint, { kind: 'pattern' }>['tile']) => SkPicture

export class Textures {
  private readonly images = new Map<string, Image>()
  private readonly patterns = new Map<Drawing, SkPicture>()
  private puppet: Puppet | null = null

  constructor(
    private readonly CK: CanvasKit,
    private readonly assets: AssetSource,
    private readonly record: RecordDrawing,
  ) {}

  /** Takes the drawings from a puppet, and lets go of what it does not use any more. */
  follow(puppet: Puppet): void {
    if (this.puppet?.drawings === puppet.drawings && this.puppet.pictures === puppet.pictures && this.puppet.reference === puppet.reference)
      return
    this.puppet = puppet
    if (this.images.size > 0) {
      const used = paintedAssetsOf(puppet)
      dropWhere(this.images, (hash) => !used.has(hash))
    }
    dropWhere(this.patterns, (drawing) => puppet.drawings[drawing.id] !== drawing)
  }

  /** Shader of a paint, owned by the caller; null where its picture or pattern is not at hand. `outer` takes the drawing's space to where it is painted. */
  shader(paint: Textured, outer: Affine): Shader | null {
    if (paint.kind === 'picture') return this.pictureShader(paint, outer)
    if (paint.kind === 'pattern') return this.patternShader(paint, outer)
    return makeGradient(this.CK, paint, outer)
  }

  dispose(): void {
    dropWhere(this.images, () => true)
    dropWhere(this.patterns, () => true)
  }

  private pictureShader(paint: Extract<Paint, { kind: 'picture' }>, outer: Affine): Shader | null {
    const { TileMode, FilterMode, MipmapMode } = this.CK
    const image = this.image(paint.asset)
    if (!image) return null
    const filter = paint.smooth ? FilterMode.Linear : FilterMode.Nearest
    const mips = paint.smooth ? MipmapMode.Linear : MipmapMode.None
    return own(image.makeShaderOptions(TileMode.Clamp, TileMode.Clamp, filter, mips, toMatrix(multiply(outer, paint.map))))
  }

  /** The picture of an asset with its reduced levels; null while its bytes are not at hand. */
  image(hash: string): Image | null {
    const known = this.images.get(hash)
    if (known) return known
    const bytes = this.assets(hash)
    const decoded = bytes ? this.decode(bytes) : null
    if (!decoded) return null
    const image = own(decoded.makeCopyWithDefaultMipmaps())
    decoded.delete()
    this.images.set(hash, image)
    return image
  }

  /**
   * Decodes a picture into premultiplied colours. Left to itself Skia would mix straight ones where it reduces and
   * turns a picture, and the colour of transparent pixels would show as a dark fringe.
   */
  private decode(bytes: Uint8Array): Image | null {
    const { CK } = this
    const straight = CK.MakeImageFromEncoded(bytes)
    if (!straight) return null
    const [width, height] = [straight.width(), straight.height()]
    const info = { width, height, alphaType: CK.AlphaType.Premul, colorType: CK.ColorType.RGBA_8888, colorSpace: CK.ColorSpace.SRGB }
    const pixels = straight.readPixels(0, 0, info)
    straight.delete()
    return pixels ? CK.MakeImage(info, pixels as Uint8Array, 4 * width) : null
  }

  private patternShader(paint: Extract<Paint, { kind: 'pattern' }>, outer: Affine): Shader | null {
    const { TileMode, FilterMode } = this.CK
    const drawing = this.puppet?.drawings[paint.drawing]
    const { x, y, width, height } = paint.tile
    if (!drawing || width === 0 || height === 0) return null
    let picture = this.patterns.get(drawing)
    if (!picture) {
      picture = own(this.record(drawing, paint.tile))
      this.patterns.set(drawing, picture)
    }
    // The cell is recorded with its corner at the origin, where Skia repeats it from.
    const matrix = toMatrix(multiply(multiply(outer, paint.map), translation(x, y)))
    return own(picture.makeShader(TileMode.Repeat, TileMode.Repeat, FilterMode.Linear, matrix, this.CK.XYWHRect(0, 0, width, height)))
  }
}

function dropWhere<K>(map: Map<K, { delete(): void }>, test: (key: K) => boolean): void {
  for (const [key, object] of map) {
    if (!test(key)) continue
    free(object)
    map.delete(key)
  }
}
