/** Questions about the trees of a puppet: parts and bones. Nothing here changes a document. */
import { apply, IDENTITY, multiply, placementMatrix } from '../maths/geometry/affine'
import { emptyBounds, isEmpty, pathBounds, unite, type Bounds } from '../maths/geometry/bounds'
import { mapPath } from '../maths/geometry/path'
import type { AssetHash, DrawingId, PartId, PictureId } from '../kernel/ids'
import { outlineOf, pictureBounds, pictureOf } from './pictures'
import type { Affine, Vec } from '../kernel/numbers'
import type { Drawing } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { drawingBy, pictureBy } from '../artwork/art'
import { recordOf, sure } from '../kernel/sure'
import { partOf } from './lookup'

/** Parts from a start in painting order (parents before children, bottom to top); `enters` tells whose children count. */
function walkParts(puppet: Puppet, start: PartId, enters: (part: Part) => boolean): Part[] {
  const out: Part[] = []
  const stack = [start]
  while (stack.length > 0) {
    const part = partOf(puppet, sure(stack.pop()))
    out.push(part)
    if (enters(part)) for (const child of part.children.toReversed()) stack.push(child)
  }
  return out
}

/** Parts from a start in painting order (parents before children, bottom to top). */
export const partsBelow = (puppet: Puppet, start: PartId): Part[] => walkParts(puppet, start, () => true)

/** Parts from a start that are drawn by themselves: what is in a merged group is not. */
export const drawnParts = (puppet: Puppet, start: PartId): Part[] => walkParts(puppet, start, (part) => part.merged === null)

/** The way from the root down to a part, the part included. */
export function partPath(puppet: Puppet, part: PartId): Part[] {
  const out: Part[] = []
  for (let id: PartId | null = part; id !== null; id = partOf(puppet, id).parent) out.push(partOf(puppet, id))
  return out.reverse()
}

/** Whether a part is another one or lies in it. */
export const isWithinPart = (puppet: Puppet, part: PartId, ancestor: PartId): boolean =>
  partPath(puppet, part).some((p) => p.id === ancestor)

/** Those of some parts that are in none of the others. */
export const topmostParts = (puppet: Puppet, parts: readonly PartId[]): PartId[] =>
  parts.filter((id) => !parts.some((other) => other !== id && isWithinPart(puppet, id, other)))

/** The innermost part that all of some parts are in; a part is not in itself. */
export function commonGroup(puppet: Puppet, parts: readonly PartId[]): PartId {
  const paths = parts.map((id) => partPath(puppet, id).slice(0, -1))
  const shared = (paths[0] ?? []).filter(({ id }) => paths.every((path) => path.some((p) => p.id === id)))
  return shared.at(-1)?.id ?? puppet.root
}

/** Maps the part's own space to the canvas at rest: the product of the homes from the root down. */
export function restMatrix(puppet: Puppet, part: PartId): Affine {
  return partPath(puppet, part).reduce<Affine>((m, p) => multiply(m, placementMatrix(p.home, p.pivot)), IDENTITY)
}

/** The drawing that a part shows in a view (the shown one unless told otherwise), the outline of its picture, or null. */
export function drawingOf(puppet: Puppet, part: Part, view = puppet.view): Drawing | null {
  const picture = pictureOf(puppet, part, view)
  if (picture) return outlineOf(picture)
  const id = part.art[view]
  return id === undefined ? null : (drawingBy(puppet, id) ?? null)
}

/** Drawings with those that they repeat as patterns, and so on. */
export function withPatterns(puppet: Puppet, drawings: Iterable<DrawingId>): Set<DrawingId> {
  const out = new Set<DrawingId>()
  const stack = [...drawings]
  while (stack.length > 0) {
    const id = sure(stack.pop())
    const drawing = puppet.drawings[id]
    if (!drawing || out.has(id)) continue
    out.add(id)
    for (const { ink, line } of drawing.shapes)
      for (const paint of [ink?.paint, line?.paint]) if (paint?.kind === 'pattern') stack.push(paint.drawing)
  }
  return out
}

/** Ids of all artwork that a part holds: in its views, merged, and as it was before it became a sheet. */
export const artworkOf = ({ art, merged, sheet }: Part): string[] => [
  ...Object.values(art),
  ...(merged === null ? [] : [merged]),
  ...Object.values(sheet?.whole ?? {}),
]

