/**
 * Pictures of a joint in signal colours, pose after pose, as core/reports/sweep reads them: at its place of rest, or going
 * along with the pose.
 */
import type { CanvasKit } from 'canvaskit-wasm'
import { isOutline } from '@marionette/core/joints/caps'
import { endingsOf, jointLine } from '@marionette/core/joints/jointCaps'
import { lineWidthOf, thinLines } from '@marionette/core/artwork/linePixels'
import type { Affine, Drawing, Part, Picture, Puppet, Shape, Vec } from '@marionette/core/puppet/schema'
import { drawingOf, drawnParts, partsBelow, restMatrix, topmostParts } from '@marionette/core/parts/tree'
import { apply, invert, multiply } from '@marionette/core/maths/geometry/affine'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import type { PixelData } from '@marionette/core/maths/geometry/raster'
import { INK_SIGNAL, OVER_SIGNAL, UNDER_SIGNAL, type JointView } from '@marionette/core/reports/sweep'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { posedMap, type Jacobian } from '@marionette/core/puppet/posedMap'
import { decodePng, encodePng, PASSING, type Pixels } from '@marionette/formats/pixels'
import { Painter } from '@marionette/render/painter'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import type { Joint } from '@marionette/core/joints/records'
import { bindHolder } from '@marionette/core/binds/tree'
import type { Rig } from '@marionette/core/puppet/rig'
import { partMap, type Frame } from '@marionette/core/puppet/frame'
import { drawingBy, pictureBy } from '@marionette/core/artwork/art'

/** Half the side of what is looked at, in radii of the joint. */
const FIELD = 2.5

export const regionOf = ({ radius }: Joint, at: Vec): Bounds => {
  const half = FIELD * radius
  return { minX: at.x - half, maxX: at.x + half, minY: at.y - half, maxY: at.y + half }
}

/** What turns as one piece on either side of a joint: a part and what the same bone carries, a cuff with its sleeve. */
export function piecesOf(puppet: Puppet, joint: Joint): { under: string[]; over: string[] } {
  const carrier = (part: string): string | null => {
    const bind = bindHolder(puppet, part)?.bind
    return bind?.kind === 'whole' ? bind.bone : null
  }
  const side = (part: string, other: string): string[] => {
    const bone = carrier(part)
    if (bone === null || bone === carrier(other)) return [part]
    const along = drawnParts(puppet, puppet.root).filter((p) => p.visible && carrier(p.id) === bone && drawingOf(puppet, p))
    return topmostParts(puppet, [part, ...along.map((p) => p.id)])
  }
  return { under: side(joint.under, joint.over), over: side(joint.over, joint.under) }
}

export function indicesOf(rig: Rig, puppet: Puppet, parts: readonly string[]): Set<number> {
  return new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => rig.parts.index.get(p.id)!)))
}

/** Pieces that stay this near to how they lie at rest go as one, canvas px. */
const AS_ONE = 0.02

/** Draws a joint in signal colours, pose after pose. */
export class JointLooker {
  private readonly rig: Rig
  private readonly frame: Frame
  private readonly pose: Float64Array
  private readonly painter: Painter
  private readonly under: ReadonlySet<number>
  private readonly over: ReadonlySet<number>
  private readonly pieces: ReadonlySet<number>
  private readonly above: ReadonlySet<number>
  /** From the canvas at rest into the space of each piece. */
  private backs: readonly (Affine | null)[] | null = null
  /** Width of the lines, px of the pictures. */
  readonly line: number
  private readonly grain: number
  /** Pixels of the pictures to a canvas px. */
  readonly scale: number
  /** Of the joint, canvas px. */
  readonly radius: number
  private readonly region: Bounds

  constructor(
    private readonly CK: CanvasKit,
    puppet: Puppet,
    private readonly joint: Joint,
    private readonly size: number,
    threshold: number,
    assets: AssetSource | undefined,
  ) {
    const signal = new Signals(puppet, joint, threshold, assets)
    this.rig = compile(signal.puppet)
    this.frame = makeFrame(this.rig)
    this.pose = new Float64Array(this.rig.restPose.length)
    this.painter = new Painter(CK, signal.assets)
    const pieces = piecesOf(puppet, joint)
    this.under = indicesOf(this.rig, puppet, pieces.under)
    this.over = indicesOf(this.rig, puppet, pieces.over)
    this.pieces = new Set([...this.under, ...this.over])
    this.above = paintedAbove(this.rig, this.pieces)
    this.region = regionOf(joint, joint.at)
    this.radius = joint.radius
    this.scale = size / (this.region.maxX - this.region.minX)
    const { under, over } = endingsOf(puppet, joint)
    const widths = [under, over].map((e) => (e?.picture ? signal.lineOf(e.picture) * e.picture.scale * e.scale : jointLine(e)))
    this.line = Math.max(...widths) * this.scale
    this.grain = Math.max(0, ...[under, over].map((e) => (e?.picture ? e.picture.scale * e.scale : 0))) * this.scale
  }

