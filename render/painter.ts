/** Frame -> pixels: walks the paint list and draws each entry with Skia. Knows nothing of rigs beyond the frame. */
import type { Canvas, CanvasKit, Paint as SkPaint, Path as SkPath, SkPicture } from 'canvaskit-wasm'
import type { Drawing, Reference, Shadow } from '@marionette/core/puppet/schema'
import { affineAt, IDENTITY, invert } from '@marionette/core/maths/geometry/affine'
import { mapBounds } from '@marionette/core/maths/geometry/bounds'
import { shadowMap } from '@marionette/core/staging/shadow'
import { drawnForm } from '@marionette/core/artwork/flat/drawnForm'
import { rigidGeometry, type ShapeGeometry } from '@marionette/core/artwork/flat/flat'
import type { Layer, PaintOp, RigMask } from '@marionette/core/puppet/paintList'
import { skBlend, withEffect } from './effects'
import { contentBox } from './layerBox'
import { free, own, using } from './owned'
import { toMatrix } from './paints'
import { PicturePainter } from './pictures'
import { withShadow } from './shadow'
import { ShapeCache } from './shapeCache'
import { Textures, type AssetSource } from './textures'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Frame } from '@marionette/core/puppet/frame'
import { sure } from '@marionette/core/kernel/sure'

type Push = Extract<PaintOp, { op: 'push' }>

/** What of the paint list is drawn, and how. */
interface Brush {
  /** Parts to draw, by index; all without it. */
  readonly only?: ReadonlySet<number> | undefined
  /** Whether the area of the inks counts alone, in solid black: for masks. */
  readonly silhouette: boolean
  /** Entry of the part that masks, which does so even where it is hidden. */
  readonly mask?: number
}

export class Painter {
  private readonly caches = new Map<ShapeGeometry, ShapeCache>()
  private readonly textures: Textures
  private readonly pictures: PicturePainter
  private rig: Rig | null = null

  constructor(
    private readonly CK: CanvasKit,
    assets: AssetSource = () => undefined,
    /** How reduced pictures are read: calm is for people; quick takes one level of them, and is for what measures silhouettes. */
    reading: 'calm' | 'quick' = 'calm',
  ) {
    this.textures = new Textures(CK, assets, (drawing, tile) => this.recordTile(drawing, tile))
    this.pictures = new PicturePainter(CK, this.textures, reading)
  }

  /**
   * Draws a frame in canvas space onto a Skia canvas that already carries the view.
   *
   * @param only parts to draw, by index; all without it
   */
  paint(canvas: Canvas, frame: Frame, only?: ReadonlySet<number>): void {
    this.follow(frame.rig)
    const { shadow } = frame.rig.puppet
    // Parts by themselves are looked at for what they are.
    if (shadow && !only) this.drawShadow(canvas, frame, shadow)
    this.walk(canvas, frame, 0, frame.rig.painted, { only, silhouette: false })
  }

  /** All that is shown once more under it, flat and in one colour. */
  private drawShadow(canvas: Canvas, frame: Frame, shadow: Shadow): void {
    const { CK } = this
    const box = contentBox(frame, 0, frame.rig.painted)
    if (!box || shadow.opacity === 0) return
    const map = shadowMap(shadow)
    const { minX, minY, maxX, maxY } = mapBounds(box, map)
    const edge = 2 * shadow.softness
    canvas.save()
    withShadow(CK, shadow, (paint) => canvas.saveLayer(paint, CK.LTRBRect(minX - edge, minY - edge, maxX + edge, maxY + edge)))
    canvas.concat(toMatrix(map))
    this.walk(canvas, frame, 0, frame.rig.painted, { only: standing(frame.rig), silhouette: false })
    canvas.restore()
    canvas.restore()
  }

  /** Draws a picture to compare with, in canvas space; what is exported never shows it. */
  paintReference(canvas: Canvas, reference: Reference): void {
    if (reference.visible) this.pictures.draw(canvas, reference, null, reference.opacity)
  }

  /** Makes shapes anew that were painted while their pictures were not at hand yet. */
  refresh(): void {
    for (const cache of this.caches.values()) cache.dispose()
    this.caches.clear()
  }

