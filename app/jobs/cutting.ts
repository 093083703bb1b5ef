/** Cutting, capping and filling, inside of a worker: the edits that they come to, and the pictures that they made. */
import { cutStretch, stretchAt, stretchPath, type OutlineStretch } from '@marionette/core/artwork/outlineStretch'
import { areaInPart } from '@marionette/core/touch/posedArea'
import { FoldedError, posePath } from '@marionette/core/touch/posedPaths'
import { floodSelect, type ColourAreaOptions } from '@marionette/core/artwork/floodSelect'
import type { Affine, Part, Picture, Puppet, Vec } from '@marionette/core/puppet/schema'
import { drawnParts, restBounds, restMatrix } from '@marionette/core/parts/tree'
import { moveParts } from '@marionette/core/parts/arrange'
import { placeIn, sendPiece, type ArtPiece } from '@marionette/core/cutting/commands'
import { changeArt } from '@marionette/core/joints/commands'
import { deletePart, groupParts, setPivot } from '@marionette/core/parts/commands'
import { cutPivot, type Cut } from '@marionette/core/joints/attachment'
import { applyEdits } from '@marionette/core/puppet/edit'
import { middleOf } from '@marionette/core/maths/geometry/bounds'
import { apply, invert } from '@marionette/core/maths/geometry/affine'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import { flatten, mapPath } from '@marionette/core/maths/geometry/path'
import { compile } from '@marionette/core/puppet/compile'
import { posePuppet, poseRig } from '@marionette/core/puppet/evaluate'
import { posedMap } from '@marionette/core/puppet/posedMap'
import { cappedArt, type CapOptions } from '@marionette/formats/cutting/caps'
import { cutArt } from '@marionette/formats/cutting/cut'
import { joinedPicture } from '@marionette/formats/cutting/join'
import { filledArt, splitArt } from '@marionette/formats/cutting/layers'
import { renderPixels } from '@marionette/render/pixels'
import { pictureJoint, sweepJoint, worstFirst, type Sweep } from '@marionette/authoring/sweep'
import { loadSkia } from '../skia/loadSkia'
import { writtenEdits, type WrittenEdit } from './edits'
import { shownPixels } from './shownPixels'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import type { Joint } from '@marionette/core/joints/records'
import type { Frame } from '@marionette/core/puppet/frame'
import { drawingBy, pictureBy } from '@marionette/core/artwork/art'
import { nth, recordOf } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'

type Assets = ReadonlyMap<string, Uint8Array>

/** Edits with the pictures that they need. */
export interface Worked {
  readonly edits: readonly WrittenEdit[]
  readonly assets: Assets
}

export interface CutWork {
  readonly puppet: Puppet
  /** A part, or a group with all in it. */
  readonly source: string
  /** An area of the canvas as it is shown, or a stretch of the source's outline. */
  readonly what: { readonly kind: 'area'; readonly area: Area } | { readonly kind: 'stretch'; readonly stretch: OutlineStretch }
  /** Whether the source stays whole. */
  readonly keep: boolean
  readonly name: string
  readonly role: string | null
  /** A part that exists, or null for a new one. */
  readonly to: string | null
  /** Id of the new part, and how ids of further ones begin. */
  readonly id: string
}

/** Cuts something out of a part and sends it on. Throws EditError where nothing of the part is there. */
export const cutParts = (work: CutWork, assets: Assets): Worked =>
  work.what.kind === 'stretch' ? cutOutline(work, work.what.stretch) : cutArea(work, work.what.area, assets)

