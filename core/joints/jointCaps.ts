/** Caps of a joint in a puppet: which artwork ends at it, and what that artwork becomes. */
import type { PartId, ViewId } from '../kernel/ids'
import { pictureOf } from '../parts/pictures'
import type { Affine } from '../kernel/numbers'
import type { Drawing, Picture } from '../artwork/records'
import type { Part, Puppet } from '../puppet/schema'
import { drawingOf, drawnParts, restMatrix } from '../parts/tree'
import { apply, determinant, IDENTITY, invert } from '../maths/geometry/affine'
import { capDrawing, endsIn, outlineWidth, type Layering } from './caps'
import type { Disc } from '../maths/geometry/disc'
import { proposeDisc } from './proposeDisc'
import { rimsOf } from './proposeJoints'
import { roomAt } from '../maths/geometry/breadth'
import type { Joint } from './records'

/** Artwork that ends at a joint, in its part. */
export interface Ending {
  readonly part: Part
  readonly layering: Layering
  /** The joint's disc in the part's own space. */
  readonly disc: Disc
  /** Canvas px to one unit of the part's own space. */
  readonly scale: number
  readonly drawing: Drawing | null
  readonly picture: Picture | null
}

const scaleOf = (map: Affine): number => Math.sqrt(Math.abs(determinant(map))) || 1

function endingIn(puppet: Puppet, part: Part, joint: Disc, layering: Layering, view: ViewId): Ending {
  const map = restMatrix(puppet, part.id)
  const scale = scaleOf(map)
  const disc = { centre: apply(invert(map) ?? IDENTITY, joint.centre), radius: joint.radius / scale }
  const picture = pictureOf(puppet, part, view)
  return { part, layering, disc, scale, picture, drawing: picture ? null : drawingOf(puppet, part, view) }
}

/** Everything in a part that may end at a disc, the upper pieces first. */
const candidates = (puppet: Puppet, part: PartId): Part[] => drawnParts(puppet, part).reverse()

/** With less room than this, px, the pivot lies outside of the artwork, and its outlines say nothing about it. */
const LEAST_ROOM = 2

/** The two pieces of artwork that meet at a joint; null for a side that has nothing there. */
export function endingsOf(puppet: Puppet, joint: Joint, view: ViewId = puppet.view): { under: Ending | null; over: Ending | null } {
  // A round end never sticks out of what both pieces show at rest.
  const room = roomAt([rimsOf(puppet, joint.under), rimsOf(puppet, joint.over)], joint.at)
  const disc: Disc = { centre: joint.at, radius: room > LEAST_ROOM ? Math.min(room, joint.radius) : joint.radius }
  const side = (part: PartId, layering: Layering): Ending | null =>
    candidates(puppet, part)
      .map((p) => endingIn(puppet, p, disc, layering, view))
      .find((e) => (e.drawing ? endsIn(e.drawing, e.disc) : e.picture !== null && meetsPicture(e.picture, e.disc))) ?? null
  return { under: side(joint.under, 'under'), over: side(joint.over, 'over') }
}

const meetsPicture = ({ x, y, width, height, scale }: Picture, { centre, radius }: Disc): boolean =>
  centre.x > x - radius && centre.x < x + width * scale + radius && centre.y > y - radius && centre.y < y + height * scale + radius

/** Width of the line of the lower piece at a joint, canvas px; 0 without a line. */
export function jointLine(ending: Ending | null): number {
  return ending?.drawing ? outlineWidth(ending.drawing, ending.disc) * ending.scale : 0
}

/** Which pieces of a joint get a round end. */
export type CapPieces = 'both' | Layering

/** The endings of a joint that are to be rounded. */
export function cappedEndings(puppet: Puppet, joint: Joint, pieces: CapPieces): ReturnType<typeof endingsOf> {
  const { under, over } = endingsOf(puppet, joint)
  return { under: pieces === 'over' ? null : under, over: pieces === 'under' ? null : over }
}

/** Drawings with their round ends at a joint; what shows pictures is left to capPicture. */
export function cappedDrawings(puppet: Puppet, joint: Joint, pieces: CapPieces = 'both'): Drawing[] {
  const { under, over } = endingsOf(puppet, joint)
  const line = Math.max(jointLine(under), jointLine(over))
  const wanted = cappedEndings(puppet, joint, pieces)
  return [wanted.under, wanted.over].flatMap((ending) => {
    if (!ending?.drawing) return []
    const shapes = capDrawing(ending.drawing, ending.disc, ending.layering, line / ending.scale)
    return shapes ? [{ ...ending.drawing, shapes }] : []
  })
}

/** Where two parts could be joined, or null where they are nowhere near each other. */
export const proposeJoint = (puppet: Puppet, under: PartId, over: PartId): Disc | null =>
  proposeDisc(rimsOf(puppet, under), rimsOf(puppet, over))