/** Drawings that some part shows, patterns included. */
export const drawingsInUse = (puppet: Puppet): Set<DrawingId> => withPatterns(puppet, Object.values(puppet.parts).flatMap(artworkOf))

/** Pictures that some part shows, those of merged groups included. */
export const picturesInUse = (puppet: Puppet): Set<PictureId> => new Set(Object.values(puppet.parts).flatMap(artworkOf))

/** Hashes of everything that a puppet needs besides its document: its pictures, and the sounds of its clips. */
export function assetsOf(puppet: Puppet): Set<AssetHash> {
  const out = paintedAssetsOf(puppet)
  for (const { sounds } of puppet.clips) for (const { asset } of sounds) out.add(asset)
  return out
}

/** Hashes of the raster pictures that a puppet shows, its drawings are painted with, and it is compared with. */
export function paintedAssetsOf(puppet: Puppet): Set<AssetHash> {
  const out = new Set<AssetHash>(Object.values(puppet.pictures).map((p) => p.asset))
  if (puppet.reference) out.add(puppet.reference.asset)
  for (const drawing of Object.values(puppet.drawings)) addPaintedWith(drawing, out)
  return out
}

function addPaintedWith({ shapes }: Drawing, out: Set<AssetHash>): void {
  for (const { ink, line } of shapes) for (const paint of [ink?.paint, line?.paint]) if (paint?.kind === 'picture') out.add(paint.asset)
}

/** Hashes of the raster pictures that some parts show in the shown view, with all in them and what masks them. */
export function assetsOfParts(puppet: Puppet, parts: readonly PartId[]): Set<AssetHash> {
  const shown = new Set<Part>()
  for (const stack = [...parts]; stack.length > 0;)
    for (const part of partsBelow(puppet, sure(stack.pop()))) {
      if (shown.has(part)) continue
      shown.add(part)
      stack.push(...part.masks.map((m) => m.shape))
    }
  const art = [...shown].flatMap((p) => p.merged ?? p.art[puppet.view] ?? [])
  const out = new Set(art.flatMap((id) => pictureBy(puppet, id)?.asset ?? []))
  const drawn = art.flatMap((id) => drawingBy(puppet, id)?.id ?? [])
  for (const id of withPatterns(puppet, drawn)) addPaintedWith(recordOf(puppet.drawings, id), out)
  return out
}

/** Bounds of a drawing under a map, lines included with half their width. */
export function drawingBounds(drawing: Drawing, m: Affine = IDENTITY): Bounds {
  const out = emptyBounds()
  const scale = Math.sqrt(Math.abs(m[0] * m[3] - m[1] * m[2]))
  for (const shape of drawing.shapes) {
    const half = shape.line ? (shape.line.width / 2) * scale : 0
    for (const path of shape.paths) unite(out, pathBounds(mapPath(path, m)), half)
  }
  return out
}

/** Bounds on the canvas, at rest, of a part and all in it; null where it shows nothing. */
export function restBounds(puppet: Puppet, part: PartId): Bounds | null {
  const out = emptyBounds()
  for (const p of drawnParts(puppet, part)) {
    const picture = pictureOf(puppet, p)
    const drawing = picture ? null : drawingOf(puppet, p)
    if (picture) unite(out, pictureBounds(picture, restMatrix(puppet, p.id)))
    else if (drawing) unite(out, drawingBounds(drawing, restMatrix(puppet, p.id)))
  }
  return isEmpty(out) ? null : out
}

/** The pivot of a part on the canvas at rest. */
export const restPivot = (puppet: Puppet, part: PartId): Vec => apply(restMatrix(puppet, part), partOf(puppet, part).pivot)

/** Parts by which others are masked. */
export const maskingParts = (puppet: Puppet): ReadonlySet<PartId> =>
  new Set(Object.values(puppet.parts).flatMap((p) => p.masks.map((m) => m.shape)))

/** A part with its original and all their twins. */
export function twinsOf(puppet: Puppet, part: string): Part[] {
  const origin = (id: string): string => {
    const of = puppet.parts[id]?.twin?.of
    return of === undefined ? id : origin(of)
  }
  const first = origin(part)
  return Object.values(puppet.parts).filter((p) => origin(p.id) === first)
}