  /** Deletes every Skia object that the painter owns. It can be used again and makes them anew. */
  dispose(): void {
    this.refresh()
    this.pictures.dispose()
    this.textures.dispose()
    this.rig = null
  }

  /** Drops what a new rig does not show any more. */
  private follow(rig: Rig): void {
    if (this.rig === rig) return
    this.rig = rig
    this.textures.follow(rig.puppet)
    this.pictures.follow(rig.puppet)
    const shown = new Set(rig.drawings.flatMap((d) => d.geometry.shapes))
    for (const [geometry, cache] of this.caches) {
      if (shown.has(geometry)) continue
      cache.dispose()
      this.caches.delete(geometry)
    }
  }

  private walk(canvas: Canvas, frame: Frame, from: number, to: number, brush: Brush): void {
    const { paint } = frame
    const { drawings } = frame.rig
    for (let i = from; i < to; i++) {
      const op = paint[i]!
      if (op.op === 'draw') {
        if (!brush.only || brush.only.has(drawings[op.drawing]!.part)) this.drawDrawing(canvas, frame, op.drawing, brush)
      } else if (op.op === 'push') {
        const isHidden = frame.shown[op.part] === 0 && i !== brush.mask
        const alpha = isHidden ? 0 : brush.silhouette ? 1 : frame.opacity[op.part]!
        if (alpha >= 1 && !op.layer) continue
        if (alpha > 0) this.drawLayer(canvas, frame, i, op, alpha, brush)
        i = op.end
      }
    }
  }

  /** Draws a part that is faded, masked, blended or changed by an effect. */
  private drawLayer(canvas: Canvas, frame: Frame, at: number, op: Push, alpha: number, brush: Brush): void {
    const box = contentBox(frame, at, op.end)
    if (!box) return
    const { CK } = this
    const { blend = 'normal', effect = null } = op.layer ?? {}
    const masks = frame.masked[op.part] === 1 ? (op.layer?.masks ?? []) : []
    const bounds = CK.LTRBRect(box.minX, box.minY, box.maxX, box.maxY)
    const clips = masks.map((mask) => clipOf(frame, mask))
    const cut = masks.filter((_, k) => clips[k] === null)
    canvas.save()
    for (const d of clips) if (d !== null) this.clipTo(canvas, frame, d)
    const isPlain = cut.length === 0 && alpha >= 1 && (brush.silhouette || (blend === 'normal' && !isGround(op.layer)))
    if (!isPlain) {
      using(new CK.Paint(), (paint) => {
        paint.setAlphaf(alpha)
        if (!brush.silhouette) paint.setBlendMode(skBlend(CK, blend))
        canvas.saveLayer(paint, bounds)
      })
    }
    if (effect && !brush.silhouette) this.drawWithEffect(canvas, frame, at, op, brush)
    else this.walk(canvas, frame, at + 1, op.end, brush)
    for (const mask of cut) this.cutBy(canvas, frame, mask, bounds)
    if (!isPlain) canvas.restore()
    canvas.restore()
  }

  /** Draws what is in a part through its effect, which is measured in the part's own space. */
  private drawWithEffect(canvas: Canvas, frame: Frame, at: number, op: Push, brush: Brush): void {
    const { CK } = this
    const map = affineAt(frame.parts, 6 * op.part)
    const back = invert(map)
    const { region } = sure(sure(op.layer).effect)
    if (!back) return
    canvas.save()
    canvas.concat(toMatrix(map))
    if (region) canvas.clipRect(CK.XYWHRect(region.x, region.y, region.width, region.height), CK.ClipOp.Intersect, true)
    withEffect(CK, sure(sure(op.layer).effect), (filter) =>
      using(new CK.Paint(), (paint) => {
        paint.setImageFilter(filter)
        canvas.saveLayer(paint)
      }),
    )
    canvas.concat(toMatrix(back))
    this.walk(canvas, frame, at + 1, op.end, brush)
    canvas.restore()
    canvas.restore()
  }

