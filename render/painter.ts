/** Frame -> pixels: walks the paint list and draws each entry with Skia. Knows nothing of rigs beyond the frame. */
import type { Canvas, CanvasKit } from 'canvaskit-wasm'
import { emptyBounds, isEmpty } from '@marionette/core/geometry/bounds'
import type { Rig } from '@marionette/core/rig/compile'
import type { Frame } from '@marionette/core/rig/evaluate'
import type { ShapeGeometry } from '@marionette/core/rig/geometry'
import { paintBounds } from '@marionette/core/rig/probe'
import { using } from './owned'
import { toMatrix } from './paints'
import { ShapeCache } from './shapeCache'

export class Painter {
  private readonly caches = new Map<ShapeGeometry, ShapeCache>()
  private rig: Rig | null = null

  constructor(private readonly CK: CanvasKit) {}

  /**
   * Draws a frame in canvas space onto a Skia canvas that already carries the view.
   *
   * @param only parts to draw, by index; all without it
   */
  paint(canvas: Canvas, frame: Frame, only?: ReadonlySet<number>): void {
    this.follow(frame.rig)
    this.walk(canvas, frame, 0, frame.rig.paint.length, only)
  }

  /** Deletes every Skia object that the painter owns. */
  dispose(): void {
    for (const cache of this.caches.values()) cache.dispose()
    this.caches.clear()
    this.rig = null
  }

  /** Drops what a new rig does not show any more. */
  private follow(rig: Rig): void {
    if (this.rig === rig) return
    this.rig = rig
    const shown = new Set(rig.drawings.flatMap((d) => d.geometry.shapes))
    for (const [geometry, cache] of this.caches) {
      if (shown.has(geometry)) continue
      cache.dispose()
      this.caches.delete(geometry)
    }
  }

  private walk(canvas: Canvas, frame: Frame, from: number, to: number, only?: ReadonlySet<number>): void {
    const { paint, drawings } = frame.rig
    for (let i = from; i < to; i++) {
      const op = paint[i]!
      if (op.op === 'draw') {
        if (!only || only.has(drawings[op.drawing]!.part)) this.drawDrawing(canvas, frame, op.drawing)
      } else if (op.op === 'push') {
        const alpha = frame.opacity[op.part]!
        if (alpha >= 1) continue
        if (alpha > 0) this.inLayer(canvas, frame, i, op.end, alpha, () => this.walk(canvas, frame, i + 1, op.end, only))
        i = op.end
      }
    }
  }

  /** Draws through a layer of some opacity, bounded by what it will hold. */
  private inLayer(canvas: Canvas, frame: Frame, from: number, to: number, alpha: number, draw: () => void): void {
    const box = emptyBounds()
    for (let i = from; i < to; i++) {
      const op = frame.rig.paint[i]!
      if (op.op === 'draw') paintBounds(frame, op.drawing, box)
    }
    if (isEmpty(box)) return
    using(new this.CK.Paint(), (paint) => {
      paint.setAlphaf(alpha)
      canvas.saveLayer(paint, this.CK.LTRBRect(box.minX, box.minY, box.maxX, box.maxY))
    })
    draw()
    canvas.restore()
  }

  private drawDrawing(canvas: Canvas, frame: Frame, d: number): void {
    const drawing = frame.rig.drawings[d]!
    const rigid = drawing.skin === null
    if (rigid) {
      canvas.save()
      canvas.concat(toMatrix(frame.parts, 6 * drawing.part))
    }
    for (const geometry of drawing.geometry.shapes) this.drawShape(canvas, frame, d, geometry)
    if (rigid) canvas.restore()
  }

  private drawShape(canvas: Canvas, frame: Frame, d: number, geometry: ShapeGeometry): void {
    const { shape } = geometry
    if (shape.alpha === 0) return
    const cache = this.cacheOf(geometry)
    const drawing = frame.rig.drawings[d]!
    const path = drawing.skin ? cache.bent(frame, d) : cache.rigid(drawing)
    if (cache.needsLayer) {
      using(new this.CK.Paint(), (paint) => {
        paint.setAlphaf(shape.alpha)
        const [l, t, r, b] = path.getBounds() as unknown as [number, number, number, number]
        const wide = shape.line ? shape.line.width * shape.line.miter * 2 : 0
        canvas.saveLayer(paint, this.CK.LTRBRect(l - wide, t - wide, r + wide, b + wide))
      })
    }
    if (cache.ink) canvas.drawPath(path, cache.ink)
    if (cache.line) {
      if (cache.pen) {
        canvas.save()
        canvas.concat(toMatrix(cache.pen))
      }
      canvas.drawPath(cache.linePath(), cache.line)
      if (cache.pen) canvas.restore()
    }
    if (cache.needsLayer) canvas.restore()
  }

  private cacheOf(geometry: ShapeGeometry): ShapeCache {
    let cache = this.caches.get(geometry)
    if (!cache) {
      cache = new ShapeCache(this.CK, geometry)
      this.caches.set(geometry, cache)
    }
    return cache
  }
}