function cutArea(work: CutWork, area: Area, assets: Assets): Worked {
  const { puppet, source, keep, to, id } = work
  const view = puppet.view
  const frame = poseRig(compile(puppet), puppet.pose)
  const parts = drawnParts(puppet, source).filter((p) => p.visible && p.art[view] !== undefined)
  const made = new Map<string, Uint8Array>()
  const cuts = parts.flatMap((part, i) => {
    const inside = inPart(frame, part, area)
    if (!inside) return []
    const cut = cutArt(puppet, recordOf(part.art, view), inside, `${id}-art-${i + 1}`, (hash) => assets.get(hash), keep)
    if (!cut.piece) return []
    for (const [hash, png] of cut.assets) made.set(hash, png)
    return [{ part, area: inside, piece: cut.piece, rest: keep ? null : cut.rest, isAll: !keep && !cut.rest }]
  })
  if (cuts.length === 0) throw new EditError(`Nothing of "${partOf(puppet, source).name}" lies in the selection.`)
  const isOne = cuts.length === 1
  const idOf = (i: number): string => (isOne ? id : `${id}-${i + 1}`)
  const edits: Edit[] = []
  const joins = new Joins(assets, made)
  cuts.forEach(({ part, piece, rest, isAll }, i) => {
    const target = isOne
      ? { kind: 'new' as const, id, name: work.name, role: work.role }
      : { kind: 'new' as const, id: idOf(i), name: part.name, role: null }
    const taking = to === null ? target : { kind: 'part' as const, part: to, ...joinedTo(puppet, to, part, piece, joins) }
    edits.push(edit(sendPiece, { source: part.id, view, piece, rest, to: taking }))
    if (isAll) edits.push(edit(deletePart, { part: part.id }))
  })
  if (to === null)
    edits.push(
      ...pivots(
        puppet,
        edits,
        cuts.map(({ part, area: taken }, i) => ({ source: part.id, area: taken, piece: idOf(i) })),
      ),
    )
  if (!isOne && to === null)
    edits.push(
      ...gathered(
        puppet,
        cuts.map((c, i) => ({ part: c.part, id: idOf(i) })),
        work,
      ),
    )
  return { edits: writtenEdits(edits), assets: made }
}

/** Pictures that have taken pieces: the next piece comes to what the last one made. */
class Joins {
  private readonly latest = new Map<string, Picture>()

  constructor(
    private readonly assets: Assets,
    private readonly made: Map<string, Uint8Array>,
  ) {}

  /** The picture of a part with a piece in it. */
  take(target: Picture, piece: Picture, place: Affine): Picture | null {
    const bytes = (hash: string): Uint8Array | undefined => this.made.get(hash) ?? this.assets.get(hash)
    const joined = joinedPicture(this.latest.get(target.id) ?? target, piece, place, bytes)
    if (!joined) return null
    this.made.set(joined.picture.asset, joined.png)
    this.latest.set(target.id, joined.picture)
    return joined.picture
  }
}

/** For a part that shows a picture already, that picture with the piece in it. */
function joinedTo(puppet: Puppet, to: string, from: Part, piece: ArtPiece, joins: Joins): { joined?: Picture } {
  const target = pictureBy(puppet, partOf(puppet, to).art[puppet.view] ?? '')
  if (!target || !('picture' in piece)) return {}
  const joined = joins.take(target, piece.picture, placeIn(puppet, from, to))
  return joined ? { joined } : {}
}

/** New pieces turn where they were cut off. */
function pivots(puppet: Puppet, edits: readonly Edit[], cuts: readonly Cut[]): Edit[] {
  const after = applyEdits(puppet, edits).puppet
  const made = new Set(cuts.map((c) => c.piece))
  return cuts.flatMap((cut) => {
    const spot = cutPivot(puppet, after, cut, made)
    const back = spot && invert(restMatrix(after, cut.piece))
    return spot && back ? [edit(setPivot, { part: cut.piece, pivot: apply(back, spot) })] : []
  })
}

