/** Joints that a puppet seems to have: from bones where there are some, else from parts that overlap or run beside each other. */
import type { Puppet } from '../puppet/schema'
import type { PartId } from '../kernel/ids'
import { drawingOf, drawnParts, isWithinPart, partsBelow, restMatrix } from '../parts/tree'
import { areaOf, combine } from '../maths/geometry/booleans'
import { emptyBounds, include, type Bounds } from '../maths/geometry/bounds'
import { flatten, mapPath } from '../maths/geometry/path'
import { distanceToPolyline, gapBetween, isWithin } from '../maths/geometry/polyline'
import { boneOf } from '../bones/lookup'
import { breadthAcross, roomAt, type Rims } from '../maths/geometry/breadth'
import { proposeDisc, toArea } from './proposeDisc'
import type { Bone } from '../bones/records'
import type { Joint } from './records'
import { bonesInOrder } from '../bones/tree'
import { bindHolder, bonesOfBind } from '../binds/tree'
import { nth, sure } from '../kernel/sure'

/** A joint that was found in the artwork, and how sure that is. */
export type ProposedJoint = Omit<Joint, 'id' | 'inViews'>

/** Distance of polylines from curves, canvas px: joints are a matter of pixels. */
const TOLERANCE = 0.5

interface Piece {
  readonly part: PartId
  readonly rims: Rims
  readonly box: Bounds
  /** Place in the painting order. */
  readonly order: number
}

/** Outlines of all that is inked in a part, as polylines on the canvas at rest. */
export function rimsOf(puppet: Puppet, part: PartId): Rims {
  return drawnParts(puppet, part).flatMap((p) => {
    const map = restMatrix(puppet, p.id)
    const shapes = drawingOf(puppet, p)?.shapes ?? []
    return shapes.filter((s) => s.ink).flatMap((s) => s.paths.map((path) => flatten(mapPath(path, map), TOLERANCE)))
  })
}

/** All joints that a puppet seems to have and that are not made yet. */
export function proposeJoints(puppet: Puppet): ProposedJoint[] {
  const pieces = piecesOf(puppet)
  const found = Object.values(puppet.parts).some((p) => p.bind) ? fromBones(puppet, pieces) : fromOverlaps(puppet, pieces)
  return found.filter(
    (j) => !Object.values(puppet.joints).some((k) => [k.under, k.over].includes(j.under) && [k.under, k.over].includes(j.over)),
  )
}

/** Drawn parts that could end at a joint: visible, and not only a line. */
function piecesOf(puppet: Puppet): Piece[] {
  const order = new Map(partsBelow(puppet, puppet.root).map((p, i) => [p.id, i]))
  return drawnParts(puppet, puppet.root)
    .filter((p) => p.visible && drawingOf(puppet, p))
    .map((p) => {
      const rims = rimsOf(puppet, p.id)
      const box = emptyBounds()
      for (const rim of rims) for (let i = 0; i < rim.length; i += 2) include(box, rim[i]!, rim[i + 1]!)
      return { part: p.id, rims, box, order: sure(order.get(p.id)) }
    })
    .filter((piece) => piece.rims.length > 0)
}

const isNear = (a: Bounds, b: Bounds, reach: number): boolean =>
  a.minX - reach <= b.maxX && b.minX - reach <= a.maxX && a.minY - reach <= b.maxY && b.minY - reach <= a.maxY

/** Bones that move a part, whole or among others. */
const carriers = (puppet: Puppet, part: PartId): readonly string[] => {
  const bind = bindHolder(puppet, part)?.bind
  return bind ? bonesOfBind(bind) : []
}

