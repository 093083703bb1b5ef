/** Finds pieces of artwork that hardly belong to their part: a slice of the other boot, a scrap that a lasso left behind. */
import type { CanvasKit } from 'canvaskit-wasm'
import { areaOfPixels, smallIslands } from '@marionette/core/artwork/islands'
import type { PartId, ViewId } from '@marionette/core/kernel/ids'
import { sure } from '@marionette/core/kernel/sure'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { meet, type Bounds } from '@marionette/core/maths/geometry/bounds'
import type { Blob } from '@marionette/core/maths/geometry/components'
import { mapPath } from '@marionette/core/maths/geometry/path'
import { drawnParts } from '@marionette/core/parts/tree'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import type { Frame } from '@marionette/core/puppet/frame'
import { frameBounds } from '@marionette/core/puppet/probe'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { areaInPart } from '@marionette/core/touch/posedArea'
import { inView } from '@marionette/core/views/views'
import { renderPixels } from '@marionette/render/pixels'
import type { AssetSource } from '@marionette/render/textures'

/** A piece that hardly belongs to its part. */
export interface StrayPiece {
  readonly part: PartId
  readonly name: string
  readonly view: ViewId
  /** The larger side of its box, canvas px. */
  readonly across: number
  /** The part whose artwork it repeats; null for one that only lies apart. */
  readonly of: string | null
  /** In the part's own space. */
  readonly area: Area
}

export interface StrayOptions {
  /** Parts that are looked at; all by default. */
  readonly parts?: readonly PartId[]
  /** Views that are looked at; all by default. */
  readonly views?: readonly ViewId[]
  readonly assets?: AssetSource | undefined
  readonly progress?: (done: number) => void
}

/** Longest side of a canvas as it is looked at, px. */
const LOOKED_AT = 640
/** Pixels fainter than this are edges. */
const SEEN = 96
/** How far colours may differ and still be the same artwork, of 255. */
const SAME_COLOUR = 28
/** Share of a piece that another part must show as well for it to be a repetition. */
const REPEATED = 0.6
/** A piece that lies farther away than this share of the part's larger side, and than so many canvas px, lies apart. */
const APART = { share: 0.12, px: 8 }

/** A part as it looks at rest, by itself. */
interface Look {
  readonly part: Part
  readonly width: number
  readonly height: number
  readonly data: ArrayLike<number>
  /** Of its upper left corner, px of the look. */
  readonly left: number
  readonly top: number
}

/** Stray pieces of a puppet. Of the other parts only those are drawn that lie over the ones that are looked at. */
export function findStrays(CK: CanvasKit, puppet: Puppet, options: StrayOptions = {}): StrayPiece[] {
  const { parts, assets, progress, views = puppet.views.map((v) => v.id) } = options
  const isWanted = (part: Part): boolean => !parts || parts.includes(part.id)
  return views.flatMap((view, k) => {
    const seen = unmasked(inView(puppet, view))
    const frame = poseRig(compile(seen), {})
    const scale = Math.min(1, LOOKED_AT / Math.max(seen.canvas.width, seen.canvas.height))
    const placed = drawnParts(seen, seen.root).flatMap((part) => {
      const box = part.visible && part.sheet === null ? frameBounds(frame, new Set([part.id])) : null
      return box ? [{ part, box }] : []
    })
    const wanted = placed.filter(({ part }) => isWanted(part))
    const near = placed.filter(({ part, box }) => isWanted(part) || wanted.some((w) => meet(w.box, box)))
    const looks = near.map(({ part, box }, i) => {
      progress?.((k + i / near.length) / views.length)
      return lookAt(CK, frame, part, box, scale, assets)
    })
    return looks.filter(({ part }) => isWanted(part)).flatMap((look) => straysOf(look, looks, frame, scale, view))
  })
}

/** What a mask hides is there all the same. */
const unmasked = (puppet: Puppet): Puppet => ({
  ...puppet,
  parts: Object.fromEntries(Object.entries(puppet.parts).map(([id, p]) => [id, { ...p, masks: [] }])),
})

function lookAt(CK: CanvasKit, frame: Frame, part: Part, box: Bounds, scale: number, assets: AssetSource | undefined): Look {
  const [left, top] = [Math.floor(box.minX * scale) - 1, Math.floor(box.minY * scale) - 1]
  const [right, bottom] = [Math.ceil(box.maxX * scale) + 1, Math.ceil(box.maxY * scale) + 1]
  const region: Bounds = { minX: left / scale, minY: top / scale, maxX: right / scale, maxY: bottom / scale }
  const only = new Set([sure(frame.rig.parts.index.get(part.id))])
  const { width, height, data } = renderPixels(CK, frame, { region, scale, only, ...(assets ? { assets } : {}) })
  return { part, width, height, data, left, top }
}

function straysOf(look: Look, looks: readonly Look[], frame: Frame, scale: number, view: ViewId): StrayPiece[] {
  const { part, width, height, data } = look
  const shown = new Uint8Array(width * height)
  for (let i = 0; i < shown.length; i++) shown[i] = data[4 * i + 3]! >= SEEN ? 1 : 0
  const apart = Math.max(APART.px * scale, APART.share * Math.max(width, height))
  return smallIslands(shown, width, height).flatMap(({ island, gap }): StrayPiece[] => {
    const repeated = looks.find((other) => other !== look && shareIn(other, look, island) >= REPEATED)
    if (!repeated && gap < apart) return []
    const area = inPart(look, island, frame, scale)
    if (!area) return []
    const across = Math.max(island.maxX - island.minX, island.maxY - island.minY) + 1
    return [{ part: part.id, name: part.name, view, across: Math.round(across / scale), of: repeated?.part.name ?? null, area }]
  })
}

/** Share of an island that another part shows in the same place and colours. */
function shareIn(other: Look, look: Look, island: Blob): number {
  let same = 0
  for (const i of island.pixels) {
    const x = look.left + (i % look.width) - other.left
    const y = look.top + Math.floor(i / look.width) - other.top
    if (x < 0 || y < 0 || x >= other.width || y >= other.height) continue
    const [a, b] = [4 * i, 4 * (y * other.width + x)]
    if (other.data[b + 3]! < SEEN) continue
    if ([0, 1, 2].every((c) => Math.abs(look.data[a + c]! - other.data[b + c]!) <= SAME_COLOUR)) same++
  }
  return same / island.pixels.length
}

/** An island as an area of its part's own space. */
function inPart(look: Look, island: Blob, frame: Frame, scale: number): Area | null {
  const cells = new Uint8Array(look.width * look.height)
  for (const i of island.pixels) cells[i] = 1
  const area = areaOfPixels(cells, look.width, look.height)
  const onCanvas = { ...area, paths: area.paths.map((p) => mapPath(p, [1 / scale, 0, 0, 1 / scale, look.left / scale, look.top / scale])) }
  return areaInPart(frame, look.part.id, onCanvas)
}
