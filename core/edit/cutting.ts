/** Commands that send pieces of artwork to parts. What is cut is worked out before, by core/artwork; here it lands. */
import { current } from 'immer'
import { z } from 'zod'
import { PartId, ViewId } from '../document/ids'
import { newPart } from '../document/new'
import { Drawing, Name, Picture, type Affine, type Bind, type Part, type Path, type Puppet, type Shape } from '../document/schema'
import { restMatrix } from '../document/tree'
import { determinant, invert, multiply } from '../geometry/affine'
import { mapPath } from '../geometry/path'
import { command, EditError } from './command'
import { insertAt, partOf } from './lookup'

/** A drawing or a picture. */
const Artwork = z.union([z.object({ drawing: Drawing }), z.object({ picture: Picture })])
export type ArtPiece = z.infer<typeof Artwork>

/**
 * Sends a piece of a part's artwork to a part: a new one right above the source, in the same place, bound as the
 * source is, or one that exists, whose drawing gets the shapes on top. `rest` is what the source keeps of its own; null
 * where it keeps everything.
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
      z.object({ kind: z.literal('part'), part: PartId }),
    ]),
  }),
  (puppet, { source, view, piece, rest, to }) => {
    const from = partOf(puppet, source)
    if (from.art[view] === undefined) throw new EditError(`"${from.name}" shows nothing in this view.`)
    if (rest) keepRest(puppet, from, view, rest)
    if (to.kind === 'part') return addTo(puppet, from, partOf(puppet, to.part), view, piece)
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
  const art = from.art[view]!
  const kept = 'drawing' in rest ? rest.drawing.id : rest.picture.id
  if (kept !== art) throw new EditError(`What is left of "${from.name}" has to stay in its own artwork.`)
  if ('drawing' in rest) puppet.drawings[art] = rest.drawing
  else puppet.pictures[art] = rest.picture
}

function fileArt(puppet: Puppet, piece: ArtPiece): string {
  const [records, art] = 'drawing' in piece ? [puppet.drawings, piece.drawing] : [puppet.pictures, piece.picture]
  if (records[art.id]) throw new EditError(`There is already artwork "${art.id}".`)
  ;(records as Record<string, unknown>)[art.id] = art
  return art.id
}

function addTo(puppet: Puppet, from: Part, target: Part, view: string, piece: ArtPiece): void {
  const kind = 'drawing' in piece ? 'drawing' : 'picture'
  if (target.id === from.id) throw new EditError('A piece cannot be sent to the part from which it is cut.')
  if (target.content.kind !== kind) throw new EditError(`"${target.name}" is a ${target.content.kind}; this piece is a ${kind}.`)
  const there = target.art[view]
  const place = placeIn(puppet, from, target)
  if (there === undefined && 'drawing' in piece) {
    target.art[view] = fileArt(puppet, { drawing: mappedDrawing(piece.drawing, place, 0, 0) })
  } else if (there === undefined) {
    if (!isShift(place))
      throw new EditError(`"${target.name}" is turned or scaled against "${from.name}"; a picture cannot be put into it.`)
    const { picture } = piece as { picture: Picture }
    target.art[view] = fileArt(puppet, { picture: shifted(picture, place[4], place[5]) })
  } else if ('drawing' in piece) {
    const known = puppet.drawings[there]!
    const paths = known.shapes.flatMap((s) => s.paths)
    const firstId = 1 + Math.max(-1, ...paths.flatMap((p) => p.ids))
    const firstShape = 1 + Math.max(-1, ...known.shapes.map((s) => s.id))
    known.shapes.push(...mappedDrawing(piece.drawing, place, firstId, firstShape).shapes)
  } else throw new EditError(`"${target.name}" shows a picture already; send the piece to a new part.`)
}

/** The map from a part's space to another part's. */
function placeIn(puppet: Puppet, from: Part, target: Part): Affine {
  const back = invert(restMatrix(puppet, target.id))
  if (!back) throw new EditError(`"${target.name}" is flattened to a line, nothing can be put into it.`)
  return multiply(back, restMatrix(puppet, from.id))
}

const isShift = (m: Affine): boolean => [m[0] - 1, m[1], m[2], m[3] - 1].every((v) => Math.abs(v) < 1e-9)

function shifted(picture: Picture, dx: number, dy: number): Picture {
  const vertices = picture.mesh.vertices.map((v, i) => v + (i % 2 === 0 ? dx : dy))
  return { ...picture, x: picture.x + dx, y: picture.y + dy, mesh: { ...picture.mesh, vertices } }
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
