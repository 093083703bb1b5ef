/** Alternates between two of a swap: drawings by morphing, pictures by warping. */
import type { CanvasKit } from 'canvaskit-wasm'
import type { PartId } from '@marionette/core/kernel/ids'
import type { Drawing, Flipbook, Part, Picture, Puppet } from '@marionette/core/puppet/schema'
import { drawnParts, restMatrix } from '@marionette/core/parts/tree'
import { setFlipbook } from '@marionette/core/alternates/commands'
import { invert, multiply, placementOf } from '@marionette/core/maths/geometry/affine'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { paintBounds } from '@marionette/core/puppet/probe'
import { morphedDrawing, MOST_BETWEEN } from '@marionette/core/alternates/inBetween'
import { morphWay, type Pair } from '@marionette/core/alternates/swaps'
import { storedPicture } from '@marionette/formats/storedPicture'
import { Painter } from '@marionette/render/painter'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import { newPart } from '@marionette/core/parts/new'
import { partChannel } from '@marionette/core/parts/channels'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Frame } from '@marionette/core/puppet/frame'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

export interface InBetweens {
  readonly edits: readonly Edit[]
  /** Bytes of new pictures by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

export interface InBetweenPlan {
  readonly swap: PartId
  /** Numbers of the alternates. */
  readonly from: number
  readonly to: number
  readonly count: number
}

/**
 * Makes alternates between two, evenly spaced, and a flipbook that shows them in turn. Throws EditError where there is nothing to make.
 *
 * @param prefix what new ids begin with
 */
export function inBetweens(CK: CanvasKit, puppet: Puppet, plan: InBetweenPlan, prefix: string, assets: AssetSource): InBetweens {
  const { swap, from, to, count } = plan
  const part = puppet.parts[swap]
  if (count > MOST_BETWEEN) throw new EditError(`At most ${MOST_BETWEEN} in-betweens are made at once.`)
  if (!part?.swap) throw new EditError('In-betweens are made in a swap.')
  if (from === to || count < 1) throw new EditError('Choose two different alternates to make something between them.')
  const even = { ...part.swap, morph: { ...part.swap.morph, how: 'morph' as const, eases: false } }
  const rig = compile({ ...puppet, parts: { ...puppet.parts, [swap]: { ...part, swap: even } } })
  const painter = new Painter(CK, assets)
  const making: Making = { CK, rig, painter, plan, made: new Map() }
  try {
    const all = Array.from({ length: count }, (_, k) => {
      const channel = (field: 'alternate' | 'before' | 'way'): string => partChannel(swap, field)
      const frame = poseRig(rig, { [channel('alternate')]: to, [channel('before')]: from, [channel('way')]: (k + 1) / (count + 1) })
      return new Alternate(making, frame, `${prefix}-${k + 1}`, `${nameOf(puppet, plan)} ${k + 1}`, highestOf(puppet, swap) + k + 1)
    })
    if (all.some((a) => a.parts.length < 2)) throw new EditError('Neither of these alternates shows anything that could lie between them.')
    return { edits: [...all.map((a) => a.edit()), edit(setFlipbook, { flipbook: bookOf(puppet, plan, prefix) })], assets: making.made }
  } finally {
    painter.dispose()
  }
}

const alternateOf = ({ parts }: Puppet, swap: PartId, number: number): Part | undefined =>
  recordOf(parts, swap)
    .children.map((id) => recordOf(parts, id))
    .find((p) => p.alternate === number)

const nameOf = (puppet: Puppet, { swap, from, to }: InBetweenPlan): string =>
  [from, to].map((n) => alternateOf(puppet, swap, n)?.name.slice(0, 30) ?? 'none').join(' to ')

const highestOf = ({ parts }: Puppet, swap: PartId): number =>
  Math.max(...recordOf(parts, swap).children.map((id) => recordOf(parts, id).alternate))

function bookOf(puppet: Puppet, plan: InBetweenPlan, prefix: string): Flipbook {
  const { swap, from, to, count } = plan
  const between = Array.from({ length: count }, (_, k) => highestOf(puppet, swap) + k + 1)
  return {
    ...{ id: `${prefix}-book`, name: nameOf(puppet, plan), channel: partChannel(swap, 'alternate') },
    ...{ pictures: [from, ...between, to], hold: 1 / 24, way: 'forward', ends: 'once', timer: null },
  }
}

/** What all alternates are made with. */
interface Making {
  readonly CK: CanvasKit
  readonly rig: Rig
  readonly painter: Painter
  readonly plan: InBetweenPlan
  /** Bytes of new pictures, by their hash. */
  readonly made: Map<string, Uint8Array>
}

/** One alternate being made. */
class Alternate {
  readonly parts: Part[] = []
  private readonly drawings: Drawing[] = []
  private readonly pictures: Picture[] = []
  private readonly puppet: Puppet
  private readonly rig: Rig
  /** New parts by the old ones that they stand for. */
  private readonly standIns = new Map<PartId, PartId>()