/** Cuts a stretch of an outline. */
function cutOutline({ puppet, source, keep, name, role, to, id }: CutWork, stretch: OutlineStretch): Worked {
  const view = puppet.view
  const drawing = drawingBy(puppet, partOf(puppet, source).art[view] ?? '')
  if (!drawing) throw new EditError(`"${partOf(puppet, source).name}" is no drawing; a picture has no outlines to take.`)
  const { inside, outside } = cutStretch(drawing, stretch)
  const piece = { drawing: { id: `${id}-art`, shapes: [...inside] } }
  const rest = keep || outside.length === 0 ? null : { drawing: { ...drawing, shapes: [...outside] } }
  const target = to === null ? { kind: 'new' as const, id, name, role } : { kind: 'part' as const, part: to }
  const sent = edit(sendPiece, { source, view, piece, rest, to: target })
  return { edits: writtenEdits([sent, ...(to === null ? middlePivot(puppet, sent, id) : [])]), assets: new Map() }
}

/** A line by itself turns about its middle. */
function middlePivot(puppet: Puppet, sent: Edit, part: string): Edit[] {
  const after = applyEdits(puppet, [sent]).puppet
  const box = restBounds(after, part)
  const back = invert(restMatrix(after, part))
  return box && back ? [edit(setPivot, { part, pivot: apply(back, middleOf(box)) })] : []
}

/** The stretch of an outline under a spot of the shown canvas, in a part or in what is in it. */
export function outlineAt(puppet: Puppet, source: string, spot: Vec, reach: number): FoundStretch | null {
  const view = puppet.view
  const frame = poseRig(compile(puppet), puppet.pose)
  for (const part of drawnParts(puppet, source)
    .filter((p) => p.visible)
    .reverse()) {
    const drawing = drawingBy(puppet, part.art[view] ?? '')
    if (!drawing) continue
    const map = posedMap(frame, part.id)
    const at = map.toPart(spot)
    if (!at) continue
    const [a, b, c, d] = map.derivative(at)
    const stretch = stretchAt(drawing, at.x, at.y, reach / Math.sqrt(Math.abs(a * d - b * c)))
    if (stretch) return { part: part.id, stretch, points: flatten(posePath(stretchPath(drawing, stretch), map), 0.25) }
  }
  return null
}

export interface FoundStretch {
  readonly part: string
  readonly stretch: OutlineStretch
  readonly points: readonly number[]
}

/** Pieces of several parts come into one group above the topmost of them. */
function gathered(puppet: Puppet, pieces: readonly { part: Part; id: string }[], { id, name }: CutWork): Edit[] {
  const ids = pieces.map((p) => p.id)
  const parent = nth(pieces, -1).part.parent ?? puppet.root
  const index = partOf(puppet, parent).children.length + ids.length
  return [edit(moveParts, { parts: ids, parent, index }), edit(groupParts, { parts: ids, id, name })]
}

/** An area of the shown canvas in a part's own space; null where nothing of the part is near it. */
function inPart(frame: Frame, part: Part, area: Area): Area | null {
  try {
    return areaInPart(frame, part.id, area)
  } catch (error) {
    if (!(error instanceof FoldedError)) throw error
    throw new EditError(`"${part.name}" is folded or flattened here; bring it nearer to rest to cut it.`, { cause: error })
  }
}

/** Round ends at a joint. Throws EditError where nothing ends there. */
export function capJoint(
  puppet: Puppet,
  joint: Joint,
  assets: Assets,
  options: Omit<CapOptions, 'progress'>,
  progress: (done: number) => void,
): Worked {
  const made = cappedArt(puppet, joint, (hash) => assets.get(hash), { ...options, progress })
  if (made.drawings.length + made.pictures.length === 0) throw new EditError('Nothing that is to be rounded reaches into the circle.')
  return {
    edits: writtenEdits([edit(changeArt, { drawings: [...made.drawings], pictures: [...made.pictures] })]),
    assets: made.assets,
  }
}

