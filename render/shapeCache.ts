/**
 * Skia objects of one shape: its path, its paints and its gradients.
 *
 * A shape of a rigid drawing is built once, in the part's own space, and drawn through the part's matrix. A shape
 * of a drawing that bends gets a new path whenever the frame has moved on.
 */
import type { CanvasKit, Paint as SkPaint, Path as SkPath, Shader } from 'canvaskit-wasm'
import type { Affine, Ink, Line } from '@marionette/core/puppet/schema'
import { affineAt, IDENTITY, invert } from '@marionette/core/maths/geometry/affine'
import { fitAffine } from '@marionette/core/puppet/fit'
import { lineScaleOf } from '@marionette/core/puppet/probe'
import { CLOSE, CUBIC, LINE, type ShapeGeometry } from '@marionette/core/artwork/flat/flat'
import { free, own } from './owned'
import { hexOf, isTextured, makeInkPaint, makeLinePaint, setLineWidth } from './paints'
import type { Textures } from './textures'
import type { Frame } from '@marionette/core/puppet/frame'

export class ShapeCache {
  readonly ink: SkPaint | null
  readonly line: SkPaint | null
  /** Map under which the nib is round, when that is not the identity; the line path is kept in that space. */
  pen: Affine | null = null
  private solid: SkPaint | null = null
  private path: SkPath | null = null
  private penPath: SkPath | null = null
  private shaders: (Shader | null)[] = [null, null]
  private revision = -1
  private lookRevision = -1
  private lookFrame: Frame | null = null
  /** The map under which gradients were made last. */
  private shaderMap: Affine = IDENTITY
  private frame: Frame | null = null
  private readonly verbs: Uint8Array
  private readonly buffer: Float32Array

  constructor(
    private readonly CK: CanvasKit,
    private readonly geometry: ShapeGeometry,
    private readonly textures: Textures,
  ) {
    const { shape } = geometry
    // Paint of its own carries the shape's opacity, unless ink and line together need a layer.
    const alpha = this.needsLayer ? 1 : shape.alpha
    this.ink = shape.ink ? makeInkPaint(CK, shape.ink, alpha) : null
    this.line = shape.line ? makeLinePaint(CK, shape.line, alpha, 1) : null
    this.verbs = geometry.verbs.map((v) =>
      v === CUBIC ? CK.CUBIC_VERB : v === LINE ? CK.LINE_VERB : v === CLOSE ? CK.CLOSE_VERB : CK.MOVE_VERB,
    )
    this.buffer = new Float32Array(2 * geometry.count)
  }

  /** Paint of the bare area. */
  get silhouette(): SkPaint {
    if (!this.solid) {
      this.solid = own(new this.CK.Paint())
      this.solid.setAntiAlias(true)
    }
    return this.solid
  }

  get needsLayer(): boolean {
    const { alpha, ink, line } = this.geometry.shape
    return alpha < 1 && ink !== null && line !== null
  }

  /** Path of a rigid shape, in the part's space. */
  rigid(points: Float64Array): SkPath {
    // A shape that was bent in the frame before goes back to what was drawn.
    if (!this.path || this.frame) {
      const wasBent = this.frame !== null
      this.frame = null
      this.build(points)
      const { line } = this.geometry.shape
      if (line && wasBent) setLineWidth(this.CK, this.line!, line, 1)
      this.setShaders(IDENTITY)
      this.setPen(IDENTITY)
    }
    return this.path!
  }

  /** Path of a bent shape, on the canvas; made again when the frame moved on. */
  bent(frame: Frame, d: number): SkPath {
    if (this.path && this.revision === frame.revision && this.frame === frame) return this.path
    this.revision = frame.revision
    this.frame = frame
    this.build(frame.points[d]!)
    const { ink, line } = this.geometry.shape
    const follows = (ink && isTextured(ink.paint)) || (line && (isTextured(line.paint) || line.pen))
    if (line) setLineWidth(this.CK, this.line!, line, frame.lineScale[d]!)
    if (follows) {
      const map = fitAffine(frame, d, this.geometry)
      this.setShaders(map)
      this.setPen(map)
    }
    return this.path!
  }

  /** Path of a shape that is on the way from one drawing to another, on the canvas. */
  morphed(frame: Frame, d: number): SkPath {
    if (this.path && this.revision === frame.revision && this.frame === frame) return this.path
    this.revision = frame.revision
    this.frame = frame
    const { geometry, points, widths, inks, lines } = frame.morphs.drawn[d]!
    this.build(points)
    const s = geometry.shapes.indexOf(this.geometry)
    const { line } = this.geometry.shape
    if (line) setLineWidth(this.CK, this.line!, line, lineScaleOf(frame, d) * widths[s]!)
    for (const [paint, colour] of [
      [this.ink, inks[s]],
      [this.line, lines[s]],
    ] as const)
      if (paint && colour) paint.setColorComponents(...colour, paint.getColor()[3]!)
    // Gradients lie in the part's own space.
    const map = affineAt(frame.parts, 6 * frame.rig.drawings[d]!.part)
    this.setShaders(map)
    this.setPen(map)
    return this.path!
  }

