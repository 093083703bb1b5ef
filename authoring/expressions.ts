/** Running a face through its moods and sounds: pictures from Skia, findings from core/reports/expressions. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { PartId } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { drawnParts } from '@marionette/core/parts/tree'
import { intersect, isEmpty, type Bounds } from '@marionette/core/maths/geometry/bounds'
import { faceFindings, togetherAtRest, type FaceFinding, type FaceLook } from '@marionette/core/reports/expressions'
import { mouthLooker } from '@marionette/core/reports/mouthFaults'
import { movedRegion } from '@marionette/core/reports/movers'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, poseRig, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { frameBounds, hasMoved } from '@marionette/core/puppet/probe'
import { Painter } from '@marionette/render/painter'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Frame } from '@marionette/core/puppet/frame'
import { nth, sure } from '@marionette/core/kernel/sure'

export interface Expression {
  readonly id: string
  readonly values: Readonly<Record<string, number>>
  /** Whether it is meant to look like rest. */
  readonly isStill: boolean
  /** Whether the lips have to meet. */
  readonly isClosed?: boolean
}

export interface CheckedExpression {
  readonly id: string
  readonly findings: readonly FaceFinding[]
}

interface CheckOptions {
  readonly assets?: AssetSource | undefined
  readonly progress?: (done: number) => void
}

/** Longest side of the pictures, px, and room around what moves, as a share of its size. */
const SIDE = 200
const ROOM = 0.2

/** Puts a face into each expression and says what is wrong with it. What moves in none of them tells nothing, and is not looked at. */
export function checkExpressions(
  CK: CanvasKit,
  puppet: Puppet,
  expressions: readonly Expression[],
  { assets, progress }: CheckOptions = {},
): CheckedExpression[] {
  const masked = new Poser(puppet)
  const region = movedRegion(
    masked.rig,
    expressions.map((e) => e.values),
    ROOM,
  )
  if (!region) return expressions.map(({ id, isStill }) => ({ id, findings: isStill ? [] : [{ kind: 'nothing' }] }))
  const free = new Poser({ ...puppet, parts: Object.fromEntries(Object.entries(puppet.parts).map(([id, p]) => [id, { ...p, masks: [] }])) })
  const painter = new Painter(CK, assets)
  const looker = new FaceLooker(CK, puppet, region, painter, masked, free)
  try {
    const rest = looker.look({})
    const belong = togetherAtRest(puppet, rest)
    const faultsOf = mouthLooker(puppet, poseRig(masked.rig, {}))
    return expressions.map(({ id, values, isStill, isClosed = false }, k) => {
      const seen = faceFindings(rest, looker.look(values), belong, isStill)
      const findings = [...seen, ...(faultsOf?.(masked.at(values), isClosed) ?? [])]
      progress?.((k + 1) / expressions.length)
      return { id, findings }
    })
  } finally {
    painter.dispose()
  }
}

/** A puppet that is brought into poses. */
class Poser {
  readonly rig: Rig
  readonly frame: Frame
  private readonly pose: Float64Array

  constructor(readonly puppet: Puppet) {
    this.rig = compile(puppet)
    this.frame = makeFrame(this.rig)
    this.pose = new Float64Array(this.rig.restPose.length)
  }

  at(values: Readonly<Record<string, number>>): Frame {
    evaluate(this.rig, writePose(this.rig, values, this.pose), this.frame)
    return this.frame
  }
}

interface LookedAt {
  readonly id: PartId
  readonly index: ReadonlySet<number>
  readonly drawing: number
  readonly isMasked: boolean
}

class FaceLooker {
  private readonly parts: readonly LookedAt[]
  private readonly restFrame: Frame
  private rest: FaceLook | null = null
  private readonly scale: number

  constructor(
    private readonly CK: CanvasKit,
    puppet: Puppet,
    private readonly region: Bounds,
    private readonly painter: Painter,
    private readonly masked: Poser,
    private readonly free: Poser,
  ) {
    this.scale = SIDE / Math.max(region.maxX - region.minX, region.maxY - region.minY)
    const frame = masked.at({})
    this.parts = drawnParts(puppet, puppet.root).flatMap((part) => {
      const box = frameBounds(frame, new Set([part.id]))
      if (!part.visible || !box) return []
      intersect(box, region)
      if (isEmpty(box)) return []
      const index = sure(masked.rig.parts.index.get(part.id))
      const drawing = masked.rig.drawings.findIndex((d) => d.part === index)
      return [{ id: part.id, index: new Set([index]), drawing, isMasked: part.masks.length > 0 }]
    })
    this.restFrame = poseRig(masked.rig, {})
  }

  look(values: Readonly<Record<string, number>>): FaceLook {
    const [masked, free] = [this.masked.at(values), this.free.at(values)]
    const whole = this.draw(masked)
    // What stays where it is at rest is not drawn again.
    const isStill = ({ drawing }: LookedAt): boolean => !hasMoved(this.restFrame, masked, drawing)
    const own = new Map(
      this.parts.map((p) => [p.id, this.rest && isStill(p) ? sure(this.rest.own.get(p.id)) : silhouette(this.draw(free, p.index))]),
    )
    const seen = new Map(
      this.parts.map(({ id, index, isMasked }) => [id, isMasked ? silhouette(this.draw(masked, index)) : sure(own.get(id))]),
    )
    const look = { whole, own, seen }
    this.rest ??= look
    return look
  }

  private draw(frame: Frame, only?: ReadonlySet<number>): Uint8Array {
    const { data } = renderPixels(this.CK, frame, { region: this.region, scale: this.scale, only, painter: this.painter })
    return data as Uint8Array
  }
}

/** Where something is drawn. */
function silhouette(data: Uint8Array): Uint8Array {
  const out = new Uint8Array(data.length / 4)
  for (let k = 0; k < out.length; k++) out[k] = nth(data, 4 * k + 3) > 127 ? 1 : 0
  return out
}