/** Colour and line of a part as two parts, the line on top. Throws EditError where there is only one of them. */
export function splitPart(puppet: Puppet, part: string, id: string, threshold: number, assets: Assets): Worked {
  const { name, art } = partOf(puppet, part)
  const view = puppet.view
  const split = splitArt(puppet, art[view] ?? '', `${id}-art`, threshold, (hash) => assets.get(hash))
  if (!split.piece || !split.rest) throw new EditError(`"${name}" has no lines beside its colour.`)
  const to = { kind: 'new' as const, id, name: `${name} line`, role: null }
  return { edits: writtenEdits([edit(sendPiece, { source: part, view, piece: split.piece, rest: split.rest, to })]), assets: split.assets }
}

/** Fills what is missing of a part inside an area. Throws EditError where nothing of it meets the area. */
export function fillPart(puppet: Puppet, part: string, area: Area, assets: Assets, progress: (done: number) => void): Worked {
  const known = partOf(puppet, part)
  const frame = poseRig(compile(puppet), puppet.pose)
  const art = known.art[puppet.view] ?? ''
  const inside = inPart(frame, known, area)
  const filled = inside && filledArt(puppet, art, inside, (hash) => assets.get(hash), progress)
  if (!filled) throw new EditError(`Nothing of "${known.name}" meets the selection.`)
  const [drawings, pictures] = [filled.drawing ? [filled.drawing] : [], filled.picture ? [filled.picture] : []]
  return { edits: writtenEdits([edit(changeArt, { drawings, pictures })]), assets: filled.assets }
}

/** The area of one colour about a spot of the shown canvas, in what a part shows there. */
export async function colourAreaOf(
  puppet: Puppet,
  part: string,
  spot: Vec,
  options: ColourAreaOptions,
  assets: Assets,
): Promise<Area | null> {
  const shown = shownPixels(await loadSkia(), puppet, part, assets, 2)
  if (!shown) return null
  const { pixels, scale, toPixels, toCanvas } = shown
  const { x, y } = apply(toPixels, spot)
  const area = floodSelect(pixels, x, y, { ...options, gap: options.gap * scale })
  return area && { ...area, paths: area.paths.map((p) => mapPath(p, toCanvas)) }
}

/** The colour that is seen at a spot of the shown canvas; null where nothing is. */
export async function colourAt(puppet: Puppet, spot: Vec, assets: Assets): Promise<string | null> {
  const frame = posePuppet(puppet)
  const [x, y] = [Math.floor(spot.x), Math.floor(spot.y)]
  const region = { minX: x, minY: y, maxX: x + 1, maxY: y + 1 }
  const { data } = renderPixels(await loadSkia(), frame, { region, scale: 1, assets: (hash) => assets.get(hash) })
  if (nth(data, 3) < 8) return null
  return `#${[0, 1, 2].map((k) => nth(data, k).toString(16).padStart(2, '0')).join('')}`
}

export interface SweptJoint {
  readonly sweep: Sweep
  /** PNG of the worst angles, the worst first. */
  readonly pictures: readonly { readonly angle: number; readonly png: Uint8Array }[]
}

const PICTURES = 8
const PICTURE_SIZE = 176

/** Turns a joint through its limits and looks at it. */
export async function sweep(puppet: Puppet, joint: Joint, assets: Assets, progress: (done: number) => void): Promise<SweptJoint> {
  const CK = await loadSkia()
  const source = (hash: string): Uint8Array | undefined => assets.get(hash)
  const swept = sweepJoint(CK, puppet, joint, { assets: source, progress })
  const angles = spread(worstFirst(swept).map((a) => a.angle))
  const pngs = pictureJoint(CK, puppet, joint, angles, PICTURE_SIZE, source)
  return { sweep: swept, pictures: angles.map((angle, i) => ({ angle, png: nth(pngs, i) })) }
}

/** The first of a list that are not too near to each other: pictures of one fault beside each other tell little. */
function spread(angles: readonly number[]): number[] {
  const out: number[] = []
  const apart = (Math.max(...angles) - Math.min(...angles)) / (1.5 * PICTURES)
  for (const angle of angles) if (out.length < PICTURES && out.every((known) => Math.abs(known - angle) >= apart)) out.push(angle)
  return out
}