/** Where a bone hangs from another one: the pair of their parts that both lie about the bone's start. */
function fromBones(puppet: Puppet, pieces: readonly Piece[]): ProposedJoint[] {
  const ofBone = new Map<string, Piece[]>()
  for (const piece of pieces) {
    for (const bone of carriers(puppet, piece.part)) ofBone.set(bone, [...(ofBone.get(bone) ?? []), piece])
  }
  return bonesInOrder(puppet).flatMap((bone) => {
    if (bone.parent === null) return []
    const { x, y } = bone.start
    const depth = ({ rims }: Piece): number =>
      Math.max(...rims.map((rim) => (isWithin([rim], x, y, 'evenodd') ? 1 : -1) * distanceToPolyline(rim, true, x, y)))
    // Of pieces that all lie there the topmost is the one that is seen.
    const deepest = (list: readonly Piece[]): { piece: Piece; depth: number } | null =>
      list
        .map((piece) => ({ piece, depth: depth(piece) }))
        .sort(
          (a, b) => Number(b.depth > 0) - Number(a.depth > 0) || (a.depth > 0 ? b.piece.order - a.piece.order : b.depth - a.depth),
        )[0] ?? null
    const own = deepest(ofBone.get(bone.id) ?? [])
    const above = deepest(ofBone.get(bone.parent) ?? [])
    // One of them may begin a little beside the pivot, but not both.
    const slack = Math.max(6, SLACK * Math.hypot(bone.end.x - x, bone.end.y - y))
    if (
      !own ||
      !above ||
      own.piece.part === above.piece.part ||
      Math.max(own.depth, above.depth) <= 0 ||
      Math.min(own.depth, above.depth) < -slack
    )
      return []
    const radius = radiusAcross(puppet, own.piece.rims, above.piece.rims, bone)
    return [jointOf(own.piece, above.piece, bone.start, Math.max(LEAST_RADIUS, radius))]
  })
}

/**
 * Radius of the round end at which a piece turns with its bone: half its breadth across the bone there, or that of the piece it hangs
 * from where that is slimmer, and nowhere outside of what both show.
 */
export function radiusAcross(puppet: Puppet, own: Rims, above: Rims, bone: Bone): number {
  const parent = bone.parent === null ? bone : boneOf(puppet, bone.parent)
  const room = roomAt([own, above], bone.start)
  const radius = Math.min(breadthAcross(own, bone, bone.start), breadthAcross(above, parent, bone.start), room > 0 ? room : Infinity)
  return Number.isFinite(radius) ? radius : LEAST_RADIUS
}

const LEAST_RADIUS = 2
/** How far from the pivot the second piece of a joint may begin, as a share of the bone's length. */
const SLACK = 0.2

const jointOf = (a: Piece, b: Piece, at: Joint['at'], radius: number): ProposedJoint => {
  const [under, over] = a.order < b.order ? [a, b] : [b, a]
  return { under: under.part, over: over.part, at: { x: round(at.x), y: round(at.y) }, radius: round(radius) }
}

const round = (v: number): number => Math.round(v * 10) / 10

/** Share of the smaller piece up to which an overlap is a joint; with more one lies on the other. */
const MOST_OVERLAP = 0.35
const BESIDE = 3

/** Parts that overlap a little, or were cut apart and lie beside each other. */
function fromOverlaps(puppet: Puppet, pieces: readonly Piece[]): ProposedJoint[] {
  const areas = pieces.map((p) => toArea(p.rims))
  const sizes = areas.map(areaOf)
  const out: ProposedJoint[] = []
  for (let i = 0; i < pieces.length; i++)
    for (let j = i + 1; j < pieces.length; j++) {
      const [a, b] = [nth(pieces, i), nth(pieces, j)]
      if (!isNear(a.box, b.box, BESIDE) || isWithinPart(puppet, a.part, b.part) || isWithinPart(puppet, b.part, a.part)) continue
      const shared = areaOf({ paths: combine(nth(areas, i), nth(areas, j), 'intersect'), rule: 'nonzero' })
      if (shared > MOST_OVERLAP * Math.min(sizes[i]!, sizes[j]!)) continue
      if (shared < 1 && gapBetween(a.rims, b.rims) > BESIDE) continue
      const disc = proposeDisc(a.rims, b.rims)
      if (disc) out.push(jointOf(a, b, disc.centre, disc.radius))
    }
  return out
}