  /** The joint in a pose, at its place of rest. */
  look(pose: Readonly<Record<string, number>>): JointView {
    evaluate(this.rig, writePose(this.rig, pose, this.pose), this.frame)
    const draw = (only: ReadonlySet<number>): PixelData => this.draw(this.frame, this.painter, this.region, only)
    return this.view(draw, this.joint.radius * this.scale, this.line > 0)
  }

  /**
   * The silhouette of the joint in a frame of its puppet, wherever that brings it, with how far its two pieces have come
   * apart, canvas px.
   */
  follow(frame: Frame, painter: Painter): { view: JointView; apart: number } {
    const [a, b] = [this.spot(frame, this.joint.under), this.spot(frame, this.joint.over)]
    const at = { x: (a.at.x + b.at.x) / 2, y: (a.at.y + b.at.y) / 2 }
    const radius = this.joint.radius * this.scale * Math.min(1, a.least, b.least)
    const draw = (only: ReadonlySet<number>): PixelData => this.draw(frame, painter, regionOf(this.joint, at), only)
    return { view: this.view(draw, radius, false), apart: Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y) }
  }

  /** Whether both pieces go as one in a frame, rigidly: then nothing can have opened between them. */
  goesAsOne(frame: Frame): boolean {
    const { rig } = frame
    const all = [...this.pieces]
    const isBent = rig.drawings.some(({ part }, d) => this.pieces.has(part) && frame.bent[d] === 1)
    if (isBent || all.some((p) => frame.shown[p] === 0)) return false
    this.backs ??= all.map((p) => invert(restMatrix(rig.puppet, rig.parts.ids[p]!)))
    const motions = this.backs.flatMap((back, k) => (back ? [multiply(partMap(frame, all[k]!), back)] : []))
    const first = motions[0]
    const { at, radius } = this.joint
    // Compared where they meet, at three spots that are no line.
    const spots = [at, { x: at.x + radius, y: at.y }, { x: at.x, y: at.y + radius }]
    const differs = (m: Affine, n: Affine): boolean =>
      spots.some((spot) => {
        const [a, b] = [apply(m, spot), apply(n, spot)]
        return Math.hypot(a.x - b.x, a.y - b.y) > AS_ONE
      })
    return first !== undefined && motions.every((m) => !differs(first, m))
  }

  /** Where a piece has the pivot, and by how much it is narrowed there at most. */
  private spot(frame: Frame, part: string): { at: Vec; least: number } {
    const rest = restMatrix(this.rig.puppet, part)
    const back = invert(rest)
    // What is flat at rest covers nothing.
    if (!back) return { at: this.joint.at, least: 0 }
    const own = apply(back, this.joint.at)
    const map = posedMap(frame, part)
    return { at: map.toCanvas(own), least: smallestStretch(map.derivative(own)) / smallestStretch(rest) }
  }

  private draw(frame: Frame, painter: Painter, region: Bounds, only: ReadonlySet<number>): PixelData {
    return renderPixels(this.CK, frame, { region, scale: this.scale, only, painter }).data
  }

  private view(draw: (only: ReadonlySet<number>) => PixelData, radius: number, hasLines: boolean): JointView {
    const { size } = this
    return {
      ...{ size, x: size / 2, y: size / 2, radius, line: this.line, grain: this.grain },
      both: draw(this.pieces),
      alone: hasLines ? () => ({ under: draw(this.under), over: draw(this.over) }) : null,
      above: this.above.size > 0 ? () => draw(this.above) : null,
    }
  }

  dispose(): void {
    this.painter.dispose()
  }
}

/** The smaller singular value of a map's linear part. */
function smallestStretch([a, b, c, d]: Jacobian | Affine): number {
  const sum = Math.hypot(a + d, b - c)
  const difference = Math.hypot(a - d, b + c)
  return Math.abs(sum - difference) / 2
}