  /** Paints the shape as responses have it in a frame; `looks` are those that are about it. */
  look(frame: Frame, d: number, looks: readonly number[]): void {
    if (this.lookRevision === frame.revision && this.lookFrame === frame) return
    this.lookRevision = frame.revision
    this.lookFrame = frame
    const { ink, line } = this.geometry.shape
    const all = frame.rig.responses.paintOverrides
    const recoloured = new Map<Ink | Line, Map<number, string>>()
    for (const k of looks) {
      const { kind, of, stop } = all[k]!
      const [r, g, b] = frame.paintOverrides.subarray(4 * k, 4 * k + 3) as unknown as [number, number, number]
      const [part, paint] = of === 'ink' ? [ink, this.ink] : [line, this.line]
      if (!part || !paint) continue
      if (kind === 'width')
        setLineWidth(this.CK, paint, line!, (frame.bent[d] === 1 ? frame.lineScale[d]! : 1) * frame.paintOverrides[4 * k + 3]!)
      else if (stop === null) paint.setColorComponents(r, g, b, paint.getColor()[3]!)
      else recoloured.set(part, (recoloured.get(part) ?? new Map<number, string>()).set(stop, hexOf(r, g, b)))
    }
    for (const [part, colours] of recoloured) this.regrade(part, colours)
  }

  /** Gives the stops of a gradient other colours. */
  private regrade(part: Ink | Line, colours: ReadonlyMap<number, string>): void {
    const { paint } = part
    if (paint.kind !== 'linear' && paint.kind !== 'radial') return
    const k = part === this.geometry.shape.ink ? 0 : 1
    const stops = paint.stops.map((stop, i) => ({ ...stop, colour: colours.get(i) ?? stop.colour }))
    free(this.shaders[k])
    this.shaders[k] = this.textures.shader({ ...paint, stops }, this.shaderMap)
    if (this.shaders[k]) (k === 0 ? this.ink! : this.line!).setShader(this.shaders[k]!)
  }

  /** Path to stroke: in the pen's space where there is one. */
  linePath(): SkPath {
    return this.penPath ?? this.path!
  }

  dispose(): void {
    this.dropPaths()
    for (const shader of this.shaders) free(shader)
    free(this.ink)
    free(this.solid)
    free(this.line)
  }

  private dropPaths(): void {
    free(this.path)
    free(this.penPath)
    this.path = this.penPath = null
  }

  private build(points: Float64Array): void {
    this.dropPaths()
    const { first, count, shape } = this.geometry
    for (let i = 0; i < 2 * count; i++) this.buffer[i] = points[2 * first + i]!
    const path = this.CK.Path.MakeFromVerbsPointsWeights(this.verbs, this.buffer)
    path.setFillType(shape.ink?.rule === 'evenodd' ? this.CK.FillType.EvenOdd : this.CK.FillType.Winding)
    this.path = own(path)
  }

  private setShaders(map: Affine): void {
    this.shaderMap = map
    this.lookRevision = -1
    const { ink, line } = this.geometry.shape
    for (const [k, part] of [ink, line].entries()) {
      if (!part || !isTextured(part.paint)) continue
      free(this.shaders[k])
      const shader = this.textures.shader(part.paint, map)
      this.shaders[k] = shader
      // Without its picture a paint shows nothing rather than black.
      const paint = k === 0 ? this.ink! : this.line!
      if (shader) paint.setShader(shader)
      else paint.setAlphaf(0)
    }
  }

  private setPen(map: Affine): void {
    const pen = this.geometry.shape.line?.pen
    if (!pen) return
    const full: Affine = [
      map[0] * pen[0] + map[2] * pen[1],
      map[1] * pen[0] + map[3] * pen[1],
      map[0] * pen[2] + map[2] * pen[3],
      map[1] * pen[2] + map[3] * pen[3],
      0,
      0,
    ]
    const back = invert(full)
    if (!back) return
    this.pen = full
    const mapped = new Float32Array(this.buffer.length)
    for (let i = 0; i < mapped.length; i += 2) {
      mapped[i] = back[0] * this.buffer[i]! + back[2] * this.buffer[i + 1]!
      mapped[i + 1] = back[1] * this.buffer[i]! + back[3] * this.buffer[i + 1]!
    }
    free(this.penPath)
    this.penPath = own(this.CK.Path.MakeFromVerbsPointsWeights(this.verbs, mapped))
  }
}