  /** Clips to the one shape of a drawing. */
  private clipTo(canvas: Canvas, frame: Frame, d: number): void {
    const { part } = frame.rig.drawings[d]!
    const path = this.pathOf(frame, d, shapesOf(frame, d)[0]!)
    const map = frame.bent[d] === 1 || frame.morphs.drawn[d] ? IDENTITY : affineAt(frame.parts, 6 * part)
    const back = invert(map)
    // A shape that is flattened to a line lets nothing through.
    if (!back) return canvas.clipRect(this.CK.LTRBRect(0, 0, 0, 0), this.CK.ClipOp.Intersect, false)
    canvas.concat(toMatrix(map))
    canvas.clipPath(path, this.CK.ClipOp.Intersect, true)
    canvas.concat(toMatrix(back))
  }

  /** Takes away from the layer what a mask does not let through. */
  private cutBy(canvas: Canvas, frame: Frame, mask: RigMask, bounds: Float32Array): void {
    const { CK } = this
    using(new CK.Paint(), (paint) => {
      paint.setBlendMode(mask.keep === 'inside' ? CK.BlendMode.DstIn : CK.BlendMode.DstOut)
      if (mask.soft > 0) return this.softLayer(canvas, mask, paint, bounds)
      if (mask.by !== 'brightness') canvas.saveLayer(paint, bounds)
      else
        using(CK.ColorFilter.MakeLuma(), (luma) => {
          paint.setColorFilter(luma)
          canvas.saveLayer(paint, bounds)
        })
    })
    this.walk(canvas, frame, mask.range.from, mask.range.to, { silhouette: mask.by === 'area', mask: mask.range.from })
    canvas.restore()
  }

  /** A layer whose edges fade: blurred by a quarter of the width over which they do. */
  private softLayer(canvas: Canvas, mask: RigMask, paint: SkPaint, bounds: Float32Array): void {
    const { CK } = this
    const sigma = mask.soft / 4
    const [l, t, r, b] = bounds as unknown as [number, number, number, number]
    const wide = CK.LTRBRect(l - 3 * sigma, t - 3 * sigma, r + 3 * sigma, b + 3 * sigma)
    using(CK.ImageFilter.MakeBlur(sigma, sigma, CK.TileMode.Decal, null), (blur) => {
      paint.setImageFilter(blur)
      if (mask.by === 'brightness')
        using(CK.ColorFilter.MakeLuma(), (luma) => {
          paint.setColorFilter(luma)
          canvas.saveLayer(paint, wide)
        })
      else canvas.saveLayer(paint, wide)
    })
  }

  private drawDrawing(canvas: Canvas, frame: Frame, d: number, brush: Brush): void {
    const drawing = frame.rig.drawings[d]!
    const warped = frame.morphs.warped[d]
    const rigid = frame.bent[d] === 0 && !frame.morphs.drawn[d] && !warped
    if (rigid) {
      canvas.save()
      canvas.concat(toMatrix(frame.parts, 6 * drawing.part))
    }
    if (drawing.picture) this.pictures.draw(canvas, drawing.picture, rigid ? null : (warped ?? frame.samples[d]!), 1, drawing.order)
    else for (const geometry of shapesOf(frame, d)) this.drawShape(canvas, geometry, this.lookedPath(frame, d, geometry), brush)
    if (rigid) canvas.restore()
  }

  /** The path of a shape whose paints are as responses have them. */
  private lookedPath(frame: Frame, d: number, geometry: ShapeGeometry): SkPath {
    const path = this.pathOf(frame, d, geometry)
    const looks = frame.morphs.drawn[d] ? undefined : frame.rig.responses.paintOverridesOf.get(geometry)
    if (looks) this.cacheOf(geometry).look(frame, d, looks)
    return path
  }

  private pathOf(frame: Frame, d: number, geometry: ShapeGeometry): SkPath {
    const drawing = frame.rig.drawings[d]!
    const cache = this.cacheOf(geometry)
    if (frame.morphs.drawn[d]) return cache.morphed(frame, d)
    return frame.bent[d] === 1 ? cache.bent(frame, d) : cache.rigid(drawing.geometry.points)
  }