/** Parts that are painted after all of some parts. */
function paintedAbove(rig: Rig, parts: ReadonlySet<number>): Set<number> {
  let last = -1
  rig.drawings.slice(0, rig.shown).forEach(({ part }, d) => {
    if (parts.has(part)) last = d
  })
  const out = new Set<number>()
  rig.drawings.slice(last + 1, rig.shown).forEach(({ part }) => {
    for (let p = part; p >= 0; p = rig.parts.parent[p]!) out.add(p)
  })
  for (const part of parts) out.delete(part)
  return out
}

/** The puppet with both pieces of a joint in signal colours. */
class Signals {
  readonly puppet: Puppet
  readonly assets: AssetSource
  private readonly decoded = new Map<Picture, { readonly pixels: Pixels; readonly line: number } | null>()
  private readonly made = new Map<string, Uint8Array>()

  constructor(
    source: Puppet,
    joint: Joint,
    private readonly threshold: number,
    private readonly original: AssetSource | undefined,
  ) {
    const parts: Record<string, Part> = { ...source.parts }
    const drawings: Record<string, Drawing> = { ...source.drawings }
    const pictures: Record<string, Picture> = { ...source.pictures }
    const view = source.view
    const pieces = piecesOf(source, joint)
    for (const [ids, colour] of [
      [pieces.under, UNDER_SIGNAL],
      [pieces.over, OVER_SIGNAL],
    ] as const)
      for (const part of ids.flatMap((id) => drawnParts(source, id))) {
        const art = part.merged ?? part.art[view]
        if (art === undefined) continue
        const copy = `${colour.slice(1)}-${art}`.slice(0, 64)
        // Effects would colour the signals.
        parts[part.id] = { ...part, opacity: 1, blend: 'normal', effect: null, art: { [view]: copy }, merged: part.merged && copy }
        const [drawing, picture] = [drawingBy(source, art), pictureBy(source, art)]
        if (drawing) drawings[copy] = signalDrawing(drawing, copy, colour)
        else if (picture) pictures[copy] = this.signalPicture(picture, copy, colour)
      }
    this.puppet = { ...source, parts, drawings, pictures }
    this.assets = (hash) => this.made.get(hash) ?? this.original?.(hash)
  }

  /** Width of a picture's outline, pixels of it. */
  lineOf(picture: Picture): number {
    return this.read(picture)?.line ?? 0
  }

  /** A picture as pixels, with the width of its lines; null where its bytes are not at hand. */
  private read(picture: Picture): { readonly pixels: Pixels; readonly line: number } | null {
    const known = this.decoded.get(picture)
    if (known !== undefined) return known
    const bytes = this.original?.(picture.asset)
    const pixels = bytes ? decodePng(bytes, 'The picture') : null
    const read = pixels && { pixels, line: lineWidthOf(pixels, this.threshold) }
    this.decoded.set(picture, read)
    return read
  }

  private signalPicture(picture: Picture, id: string, colour: string): Picture {
    const read = this.read(picture)
    if (!read) return picture
    const asset = `${id}/${picture.asset}`
    const { width, height, data } = read.pixels
    const [line, ink] = [rgbOf(colour), rgbOf(INK_SIGNAL)]
    const lines = read.line > 0 ? thinLines(read.pixels, this.threshold, read.line) : null
    const out = new Uint8Array(data.length)
    for (let i = 0; i < data.length / 4; i++) {
      out.set(lines?.[i] ? line : ink, 4 * i)
      out[4 * i + 3] = data[4 * i + 3]!
    }
    this.made.set(asset, encodePng({ width, height, data: out }, PASSING))
    return { ...picture, id, asset }
  }
}

const rgbOf = (colour: string): readonly number[] => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16))

function signalDrawing(drawing: Drawing, id: string, colour: string): Drawing {
  const flat = (tone: string) => ({ kind: 'flat' as const, colour: tone })
  const shape = (s: Shape): Shape => ({
    ...s,
    alpha: s.alpha > 0 ? 1 : 0,
    ink: s.ink && { ...s.ink, paint: flat(INK_SIGNAL), alpha: s.ink.alpha > 0 ? 1 : 0 },
    line: s.line && { ...s.line, paint: flat(isOutline(drawing, s) ? colour : INK_SIGNAL), alpha: s.line.alpha > 0 ? 1 : 0 },
  })
  return { ...drawing, id, shapes: drawing.shapes.map(shape) }
}
