/** Commands that send pieces of artwork to parts. What is cut is worked out before, by core/artwork; here it lands. */
import { current } from 'immer'
import { z } from 'zod'
import { PartId, ViewId, type ArtId } from '../kernel/ids'
import { freePointId, freeShapeId } from '../artwork/numbering'
import { Drawing, Picture, type Path, type Shape } from '../artwork/records'
import { Name, type Affine, type Vec } from '../kernel/numbers'
import type { Part, Puppet } from '../puppet/schema'
import { pictureBounds } from '../parts/pictures'
import { drawingBounds, restMatrix } from '../parts/tree'
import { determinant, IDENTITY, invert, multiply, placementOf } from '../maths/geometry/affine'
import type { Bounds } from '../maths/geometry/bounds'
import { mapPath } from '../maths/geometry/path'
import { insertAt, partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newPart } from '../parts/new'
import type { Bind } from '../binds/records'
import { drawingBy, pictureBy } from '../artwork/art'
import { recordOf, sure } from '../kernel/sure'

/** A drawing or a picture. */
export const Artwork = z.union([z.object({ drawing: Drawing }), z.object({ picture: Picture })])
export type ArtPiece = z.infer<typeof Artwork>

/**
 * Sends a piece of a part's artwork to a part: a new one right above the source, in the same place, bound as the
 * source is, or one that exists, whose drawing gets the shapes on top; a picture gets the pixels, for which `joined` is
 * the picture with the piece in it. `rest` is what the source keeps of its own; null where it keeps everything.
 */
export const sendPiece = command(
  'cut.send',
  'Cut',
  z.object({
    source: PartId,
    view: ViewId,
    piece: Artwork,
    rest: Artwork.nullable(),
    to: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('new'), id: PartId, name: Name, role: z.string().max(80).nullable() }),
      z.object({ kind: z.literal('part'), part: PartId, joined: Picture.optional() }),
    ]),
  }),
  (puppet, { source, view, piece, rest, to }) => {
    const from = partOf(puppet, source)
    if (from.art[view] === undefined) throw new EditError(`"${from.name}" shows nothing in this view.`)
    if (rest) keepRest(puppet, from, view, rest)
    if (to.kind === 'part') return addTo(puppet, from, partOf(puppet, to.part), view, piece, to.joined)
    if (puppet.parts[to.id]) throw new EditError(`There is already a part "${to.id}".`)
    const made = newPart(to.id, to.name, { kind: 'drawing' in piece ? 'drawing' : 'picture' })
    made.home = { ...from.home }
    made.pivot = { ...from.pivot }
    made.bind = from.bind ? (current(from).bind as Bind) : null
    made.role = to.role
    made.art = { [view]: fileArt(puppet, piece) }
    made.parent = from.parent ?? puppet.root
    puppet.parts[made.id] = made
    const siblings = partOf(puppet, made.parent).children
    insertAt(siblings, made.id, siblings.indexOf(source) + 1)
  },
)

function keepRest(puppet: Puppet, from: Part, view: string, rest: ArtPiece): void {
  const art = recordOf(from.art, view)
  const kept = 'drawing' in rest ? rest.drawing.id : rest.picture.id
  if (kept !== art) throw new EditError(`What is left of "${from.name}" has to stay in its own artwork.`)
  if ('drawing' in rest) puppet.drawings[rest.drawing.id] = rest.drawing
  else puppet.pictures[rest.picture.id] = rest.picture
}

/** Files new artwork under its id. */
export function fileArt(puppet: Puppet, piece: ArtPiece): ArtId {
  const { id } = 'drawing' in piece ? piece.drawing : piece.picture
  if (drawingBy(puppet, id) ?? pictureBy(puppet, id)) throw new EditError(`There is already artwork "${id}".`)
  if ('drawing' in piece) puppet.drawings[piece.drawing.id] = piece.drawing
  else puppet.pictures[piece.picture.id] = piece.picture
  return id
}

function addTo(puppet: Puppet, from: Part, target: Part, view: string, piece: ArtPiece, joined?: Picture): void {
  const kind = 'drawing' in piece ? 'drawing' : 'picture'
  if (target.id === from.id) throw new EditError('A piece cannot be sent to the part from which it is cut.')
  if (target.content.kind !== kind) throw new EditError(`"${target.name}" is a ${target.content.kind}; this piece is a ${kind}.`)
  const there = target.art[view]
  if (there === undefined) {
    // Nothing of it is in this view yet: it comes to lie as its source does.
    const pivot = pivotAlong(puppet, target, view, boundsOf(piece))
    target.home = placementOf(placeIn(puppet, from, target.parent), pivot)
    target.pivot = pivot
    target.art[view] = fileArt(puppet, piece)
  } else if ('drawing' in piece) {
    const place = placeIn(puppet, from, target.id)
    const known = sure(drawingBy(puppet, there))
    const [firstId, firstShape] = [freePointId(known), freeShapeId(known)]
    known.shapes.push(...mappedDrawing(piece.drawing, place, firstId, firstShape).shapes)
  } else {
    if (joined?.id !== there) throw new EditError(`"${target.name}" shows a picture; it takes a piece as the picture with the piece in it.`)
    puppet.pictures[joined.id] = joined
  }
}

const boundsOf = (piece: ArtPiece): Bounds => ('drawing' in piece ? drawingBounds(piece.drawing) : pictureBounds(piece.picture, IDENTITY))

/** A part that shows something in a view for the first time turns at the same share of it as elsewhere. */
function pivotAlong(puppet: Puppet, target: Part, view: string, box: Bounds): Vec {
  const [known] = Object.entries(target.art).filter(([v]) => v !== view)
  const art = known && (drawingBy(puppet, known[1]) ?? pictureBy(puppet, known[1]))
  if (!art) return { ...target.pivot }
  const old = 'mesh' in art ? pictureBounds(art, IDENTITY) : drawingBounds(art)
  const pivot = target.inViews[known[0]]?.pivot ?? target.pivot
  const share = (at: number, min: number, max: number): number => (at - min) / Math.max(max - min, 1e-6)
  return {
    x: box.minX + share(pivot.x, old.minX, old.maxX) * (box.maxX - box.minX),
    y: box.minY + share(pivot.y, old.minY, old.maxY) * (box.maxY - box.minY),
  }
}

/** The map from a part's space to another part's, or to the canvas. Throws EditError where that is flattened to a line. */
export function placeIn(puppet: Puppet, from: Part, target: string | null): Affine {
  if (target === null) return restMatrix(puppet, from.id)
  const back = invert(restMatrix(puppet, target))
  if (!back) throw new EditError(`"${partOf(puppet, target).name}" is flattened to a line, nothing can be put into it.`)
  return multiply(back, restMatrix(puppet, from.id))
}

/** A drawing in another space; ids of points and shapes are moved up where they would be given twice. */
function mappedDrawing(drawing: Drawing, map: Affine, firstId: number, firstShape: number): Drawing {
  const scale = Math.sqrt(Math.abs(determinant(map)))
  const path = (p: Path): Path => {
    const moved = mapPath(p, map)
    return { ...moved, ids: moved.ids.map((id) => id + firstId), ...(p.hidden && { hidden: p.hidden.map((id) => id + firstId) }) }
  }
  const shape = (s: Shape): Shape => ({
    ...s,
    id: s.id + firstShape,
    paths: s.paths.map(path),
    line: s.line && { ...s.line, width: s.line.width * scale },
  })
  return { ...drawing, shapes: drawing.shapes.map(shape) }
}
