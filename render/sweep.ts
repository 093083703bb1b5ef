/** Turning a joint through its limits and looking at it: pictures from Skia, faults from core/inspect/sweep. */
import type { CanvasKit } from 'canvaskit-wasm'
import { jointLine, endingsOf } from '@marionette/core/artwork/jointCaps'
import { isOutline } from '@marionette/core/artwork/caps'
import { lightness, lineWidthOf, LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import type { Drawing, Joint, Part, Picture, Puppet, Shape } from '@marionette/core/document/schema'
import { bindHolder, drawingOf, drawnParts, partsBelow, topmostParts } from '@marionette/core/document/tree'
import type { Bounds } from '@marionette/core/geometry/bounds'
import type { PixelData } from '@marionette/core/geometry/raster'
import { findFaults, INK_SIGNAL, OVER_SIGNAL, readRest, UNDER_SIGNAL, type Faults, type JointView } from '@marionette/core/inspect/sweep'
import { compile, type Rig } from '@marionette/core/rig/compile'
import { poseRig } from '@marionette/core/rig/evaluate'
import { anglesBetween, jointTurn } from '@marionette/core/rig/jointTurn'
import { decodePng, encodePng } from '@marionette/formats/pixels'
import { Painter } from './painter'
import { renderPixels } from './pixels'
import { renderPng } from './png'
import type { AssetSource } from './textures'

export interface SweptAngle extends Faults {
  /** Degrees. */
  readonly angle: number
}

export interface Sweep {
  readonly joint: string
  readonly under: string
  readonly over: string
  readonly channel: string
  readonly min: number
  readonly max: number
  readonly angles: readonly SweptAngle[]
  /** Sums over all angles, px. */
  readonly holes: number
  readonly corners: number
  readonly doubled: number
}

export interface SweepOptions {
  /** Angles tried, limits included; without it as many as `step` asks for. */
  readonly count?: number
  /** Degrees between two angles, at most. */
  readonly step?: number
  /** Side of the pictures, px. */
  readonly size?: number
  readonly assets?: AssetSource | undefined
  /** Lightness below which a pixel of a picture belongs to a line. */
  readonly threshold?: number
  readonly progress?: (done: number) => void
}

/** Half the side of what is looked at, in radii of the joint. */
const FIELD = 2.5

/** Turns a joint through its limits and counts its faults at each angle. */
export function sweepJoint(CK: CanvasKit, puppet: Puppet, joint: Joint, options: SweepOptions = {}): Sweep {
  const { size = 256, step = 5, threshold = LINE_THRESHOLD, progress } = options
  const turn = jointTurn(puppet, joint)
  const count = options.count ?? 1 + Math.ceil((turn.max - turn.min) / step)
  const looker = new Looker(CK, puppet, joint, size, threshold, options.assets)
  try {
    const rest = readRest(looker.look({}))
    const angles = anglesBetween(turn.min, turn.max, count).map((angle, i, all): SweptAngle => {
      const view = looker.look({ [turn.address]: angle })
      progress?.((i + 1) / all.length)
      const turns = turn.turning === 'over' ? { under: 0, over: angle } : { under: angle, over: 0 }
      return { angle: Math.round(1000 * angle) / 1000, ...findFaults(view, rest, turns) }
    })
    const sum = (key: keyof Faults): number => angles.reduce((total, a) => total + a[key], 0)
    const name = (part: string): string => puppet.parts[part]!.name
    return {
      ...{ joint: joint.id, under: name(joint.under), over: name(joint.over), channel: turn.address, min: turn.min, max: turn.max },
      ...{ angles, holes: sum('holes'), corners: sum('corners'), doubled: sum('doubled') },
    }
  } finally {
    looker.dispose()
  }
}

/** The angle with most faults first; of equals the one farther from rest. */
export const worstFirst = (sweep: Sweep): SweptAngle[] =>
  [...sweep.angles].sort(
    (a, b) => b.holes + b.corners + b.doubled - (a.holes + a.corners + a.doubled) || Math.abs(b.angle) - Math.abs(a.angle),
  )

const regionOf = ({ at, radius }: Joint): Bounds => {
  const half = FIELD * radius
  return { minX: at.x - half, maxX: at.x + half, minY: at.y - half, maxY: at.y + half }
}

/** Pictures of a joint as it is painted, at some angles, as PNG. */
export function pictureJoint(
  CK: CanvasKit,
  puppet: Puppet,
  joint: Joint,
  angles: readonly number[],
  size: number,
  assets?: AssetSource,
): Uint8Array[] {
  const rig = compile(puppet)
  const { address } = jointTurn(puppet, joint)
  const painter = new Painter(CK, assets)
  const pieces = piecesOf(puppet, joint)
  const only = indicesOf(rig, puppet, [...pieces.under, ...pieces.over])
  try {
    return angles.map((angle) =>
      renderPng(CK, poseRig(rig, { [address]: angle }), { width: size, background: null, region: regionOf(joint), painter, only }),
    )
  } finally {
    painter.dispose()
  }
}

/** What turns as one piece on either side of a joint: a part and what the same bone carries, a cuff with its sleeve. */
function piecesOf(puppet: Puppet, joint: Joint): { under: string[]; over: string[] } {
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

function indicesOf(rig: Rig, puppet: Puppet, parts: readonly string[]): Set<number> {
  return new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => rig.parts.index.get(p.id)!)))
}