  constructor(
    private readonly making: Making,
    private readonly frame: Frame,
    private readonly id: string,
    name: string,
    number: number,
  ) {
    const { rig, plan } = making
    this.rig = rig
    this.puppet = rig.puppet
    this.parts.push({ ...newPart(id, name), parent: plan.swap, alternate: number })
    const { pairs, fresh } = morphWay(rig, plan.swap, plan.from, plan.to)
    for (const pair of pairs) this.take(pair)
    for (const d of fresh) this.copy(d)
    this.orderLikeTarget()
  }

  edit(): Edit {
    const masked = this.parts.map((p) => ({ ...p, masks: p.masks.map((m) => ({ ...m, shape: this.standIns.get(m.shape) ?? m.shape })) }))
    return edit(addArtwork, { parent: this.making.plan.swap, parts: masked, drawings: this.drawings, pictures: this.pictures })
  }

  private take({ a, b }: Pair): void {
    const { morphs } = this.frame
    if (b && morphs.drawn[b.drawing]) this.drawn(b.drawing)
    else if (b && morphs.warped[b.drawing]) this.painted(a.drawing, b.drawing)
    else {
      this.copy(a.drawing)
      if (b) this.copy(b.drawing)
    }
  }

  private partOf(d: number): Part {
    return partOf(this.puppet, nth(this.rig.parts.ids, nth(this.rig.drawings, d).part))
  }

  private add(d: number, kind: 'drawing' | 'picture', art: string, more: Partial<Part> = {}): void {
    const old = this.partOf(d)
    const id = `${this.id}-p${this.parts.length}`
    this.standIns.set(old.id, id)
    this.parts.push({
      ...newPart(id, old.name, { kind }),
      ...{ parent: this.id, art: { [this.puppet.view]: art }, masks: old.masks, blend: old.blend, opacity: old.opacity, ...more },
    })
  }

  private drawn(d: number): void {
    const drawing = morphedDrawing(this.frame, d, restMatrix(this.puppet, this.making.plan.swap), `${this.id}-d${this.parts.length}`)
    this.drawings.push(drawing)
    this.add(d, 'drawing', drawing.id)
  }

  /** Both pictures, warped to each other, as one. */
  private painted(a: number, b: number): void {
    const space = restMatrix(this.puppet, this.making.plan.swap)
    const scale = sure(nth(this.rig.drawings, b).picture).scale * Math.sqrt(Math.abs(space[0] * space[3] - space[1] * space[2]))
    const box = paintBounds(this.frame, b, paintBounds(this.frame, a))
    const region = {
      minX: Math.floor(box.minX) - 2,
      minY: Math.floor(box.minY) - 2,
      maxX: Math.ceil(box.maxX) + 2,
      maxY: Math.ceil(box.maxY) + 2,
    }
    const only = new Set([a, b].map((d) => nth(this.rig.drawings, d).part))
    const pixels = renderPixels(this.making.CK, this.frame, { region, scale: 1 / scale, only, painter: this.making.painter })
    const stored = storedPicture(`${this.id}-d${this.parts.length}`, pixels, { x: region.minX, y: region.minY, scale })
    if (!stored) return
    this.making.made.set(stored.picture.asset, stored.png)
    this.pictures.push(stored.picture)
    // It was drawn on the canvas: its place undoes where the swap lies.
    const pivot = { x: 0, y: 0 }
    this.add(b, 'picture', stored.picture.id, { masks: [], opacity: 1, pivot, home: placementOf(sure(invert(space)), pivot) })
  }

  /** What morphs into nothing, or comes from nothing, as faded as it is. */
  private copy(d: number): void {
    const old = this.partOf(d)
    const opacity = nth(this.frame.opacity, nth(this.rig.drawings, d).part)
    const art = old.art[this.puppet.view]
    if (opacity < 0.02 || art === undefined || old.content.kind === 'group') return
    const inSwap = multiply(sure(invert(restMatrix(this.puppet, this.making.plan.swap))), restMatrix(this.puppet, old.id))
    this.add(d, old.content.kind, art, { opacity, pivot: old.pivot, home: placementOf(inSwap, old.pivot) })
  }

  /** Bottom to top as in the alternate that is come to. */
  private orderLikeTarget(): void {
    const target = alternateOf(this.puppet, this.making.plan.swap, this.making.plan.to)
    if (!target) return
    const order = new Map(drawnParts(this.puppet, target.id).map((p, k) => [this.standIns.get(p.id), k]))
    this.parts.sort((p, q) => (p.id === this.id ? -1 : q.id === this.id ? 1 : (order.get(p.id) ?? -1) - (order.get(q.id) ?? -1)))
  }
}