  private drawShape(canvas: Canvas, geometry: ShapeGeometry, path: SkPath, brush: Brush): void {
    const { shape } = geometry
    const cache = this.cacheOf(geometry)
    if (brush.silhouette) return canvas.drawPath(path, cache.silhouette)
    if (shape.alpha === 0) return
    if (cache.needsLayer) {
      using(new this.CK.Paint(), (paint) => {
        paint.setAlphaf(shape.alpha)
        const [l, t, r, b] = path.getBounds() as unknown as [number, number, number, number]
        const wide = shape.line ? shape.line.width * shape.line.miter * 2 : 0
        canvas.saveLayer(paint, this.CK.LTRBRect(l - wide, t - wide, r + wide, b + wide))
      })
    }
    if (cache.line && shape.lineFirst) this.drawLine(canvas, cache, cache.line)
    if (cache.ink) canvas.drawPath(path, cache.ink)
    if (cache.line && !shape.lineFirst) this.drawLine(canvas, cache, cache.line)
    if (cache.needsLayer) canvas.restore()
  }

  private drawLine(canvas: Canvas, cache: ShapeCache, line: SkPaint): void {
    if (cache.pen) {
      canvas.save()
      canvas.concat(toMatrix(cache.pen))
    }
    canvas.drawPath(cache.linePath(), line)
    if (cache.pen) canvas.restore()
  }

  /** Records the cell of a pattern, its corner at the origin. */
  private recordTile(drawing: Drawing, tile: { x: number; y: number; width: number; height: number }): SkPicture {
    const recorder = own(new this.CK.PictureRecorder())
    const canvas = recorder.beginRecording(this.CK.XYWHRect(0, 0, tile.width, tile.height))
    canvas.translate(-tile.x, -tile.y)
    const { shapes, points } = rigidGeometry(drawnForm(drawing))
    for (const geometry of shapes) {
      const cache = new ShapeCache(this.CK, geometry, this.textures)
      this.caches.set(geometry, cache)
      this.drawShape(canvas, geometry, cache.rigid(points), { silhouette: false })
    }
    const picture = recorder.finishRecordingAsPicture()
    for (const geometry of shapes) {
      this.caches.get(geometry)?.dispose()
      this.caches.delete(geometry)
    }
    free(recorder)
    return picture
  }

  private cacheOf(geometry: ShapeGeometry): ShapeCache {
    let cache = this.caches.get(geometry)
    if (!cache) {
      cache = new ShapeCache(this.CK, geometry, this.textures)
      this.caches.set(geometry, cache)
    }
    return cache
  }
}

/** Shapes of a drawing as they are painted: its own, or those that it morphs through. */
const shapesOf = (frame: Frame, d: number): readonly ShapeGeometry[] =>
  (frame.morphs.drawn[d]?.geometry ?? frame.rig.drawings[d]!.geometry).shapes

/** The drawing whose one shape is all of a mask, so that it can be clipped to without a layer; null where there is more to it. */
function clipOf(frame: Frame, mask: RigMask): number | null {
  const { from, to } = mask.range
  const [push, draw] = frame.paint.slice(from, to)
  if (mask.keep !== 'inside' || mask.by !== 'area' || mask.soft > 0 || to - from !== 3) return null
  if (push?.op !== 'push' || push.layer || draw?.op !== 'draw') return null
  const { picture, geometry } = frame.rig.drawings[draw.drawing]!
  return !picture && geometry.shapes.length === 1 ? draw.drawing : null
}

/** A layer without any change of its own is the ground on which blend modes inside it work. */
const isGround = (layer: Layer | null): boolean =>
  layer !== null && layer.blend === 'normal' && layer.effect === null && layer.masks.length === 0

const without = new WeakMap<Rig['parts'], ReadonlySet<number> | undefined>()

/** Parts that cast shadows, by index: all but scenery and what is in it. All of them where there is none. */
function standing({ parts, puppet }: Rig): ReadonlySet<number> | undefined {
  if (puppet.stage.scenery.length === 0) return undefined
  const known = without.get(parts)
  if (known) return known
  const scenery = new Set(puppet.stage.scenery.map(({ part }) => parts.index.get(part)))
  const out = new Set<number>()
  // Parents come first.
  for (let p = 0; p < parts.ids.length; p++) if (!scenery.has(p) && (p === 0 || out.has(sure(parts.parent[p])))) out.add(p)
  without.set(parts, out)
  return out
}