/** Draws a joint in signal colours, pose after pose. */
class Looker {
  private readonly rig: Rig
  private readonly painter: Painter
  private readonly under: ReadonlySet<number>
  private readonly over: ReadonlySet<number>
  private readonly above: ReadonlySet<number>
  private readonly line: number
  private readonly grain: number
  private readonly scale: number
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
    this.painter = new Painter(CK, signal.assets)
    const pieces = piecesOf(puppet, joint)
    this.under = indicesOf(this.rig, puppet, pieces.under)
    this.over = indicesOf(this.rig, puppet, pieces.over)
    this.above = paintedAbove(this.rig, new Set([...this.under, ...this.over]))
    this.region = regionOf(joint)
    this.scale = size / (this.region.maxX - this.region.minX)
    const { under, over } = endingsOf(puppet, joint)
    const widths = [under, over].map((e) => (e?.picture ? signal.lineOf(e.picture) * e.picture.scale * e.scale : jointLine(e)))
    this.line = Math.max(...widths) * this.scale
    this.grain = Math.max(0, ...[under, over].map((e) => (e?.picture ? e.picture.scale * e.scale : 0))) * this.scale
  }

  look(pose: Record<string, number>): JointView {
    const frame = poseRig(this.rig, pose)
    const { size, region, scale, painter } = this
    const draw = (only: ReadonlySet<number>): PixelData => renderPixels(this.CK, frame, { region, scale, only, painter }).data
    return {
      ...{ size, x: size / 2, y: size / 2, radius: this.joint.radius * scale, line: this.line, grain: this.grain },
      both: draw(new Set([...this.under, ...this.over])),
      alone: this.line > 0 ? { under: draw(this.under), over: draw(this.over) } : null,
      above: this.above.size > 0 ? draw(this.above) : null,
    }
  }

  dispose(): void {
    this.painter.dispose()
  }
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
  private readonly widths = new Map<Picture, number>()
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
        const [drawing, picture] = [source.drawings[art], source.pictures[art]]
        if (drawing) drawings[copy] = signalDrawing(drawing, copy, colour)
        else if (picture) pictures[copy] = this.signalPicture(picture, copy, colour)
      }
    this.puppet = { ...source, parts, drawings, pictures }
    this.assets = (hash) => this.made.get(hash) ?? this.original?.(hash)
  }

  /** Width of a picture's outline, pixels of it. */
  lineOf(picture: Picture): number {
    const known = this.widths.get(picture)
    if (known !== undefined) return known
    const bytes = this.original?.(picture.asset)
    const width = bytes ? lineWidthOf(decodePng(bytes, 'The picture'), this.threshold) : 0
    this.widths.set(picture, width)
    return width
  }

  private signalPicture(picture: Picture, id: string, colour: string): Picture {
    const bytes = this.original?.(picture.asset)
    if (!bytes) return picture
    const asset = `${id}/${picture.asset}`
    const { width, height, data } = decodePng(bytes, 'The picture')
    const out = new Uint8Array(data.length)
    const hasLines = this.lineOf(picture) > 0
    for (let i = 0; i < data.length / 4; i++) {
      const tone = hasLines && lightness(data, i) < this.threshold ? colour : INK_SIGNAL
      for (let c = 0; c < 3; c++) out[4 * i + c] = parseInt(tone.slice(1 + 2 * c, 3 + 2 * c), 16)
      out[4 * i + 3] = data[4 * i + 3]!
    }
    this.made.set(asset, encodePng({ width, height, data: out }))
    return { ...picture, id, asset }
  }
}

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
